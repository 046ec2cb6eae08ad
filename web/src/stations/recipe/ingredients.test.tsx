import { screen, waitFor } from '@testing-library/react';
import type { IngredientPut, IngredientRecord } from '@wunsch/contract';
import { show, Wire } from '../../testing/page.tsx';
import { ingredientId, SHELF } from '../../testing/views.ts';
import { IngredientForm } from './IngredientForm.tsx';
import IngredientsPage from './IngredientsPage.tsx';

const open = (ingredient: IngredientRecord | null) => {
  const wire = new Wire();
  let closed = 0;
  const { user } = show(<IngredientForm ingredient={ingredient} onClose={() => (closed += 1)} />);
  return { wire, user, said: () => wire.sent.at(-1)!.body as IngredientPut, closed: () => closed };
};
const sugar = SHELF.find((i) => i.id === ingredientId('cane-sugar'))!;

test('what labels call it is said by language; what is usual stands there already', async () => {
  const { wire, user, said, closed } = open(sugar);
  await user.click(screen.getByText('On labels'));
  const french = screen.getByLabelText('French');
  expect(french).toHaveProperty('placeholder', 'sucre de canne');
  await user.type(french, 'sucre de canne blond');
  await user.click(screen.getByRole('button', { name: 'Keep the ingredient' }));
  await waitFor(() => expect(closed()).toBe(1));
  expect(said()).toMatchObject({ name: sugar.name, labelNames: { fr: 'sucre de canne blond' } });
  expect(said().composition).toEqual(sugar.composition);
  expect(wire.sent[0]!.ifMatch).toBe(`"${sugar.version}"`);
});

test('what is left on the shelf stands there to be counted again, not what was once counted', async () => {
  const { user, said, closed } = open({
    ...sugar,
    stockMg: 25_000_000,
    shelfMg: 18_500_000,
    onHandMg: 43_500_000,
  });
  const shelf = screen.getByLabelText<HTMLInputElement>(/^On the shelf/);
  expect(shelf.value).toBe('18,500');
  await user.clear(shelf);
  await user.type(shelf, '18 kg{Tab}');
  await user.click(screen.getByRole('button', { name: 'Keep the ingredient' }));
  await waitFor(() => expect(closed()).toBe(1));
  expect(said().stockMg).toBe(18_000_000);
});

test('what else is in it changes old batches, and that is said; another product goes beside it under its own name', async () => {
  const { wire, user, said, closed } = open(sugar);
  expect(screen.queryByRole('button', { name: 'Add it as another' })).toBeNull();
  await user.click(screen.getByLabelText('sulphites'));
  expect(screen.getByText(/allergens of old batches change along/)).toBeTruthy();
  const add = screen.getByRole('button', { name: 'Add it as another' });
  // Two of one name could not be told apart on a scale.
  expect(add).toHaveProperty('disabled', true);
  await user.type(screen.getByLabelText('Name'), ' from a mill');
  await user.click(add);
  await waitFor(() => expect(closed()).toBe(1));
  expect(wire.sent[0]!.path).not.toContain(sugar.id);
  expect(wire.sent[0]!.ifMatch).toBeNull();
  expect(said()).toMatchObject({ name: `${sugar.name} from a mill`, allergens: ['sulphites'] });
  expect(said()).not.toHaveProperty('stockMg');
});

test('a new ingredient is kept once its parts add up to 100 g', async () => {
  const { wire, user, said, closed } = open(null);
  await user.type(screen.getByLabelText('Name'), 'Holunderblüten');
  const keep = screen.getByRole('button', { name: 'Keep the ingredient' });
  expect(keep).toHaveProperty('disabled', true);
  expect(screen.getByText(/0\.0|0/, { selector: 'legend span' }).textContent).toMatch('▲');
  const solids = screen.getByLabelText(/Other solids/);
  await user.clear(solids);
  await user.type(solids, '92{Tab}');
  expect(keep).toHaveProperty('disabled', true);
  const water = screen.getByLabelText(/Water/);
  await user.clear(water);
  await user.type(water, '8{Tab}');
  await user.type(screen.getByLabelText('German'), 'Holunderblüten');
  await user.click(keep);
  await waitFor(() => expect(closed()).toBe(1));
  expect(wire.sent).toHaveLength(1);
  expect(said()).toMatchObject({
    name: 'Holunderblüten',
    composition: { otherSolids: 92, water: 8, sugar: 0 },
    labelNames: { de: 'Holunderblüten' },
    strong: false,
  });
});

test('a sweetener states its polyols; a part that is more than its whole is not kept', async () => {
  const { wire, user, said, closed } = open(sugar);
  const type = async (label: string, text: string) => {
    await user.clear(screen.getByLabelText(label));
    await user.type(screen.getByLabelText(label), `${text}{Tab}`);
  };
  await type('of which sugars', '1');
  await type('of which polyols', '99.5');
  expect(screen.getByText('▲ “of which polyols” does not fit into “Carbohydrate”.')).toBeTruthy();
  await type('of which polyols', '98');
  await type('of them erythritol', '99.5');
  expect(screen.getByText(/“of them erythritol” does not fit into “of which polyols”/)).toBeTruthy();
  const keep = screen.getByRole<HTMLButtonElement>('button', { name: 'Keep the ingredient' });
  expect(keep.disabled).toBe(true);
  await type('of them erythritol', '40');
  await user.dblClick(keep);
  await waitFor(() => expect(closed()).toBe(1));
  expect(wire.sent).toHaveLength(1);
  expect(said().nutrition).toMatchObject({ sugars: 1, polyols: 98, erythritol: 40 });
});

test('a statement that was changed can be worked out again', async () => {
  const { user, said, closed } = open(sugar);
  const fat = screen.getByLabelText('Fat');
  await user.clear(fat);
  await user.type(fat, '60{Tab}');
  expect(screen.getByText(/come to more than 100 g/)).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Work it out from the composition' }));
  await user.click(screen.getByRole('button', { name: 'Keep the ingredient' }));
  await waitFor(() => expect(closed()).toBe(1));
  expect(said().nutrition).toBeNull();
});

test('an allergen its name or what it holds speaks of is asked about, and ticked at a tap', async () => {
  const { user, said, closed } = open(sugar);
  const name = screen.getByRole('textbox', { name: 'Name' });
  await user.clear(name);
  await user.type(name, 'Hazelnut sugar{Tab}');
  expect(screen.getByText('Its name or what it holds says: nuts.')).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Tick that' }));
  expect(screen.queryByRole('button', { name: 'Tick that' })).toBeNull();
  await user.click(screen.getByRole('button', { name: 'Keep the ingredient' }));
  await waitFor(() => expect(closed()).toBe(1));
  expect(said().allergens).toEqual(['nuts']);
});

test('the page tells what there is with its deliveries, what is wet, and nothing where nobody counts', async () => {
  const counted = { ...sugar, stockMg: 25_000_000, shelfMg: 18_500_000, onHandMg: 43_500_000, priceNow: 321 };
  const nibs = SHELF.find((i) => i.key === 'nibs')!;
  const milk = {
    ...sugar,
    id: 'fresh',
    name: 'Fresh milk',
    composition: { ...sugar.composition, water: 87 },
  };
  new Wire().has('/api/ingredients', [counted, milk, nibs]).has('/api/supplies', []);
  const { user } = show(<IngredientsPage />);
  const row = async (name: RegExp) => (await screen.findByRole('button', { name })).closest('tr')!;
  expect((await row(/^cane sugar$/i)).textContent).toMatch(/43\.50.kg/);
  // The last sack cost more than is written for sugar; nibs have the price of their beans.
  expect((await row(/^cane sugar$/i)).textContent).toMatch(/£3\.21.kgas delivered/);
  expect((await row(/^nibs$/i)).textContent).toContain('as its beans');
  expect((await row(/Fresh milk/)).textContent).toMatch(/87\.0 %.*wet/i);
  expect((await row(/Fresh milk/)).textContent).toMatch(/£1\.80.kg$/);
  await user.click(screen.getByRole('button', { name: 'Fresh milk' }));
  expect(screen.getByRole<HTMLInputElement>('textbox', { name: 'Name' }).value).toBe('Fresh milk');
});

test('whoever only looks reads it and changes nothing', async () => {
  new Wire().has('/api/ingredients', SHELF).has('/api/supplies', []);
  show(<IngredientsPage />, { role: 'viewer' });
  await screen.findByText(/^cane sugar$/i);
  expect(screen.queryByRole('button', { name: /cane sugar|Add an ingredient|Receive/i })).toBeNull();
});

test('what it was before stands below, newest first, in the words of the form', async () => {
  const {
    id: _,
    version: __,
    shelfMg: ___,
    onHandMg: ____,
    nextBestBefore: _____,
    priceNow: ______,
    ...facts
  } = sugar;
  const version = (seq: number, at: string, more: object) => ({
    seq,
    at,
    by: 'AK',
    facts: { ...facts, ...more },
  });
  const moist = { ...facts.composition, sugar: 99, water: 1 };
  new Wire().has(`/api/ingredients/${sugar.id}/history`, [
    version(1, '2026-01-10T09:00:00Z', { pricePerKg: 220 }),
    version(9, '2026-03-03T09:00:00Z', { pricePerKg: 260 }),
    version(12, '2026-03-04T09:00:00Z', { pricePerKg: 260 }),
    version(30, '2026-06-01T09:00:00Z', { pricePerKg: 260, composition: moist, allergens: ['milk'] }),
  ]);
  const { user } = show(<IngredientForm ingredient={sugar} onClose={() => undefined} />);
  await user.click(await screen.findByText('What it was before'));
  const rows = [...document.querySelectorAll('details ol > li')].map((li) =>
    li.textContent!.replace(/\u00a0/g, ' '),
  );
  // The third changed nothing.
  expect(rows).toHaveLength(3);
  expect(rows[0]).toMatch(/^1 Jun.* AK.*Sugar: [\d.]+ % → 99\.0 %/);
  expect(rows[0]).toMatch(/Water: .* → 1\.0 %/);
  expect(rows[0]).toMatch(/: — → milk/i);
  expect(rows[1]).toMatch(/^3 Mar.* AK.*Price: £2\.20.* → £2\.60/);
  expect(rows[2]).toMatch(/^10 Jan.* AK.*begun, £2\.20/);
});

test('what was never changed has nothing to tell', async () => {
  const { id: _, version: __, shelfMg: ___, onHandMg: ____, nextBestBefore: _____, ...facts } = sugar;
  new Wire().has(`/api/ingredients/${sugar.id}/history`, [
    { seq: 1, at: '2026-01-10T09:00:00Z', by: '', facts },
  ]);
  show(<IngredientForm ingredient={sugar} onClose={() => undefined} />);
  await new Promise((r) => setTimeout(r, 50));
  expect(screen.queryByText('What it was before')).toBeNull();
});
