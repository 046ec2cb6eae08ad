import { screen, waitFor, within } from '@testing-library/react';
import { RecipePut } from '@wunsch/contract';
import { Wire, show, type PageOptions } from '../../testing/page.tsx';
import { idOf, ingredientId, SHELF } from '../../testing/views.ts';
import { RecipeWriter } from './RecipeWriter.tsx';

beforeEach(() => localStorage.clear());
const plain = (text: string | null) => (text ?? '').replace(/[\u00a0\u202f]/g, ' ');

async function write(
  options: PageOptions = {},
  more: { beansMg?: number; nibFat?: number } = {},
  machines: object[] = [],
) {
  const wire = new Wire().has('/api/ingredients', SHELF).has('/api/machines', machines);
  const saved: string[] = [];
  const page = show(<RecipeWriter from={null} onSaved={(id) => saved.push(id)} {...more} />, options);
  await screen.findByRole('heading', { name: /Write a recipe|Ein Rezept/ });
  return { ...page, wire, saved };
}
const weights = () => screen.getAllByLabelText<HTMLInputElement>('Weight');
const figures = () => plain(document.body.textContent);

test('it starts from the nibs there are, at 70 %', async () => {
  await write({}, { beansMg: 7_000_000 });
  expect(weights().map((w) => w.value)).toEqual(['7,000', '3,000']);
  expect(figures()).toMatch(/70\.0 %/);
});

test('another kind begins with what it is usually made of; what has been typed stays', async () => {
  const { user } = await write({}, { beansMg: 2_700_000 });
  const named = () =>
    screen.getAllByLabelText<HTMLSelectElement>('Ingredient').map((i) => i.selectedOptions[0]!.text);
  await user.selectOptions(screen.getByLabelText('Kind'), 'milk');
  expect(named()).toEqual(['Nibs', 'Cocoa butter', 'Cane sugar', 'Whole milk powder']);
  expect(weights().map((w) => w.value)).toEqual(['2,700', '1,800', '3,300', '2,200']);
  await user.selectOptions(screen.getByLabelText('Kind'), 'white');
  expect(named()).toEqual(['Cocoa butter', 'Cane sugar', 'Whole milk powder']);
  await user.clear(weights()[1]!);
  await user.type(weights()[1]!, '4000');
  await user.selectOptions(screen.getByLabelText('Kind'), 'dark');
  expect(named()).toEqual(['Cocoa butter', 'Cane sugar', 'Whole milk powder']);
  expect(weights()[1]!.value).toBe('4000');
});

describe('whether the bowl fits a grinder', () => {
  const grinder = (name: string, minMg: number | null, maxMg: number | null, kind = 'stone grinder') => ({
    id: idOf(name.length),
    name,
    station: 'grind',
    kind,
    minMg,
    maxMg,
    tool: null,
    active: true,
  });
  const two = [
    grinder('Otto', 8_000_000, 26_000_000),
    grinder('Ida', 2_000_000, 9_000_000),
    grinder('Mixer', 1_000_000, 60_000_000, 'conche or mixer'),
  ];

  test.each([
    [3_000_000, /fits Ida \(2\.00.kg to 9\.00.kg\)/],
    [14_000_000, /fits Otto/],
    [21_700_000, /above the usable maximum of Otto, 26\.00.kg/],
    [700_000, /below the usable minimum of Ida, 2\.00.kg/],
  ])('of %i mg of nibs', async (beansMg, said) => {
    await write({}, { beansMg }, two);
    expect(await screen.findByText(said)).toBeTruthy();
  });

  test('what is begun with does, where no nibs are there yet', async () => {
    await write({}, {}, [grinder('Ida', 500_000, 1_600_000)]);
    expect(await screen.findByText(/fits Ida/)).toBeTruthy();
    expect(weights().map((w) => w.value)).toEqual(['1,120', '480']);
  });

  test('is not said where no grinder says what it takes', async () => {
    await write({}, { beansMg: 7_000_000 }, [grinder('Otto', null, null)]);
    expect(figures()).not.toMatch(/Otto/);
  });
});

test('every figure follows each weight while it is typed', async () => {
  const { user } = await write({}, { beansMg: 7_000_000 });
  await user.clear(weights()[1]!);
  await user.type(weights()[1]!, '1750');
  expect(figures()).toMatch(/80\.0 %/);
});

test('a wish is solved while typing, and taking it writes the weights', async () => {
  const { user } = await write({}, { beansMg: 6_810_000 });
  await user.type(screen.getAllByLabelText('at least')[0]!, '80');
  await user.type(screen.getAllByLabelText('at most')[0]!, '80');
  await user.click(await screen.findByRole('button', { name: 'Take these weights' }));
  // The nibs are fixed at what there is: sugar = 6.81 / 0.8 − 6.81 kg.
  expect(weights().map((w) => w.value)).toEqual(['6,810', '1,702.5']);
});

test('wishes that cannot be had together are named, each with how far it would have to give', async () => {
  const { user } = await write({}, { beansMg: 6_810_000, nibFat: 54 });
  await user.type(screen.getAllByLabelText('at least')[0]!, '80');
  await user.type(screen.getAllByLabelText('at most')[0]!, '80');
  await user.click(screen.getByRole('button', { name: 'Another wish' }));
  await user.selectOptions(screen.getAllByLabelText('Figure').at(-1)!, 'Fat');
  await user.type(screen.getAllByLabelText('at most').at(-1)!, '38');
  await screen.findByText(/These wishes cannot all be had together/);
  // 80 % of nibs at 54 % fat hold 43.2 % fat, whatever else is done.
  expect(figures()).toMatch(/Fat at most 38\.0 %: with the others kept, the least is 43\.2 %/);
});

test('at least above at most is said to be impossible as such', async () => {
  const { user } = await write();
  await user.type(screen.getAllByLabelText('at least')[0]!, '80');
  await user.type(screen.getAllByLabelText('at most')[0]!, '70');
  await screen.findByText(/At least is above at most/);
});

test('milk brings its allergen and its sold name along', async () => {
  const { user } = await write();
  await user.selectOptions(screen.getAllByLabelText('Ingredient')[1]!, ingredientId('whole-milk-powder'));
  const emphasised = [...document.querySelectorAll('.uppercase, [style*="uppercase"]')].map(
    (e) => e.textContent,
  );
  expect(emphasised.join(' ')).toMatch(/milk/i);
});

test('what it may be called stands before what it may not', async () => {
  await write();
  const names = [...document.querySelectorAll('li')].filter((li) =>
    /2000\/36\/EC/.test(li.textContent ?? ''),
  );
  const met = names.map((li) => !/not met/.test(li.textContent!));
  expect(names.length).toBeGreaterThan(2);
  expect(met[0]).toBe(true);
  expect(met.slice(1)).not.toContain(true);
});

test('what is kept is a recipe the server takes; half a recipe outlives a reload', async () => {
  const first = await write();
  await first.user.type(screen.getByLabelText('Name'), 'Seventy');
  first.unmount();
  const { user, wire, saved } = await write();
  expect(screen.getByLabelText<HTMLInputElement>('Name').value).toBe('Seventy');
  await user.click(screen.getByRole('button', { name: 'Keep this recipe' }));
  await waitFor(() => expect(saved).toHaveLength(1));
  expect(RecipePut.parse(wire.sent[0]!.body)).toMatchObject({
    name: 'Seventy',
    follows: null,
    lines: [
      { ingredientId: ingredientId('nibs'), massMg: 7_000_000 },
      { ingredientId: ingredientId('cane-sugar'), massMg: 3_000_000 },
    ],
  });
  expect(localStorage.length).toBe(0);
});

test('a spoon becomes a weight by the density of what is in it', async () => {
  const { user } = await write();
  await user.click(screen.getByRole('button', { name: 'Cane sugar by spoon or cup' }));
  const dialog = within(screen.getByRole('dialog'));
  await user.type(dialog.getByLabelText('Measure'), 'a bucket');
  expect(dialog.getByText(/Not a kitchen measure/)).toBeTruthy();
  await user.clear(dialog.getByLabelText('Measure'));
  await user.type(dialog.getByLabelText('Measure'), '2 cups');
  expect(plain(dialog.getByText(/about/).textContent)).toMatch(/about \d+ g, give or take \d+/);
  await user.click(dialog.getByRole('button', { name: 'Use this weight' }));
  const grams = Number(weights()[1]!.value.replace(',', ''));
  // Two cups of 240 to 250 mL at 0.85 g/mL.
  expect(grams).toBeGreaterThan(400);
  expect(grams).toBeLessThan(430);
});

test('a weight that makes no sense keeps the recipe from being written with what stood there before', async () => {
  const { user, wire, saved } = await write({}, { beansMg: 7_000_000 });
  await user.type(screen.getByLabelText('Name'), 'Seventy');
  await user.clear(weights()[1]!);
  await user.type(weights()[1]!, '3oo0');
  await user.click(screen.getByRole('button', { name: 'Keep this recipe' }));
  expect([wire.sent, saved]).toEqual([[], []]);
  expect(document.activeElement).toBe(weights()[1]);
  await user.clear(weights()[1]!);
  await user.type(weights()[1]!, '3000');
  await user.click(screen.getByRole('button', { name: 'Keep this recipe' }));
  await waitFor(() => expect(saved).toHaveLength(1));
});
