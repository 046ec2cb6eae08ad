import { cleanup, screen, waitFor, within } from '@testing-library/react';
import type { BatchView, Recipe } from '@wunsch/contract';
import { show, Wire, type PageOptions } from '../../testing/page.tsx';
import { atStation, batchView, idOf, ingredientId, movement, SHELF, step } from '../../testing/views.ts';
import { useRefresh } from '../../shell/live.ts';
import RecipePage, { RecipeBook } from './RecipePage.tsx';

const RECIPE: Recipe = {
  id: idOf(50),
  name: 'Dark 72',
  number: 2,
  kind: 'dark',
  current: true,
  aimUm: 20,
  beansShare: 72,
  notes: '',
  createdAt: '2026-10-01T08:00:00Z',
  by: 'AK',
  lines: [
    { ingredientId: ingredientId('nibs'), massMg: 7_200_000 },
    { ingredientId: ingredientId('cane-sugar'), massMg: 2_800_000 },
  ],
} as never;

function open(view: BatchView, options: PageOptions = {}) {
  const wire = atStation(new Wire(), view)
    .has('/api/ingredients', SHELF)
    .has('/api/recipes', [RECIPE, { ...RECIPE, id: idOf(51), name: 'Milk 45' }]);
  const page = show(<RecipePage />, {
    route: '/recipe/:batchId',
    at: `/recipe/${view.batch.id}`,
    ...options,
  });
  return { ...page, wire };
}
const plain = (element: Element | null) => (element?.textContent ?? '').replace(/\u00a0/g, ' ');

/** A bowl with half the recipe’s nibs in it, and so much sugar. */
const bowl = (sugarMg: number) =>
  batchView({
    recipe: RECIPE,
    steps: [step('recipe')],
    movements: [
      movement('in', 3_600_000, { parcelId: idOf(30), material: 'nibs' }),
      ...(sugarMg > 0 ? [movement('in', sugarMg, { ingredientId: ingredientId('cane-sugar') })] : []),
    ],
  } as never);
const sugar = async () =>
  (await screen.findByText(/sugar/i, { selector: 'li span.font-semibold' })).closest('li')!;

test('what is to be weighed follows the nibs that are in the bowl', async () => {
  open(bowl(0));
  // 3.6 of 7.2 kg of nibs: half of everything.
  expect(plain(await sugar())).toMatch(/1\.40 kg/);
  expect((await sugar()).querySelector('svg')).toBeNull();
});

test('sugar out of a delivery is sugar: what is still to be weighed does not grow with it', async () => {
  const half = bowl(0);
  const from = {
    ingredientId: ingredientId('cane-sugar'),
    parcelId: idOf(31),
    material: 'ingredient',
  } as const;
  const sugarIn = movement('in', 500_000, { stepId: half.steps[0]!.id, ...from });
  open({ ...half, movements: [...half.movements, sugarIn] });
  expect(plain(await sugar())).toMatch(/500 g.*1\.40 kg/);
});

test('a bowl with chocolate of which nobody knows what is in it says so', async () => {
  open({ ...bowl(0), bowlUnknown: ['Gift bars'] });
  expect(await screen.findByText(/The sheet of Gift bars does not say all/)).toBeTruthy();
});

test('butter out of a lot of its own is the butter of the recipe', async () => {
  const butter = { ingredientId: ingredientId('cocoa-butter'), massMg: 800_000 };
  const withButter = { ...RECIPE, lines: [...RECIPE.lines, butter] };
  const half = bowl(0);
  const bought = { parcelId: idOf(33), material: 'cocoa butter', stepId: half.steps[0]!.id } as const;
  open({ ...half, recipe: withButter, movements: [...half.movements, movement('in', 400_000, bought)] });
  const row = (await screen.findByText('Cocoa butter', { selector: 'li span.font-semibold' })).closest('li')!;
  expect(plain(row)).toMatch(/400 g weighed, 400 g/);
  expect(row.querySelector('svg')).toBeTruthy();
});

test('liquor beside nibs is weighed off the shelf, by the nibs that are in', async () => {
  const of = (key: string, massMg: number) => ({ ingredientId: ingredientId(key), massMg });
  const lines = [of('nibs', 5_000_000), of('liquor', 1_000_000), of('cane-sugar', 4_000_000)];
  const half = bowl(0);
  const nibs = { ...half.movements[0]!, massMg: 2_500_000 };
  const { user, wire } = open({ ...half, recipe: { ...RECIPE, lines }, movements: [nibs] });
  expect(plain(await sugar())).toMatch(/2\.00 kg/);
  const liquor = (await screen.findByText('Cocoa liquor', { selector: 'li span.font-semibold' })).closest(
    'li',
  )!;
  expect(plain(liquor)).toMatch(/500 g/);
  await user.click(within(liquor).getByRole('button'));
  const dialog = within(await screen.findByRole('dialog'));
  await user.click(dialog.getAllByRole('button').find((b) => /weigh/i.test(b.textContent))!);
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]!.body).toMatchObject({ ingredientId: ingredientId('liquor'), massMg: 500_000 });
});

test('what was delivered can be weighed in, nibs and liquor too; what nobody has cannot', async () => {
  const shelf = SHELF.map((i) => (i.id === ingredientId('liquor') ? { ...i, onHandMg: 2_000_000 } : i));
  const { wire } = open(bowl(0));
  wire.has('/api/ingredients', shelf);
  const offered = () =>
    within(screen.getByLabelText('Another ingredient'))
      .getAllByRole('option')
      .map((o) => o.textContent);
  await waitFor(() => expect(offered()).toContain('Cocoa liquor'));
  expect(offered()).not.toContain('Nibs');
});

test('sugar by the gram beside kilos of nibs is asked about; a pinch of salt is not', async () => {
  const { wire, user } = open(bowl(0));
  const weigh = async (what: string, text: string) => {
    await user.selectOptions(await screen.findByLabelText('Another ingredient'), what);
    await user.click(screen.getByRole('button', { name: 'Weigh it in' }));
    await user.type(await screen.findByLabelText('Weight'), text);
  };
  await weigh('Cane sugar', '1.8');
  expect(screen.getByText(/hardly anything of/)).toBeTruthy();
  await user.click(screen.getByRole('button', { name: /^Did you mean 1[.]8/ }));
  await user.click(screen.getByRole('button', { name: /^Weigh cane sugar/i }));
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]!.body).toMatchObject({ massMg: 1_800_000 });
  await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
  await weigh('Sea salt', '3');
  expect(screen.queryByText(/hardly anything of/)).toBeNull();
});

test('a batch of bought liquor is weighed in as such, and its recipe begins with it', async () => {
  const lot = { ...batchView().lot, material: 'liquor', remainingMg: 5_000_000, nibFat: null };
  const { user } = open(batchView({ lot: { ...lot, sheet: null } } as never));
  expect(await screen.findByRole('button', { name: 'Weigh liquor in' })).toBeTruthy();
  expect(screen.queryByText(/nibs/i)).toBeNull();
  await user.click(screen.getByRole('button', { name: 'Write a recipe' }));
  const first = screen.getAllByLabelText<HTMLSelectElement>('Ingredient')[0]!;
  expect(first.selectedOptions[0]!.text).toBe('Cocoa liquor');
  expect(screen.getAllByLabelText<HTMLInputElement>('Weight')[0]!.value).toBe('5,000');
});

test('what would be taken from a delivery past its best before says so, until it is weighed in', async () => {
  const shelf = (day: string) =>
    SHELF.map((i) => (i.id === ingredientId('cane-sugar') ? { ...i, nextBestBefore: day } : i));
  const past = async (day: string, sugarMg = 0) => {
    const { wire, unmount } = open(bowl(sugarMg));
    wire.has('/api/ingredients', shelf(day));
    await waitFor(async () => expect(plain(await sugar())).toMatch(/kg/));
    const said = /past its best before, 3 Mar 2024/.test(plain(await sugar()));
    unmount();
    return said;
  };
  expect(await past('2024-03-03')).toBe(true);
  expect(await past('2199-03-03')).toBe(false);
  expect(await past('2024-03-03', 1_400_000)).toBe(false);
});

test('half of it is not all of it: no tick, and the scale waits for the rest', async () => {
  const { user, wire } = open(bowl(900_000));
  const row = await sugar();
  expect(plain(row)).toMatch(/900 g.*1\.40 kg/);
  expect(row.querySelector('svg')).toBeNull();
  await user.click(within(row).getByRole('button'));
  const dialog = within(await screen.findByRole('dialog'));
  const field = dialog.getByRole<HTMLInputElement>('textbox');
  expect(field.value).toMatch(/^500/);
  await user.click(dialog.getAllByRole('button').find((b) => /weigh/i.test(b.textContent))!);
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]!.body).toMatchObject({
    direction: 'in',
    ingredientId: ingredientId('cane-sugar'),
    massMg: 500_000,
  });
});

test('a few grams less than wanted is weighed in', async () => {
  open(bowl(1_385_000));
  expect((await sugar()).querySelector('svg')).toBeTruthy();
});

test('the bowl is done as one entry: a charge of all that is in it', async () => {
  const { user, wire } = open(bowl(1_400_000));
  await user.dblClick(await screen.findByRole('button', { name: 'The bowl is complete' }));
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]).toMatchObject({
    path: `/api/steps/${idOf(20)}/finished`,
    body: { made: [{ material: 'charge', massMg: null }], lost: [], remainder: null },
  });
});

test('what is in by a part is named where the bowl is done; what is not in at all may be meant for the grinder', async () => {
  const { unmount } = open(bowl(80_000));
  expect(plain(await screen.findByText(/Not all of it is in/))).toMatch(/Cane sugar 1\.32 kg/);
  unmount();
  open(bowl(1_400_000));
  await sugar();
  expect(screen.queryByText(/Not all of it is in/)).toBeNull();
});

test('beans that are in the bowl before there is a recipe can still be given one, chosen or written', async () => {
  const { user, wire } = open({ ...bowl(0), recipe: null, batch: { ...bowl(0).batch, recipeId: null } });
  await user.click(await screen.findByRole('button', { name: 'Write a recipe' }));
  // What is written begins with what is in there.
  const weights = await screen.findAllByLabelText<HTMLInputElement>('Weight');
  expect(weights[0]!.value).toBe('3,600');
  await user.click(screen.getByRole('button', { name: 'Write a recipe' }));
  await user.selectOptions(screen.getByRole('combobox', { name: 'Recipe' }), 'Milk 45 (version 2)');
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]).toMatchObject({
    path: `/api/batches/${idOf(10)}/facts`,
    body: { recipeId: idOf(51) },
  });
});

test('a recipe that was the wrong one is changed while the bowl is open', async () => {
  const { user, wire } = open(bowl(0));
  await sugar();
  expect(screen.queryByRole('combobox', { name: 'Recipe' })).toBeNull();
  await user.click(screen.getByRole('button', { name: 'Another recipe, or change it' }));
  await user.selectOptions(screen.getByRole('combobox', { name: 'Recipe' }), 'Milk 45 (version 2)');
  await waitFor(() => expect(wire.sent[0]).toMatchObject({ body: { recipeId: idOf(51) } }));
  await waitFor(() => expect(screen.queryByRole('combobox', { name: 'Recipe' })).toBeNull());
});

test('an empty bowl cannot be done', async () => {
  open(batchView({ recipe: RECIPE, steps: [step('recipe')] } as never));
  expect(
    (await screen.findByRole<HTMLButtonElement>('button', { name: 'The bowl is complete' })).disabled,
  ).toBe(true);
});

test('another recipe is chosen from the version on the page, and the rest of the batch stays as it is', async () => {
  const { user, wire } = open(batchView());
  await user.selectOptions(await screen.findByRole('combobox', { name: 'Recipe' }), 'Milk 45 (version 2)');
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]).toMatchObject({
    path: `/api/batches/${idOf(10)}/facts`,
    ifMatch: '"1"',
    body: { code: 'NKO-14', plannedMg: 12_000_000, recipeId: idOf(51), barMg: 60_000, route: null },
  });
});

test('who only looks can choose and weigh nothing', async () => {
  open(bowl(0), { role: 'viewer' });
  const row = await sugar();
  expect(within(row).getByRole('button').matches(':disabled')).toBe(true);
});

test('once the bowl is done the page leads on, and what could still go in is no longer the first thing to do', async () => {
  const done = {
    ...bowl(1_400_000),
    steps: [step('recipe', { status: 'closed', endedAt: '2026-11-26T09:00:00Z' })],
  };
  const next = { code: 'start', station: 'grind', massMg: 5_000_000, dueAt: null } as const;
  open({ ...done, next });
  const onwards = await screen.findByRole('link', { name: /Next: Grind/ });
  expect(onwards.getAttribute('href')).toBe(`/grind/${done.batch.id}`);
  expect(screen.getByRole('button', { name: 'Weigh nibs in' }).getAttribute('data-key')).toBeNull();
  cleanup();
  open({ ...done, steps: [], next: { ...next, station: 'recipe' } });
  expect((await screen.findByRole('button', { name: 'Weigh nibs in' })).getAttribute('data-key')).toBe('w');
  expect(screen.queryByRole('link', { name: /^Next:/ })).toBeNull();
});

test('what stands on the label is called as the label calls it', async () => {
  open(bowl(1_400_000));
  expect(plain((await screen.findByText(/^Ingredients:/)).closest('p'))).toMatch(
    /Ingredients: cocoa nibs, cane sugar\./,
  );
});

function Elsewhere() {
  const { refreshAll } = useRefresh();
  return <button onClick={refreshAll}>somebody else keeps a recipe</button>;
}

test('the book says there are none only once that is known; who writes goes on where somebody else keeps one', async () => {
  const wire = new Wire().has('/api/ingredients', SHELF).has('/api/recipes', [RECIPE]);
  const page = (
    <>
      <RecipeBook />
      <Elsewhere />
    </>
  );
  const { user } = show(page, { route: '/recipe/write', at: '/recipe/write' });
  expect(screen.queryByText('No recipes yet')).toBeNull();
  const name = await screen.findByLabelText<HTMLInputElement>('Name');
  await user.type(name, 'Harbour 68');
  wire.has('/api/recipes', [RECIPE, { ...RECIPE, id: idOf(52), name: 'Rum 60' }]);
  await user.click(screen.getByText('somebody else keeps a recipe'));
  await screen.findByRole('link', { name: 'Rum 60' });
  expect(name.isConnected).toBe(true);
  expect(name.value).toBe('Harbour 68');
});
