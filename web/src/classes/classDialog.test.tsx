import { cleanup, screen, waitFor } from '@testing-library/react';
import type { ClassPlan, ClassView } from '@wunsch/contract';
import { show, Wire } from '../testing/page.tsx';
import { idOf, ingredientId, SHELF } from '../testing/views.ts';
import { ClassDialog } from './ClassDialog.tsx';
import { readSweetness } from './sweetness.ts';

const RECIPES = [
  { id: idOf(71), name: 'Base 85', current: true },
  { id: idOf(72), name: 'Base 85 of last year', current: false },
];
const STOCK = [
  {
    id: idOf(81),
    material: 'chocolate',
    label: '',
    batchCode: 'VA-06',
    lotCode: null,
    recipeName: 'Dark 75',
    remainingMg: 8_000_000,
    onHold: false,
  },
  {
    id: idOf(82),
    material: 'chocolate',
    label: '',
    batchCode: 'NK-02',
    lotCode: null,
    recipeName: null,
    remainingMg: 3_000_000,
    onHold: true,
  },
  {
    id: idOf(83),
    material: 'bars',
    label: '',
    batchCode: 'TL-01',
    lotCode: null,
    recipeName: null,
    remainingMg: 3_000_000,
    onHold: false,
  },
];
const MOULDS = [{ id: idOf(61), name: 'Mini bars', cavities: 10, fillMg: 25_000, count: 4, active: true }];

const open = (of?: ClassView, { recipes = RECIPES as object[], stock = STOCK as object[] } = {}) => {
  const wire = new Wire()
    .has('/api/ingredients', SHELF)
    .has('/api/recipes', recipes)
    .has('/api/stock-items', stock)
    .has('/api/moulds', MOULDS);
  let closed = 0;
  const { user } = show(<ClassDialog of={of} onClose={() => (closed += 1)} />);
  return { wire, user, closed: () => closed, said: () => wire.sent.at(-1)!.body as ClassPlan };
};

test.each([
  ['80, 70, 60', [80, 70, 60]],
  ['80;70 60%', [80, 70, 60]],
  ['62,5; 70', [62.5, 70]],
  ['62,5, 70', [62.5, 70]],
  ['80,70,60', [80, 70, 60]],
  ['70 70', [70]],
  ['', null],
  ['dark', null],
  ['110', null],
  ['90 80 70 60 50 40 30 20 10', null],
])('shares typed as ‘%s’', (text, shares) => expect(readSweetness(text)).toEqual(shares));

afterEach(() => localStorage.clear());

test('what is missing is named one after the other, and then it is planned', async () => {
  const { wire, user, said, closed } = open();
  const plan = screen.getByRole('button', { name: 'Plan it' });
  expect(screen.getByText('Give it a name.')).toBeTruthy();
  await user.type(screen.getByLabelText('Name'), 'Bean to bar');
  expect(screen.getByText('Say when it begins.')).toBeTruthy();
  await user.type(screen.getByLabelText('Begins'), '2027-01-16T14:00');
  expect(screen.getByText('Choose the chocolate everyone begins from.')).toBeTruthy();
  expect(plan).toHaveProperty('disabled', true);
  await waitFor(() => expect(screen.queryByRole('option', { name: /VA-06/ })).toBeTruthy());
  // What is held, is no chocolate to pour, or is written no more, is not offered.
  expect(screen.queryByRole('option', { name: /NK-02|TL-01|last year/ })).toBeNull();
  await user.selectOptions(screen.getByLabelText('Chocolate everyone begins from'), `parcel:${idOf(81)}`);
  await user.click(plan);
  await waitFor(() => expect(closed()).toBe(1));
  expect(said()).toMatchObject({
    title: 'Bean to bar',
    startsAt: new Date('2027-01-16T14:00').toISOString(),
    minutes: 120,
    places: 8,
    base: { of: 'parcel', id: idOf(81) },
    sweetness: [80, 70, 60],
    state: 'planned',
  });
  expect(wire.sent[0]!.path).toMatch(/^\/api\/classes\/[^/]+$/);
});

test('a mould brings its fill; flavours are offered with a share, and taken away again', async () => {
  const { user, said, closed } = open();
  await user.type(screen.getByLabelText('Name'), 'Bars');
  await user.type(screen.getByLabelText('Begins'), '2027-01-16T14:00');
  await waitFor(() => expect(screen.queryByRole('option', { name: 'Mini bars' })).toBeTruthy());
  await user.selectOptions(screen.getByLabelText('Chocolate everyone begins from'), `recipe:${idOf(71)}`);
  await user.selectOptions(screen.getByRole('combobox', { name: /mould/i }), idOf(61));
  expect(screen.getByLabelText('Chocolate in a bar')).toHaveProperty('value', '25');
  const offer = screen.getByLabelText('Offer another');
  await user.selectOptions(offer, ingredientId('hazelnuts'));
  await user.selectOptions(screen.getByLabelText('Offer another'), ingredientId('salt'));
  const [nuts] = screen.getAllByLabelText('Share');
  await user.clear(nuts!);
  await user.type(nuts!, '12');
  await user.click(screen.getByRole('button', { name: /Do not offer .*salt/i }));
  await user.click(screen.getByRole('button', { name: 'Plan it' }));
  await waitFor(() => expect(closed()).toBe(1));
  expect(said()).toMatchObject({
    base: { of: 'recipe', id: idOf(71) },
    mouldId: idOf(61),
    barMg: 25_000,
    flavours: [{ ingredientId: ingredientId('hazelnuts'), percent: 12 }],
  });
});

test('no share of cacao, or a share of a flavour that is none, keeps it from being planned', async () => {
  const { wire, user } = open();
  await user.type(screen.getByLabelText('Name'), 'Bars');
  await user.type(screen.getByLabelText('Begins'), '2027-01-16T14:00');
  await waitFor(() => expect(screen.queryByRole('option', { name: 'Base 85' })).toBeTruthy());
  await user.selectOptions(screen.getByLabelText('Chocolate everyone begins from'), `recipe:${idOf(71)}`);
  const shares = screen.getByLabelText('Cacao to choose among, %');
  await user.clear(shares);
  await user.type(shares, 'sweet');
  expect(screen.getByText(/at least one share of cacao/)).toBeTruthy();
  expect(screen.getByRole('button', { name: 'Plan it' })).toHaveProperty('disabled', true);
  await user.clear(shares);
  await user.type(shares, '70');
  expect(screen.getByRole('button', { name: 'Plan it' })).toHaveProperty('disabled', false);
  const places = screen.getByLabelText('Places');
  await user.clear(places);
  await user.type(places, '600');
  expect(screen.getByRole('button', { name: 'Plan it' })).toHaveProperty('disabled', true);
  expect(wire.sent).toEqual([]);
});

test('what a recipe can have is offered, and what it cannot is said at once', async () => {
  const lines = [
    { ingredientId: ingredientId('nibs'), massMg: 7_000_000 },
    { ingredientId: ingredientId('cane-sugar'), massMg: 3_000_000 },
  ];
  const { user } = open(undefined, { recipes: [{ id: idOf(71), name: 'School 70', current: true, lines }] });
  const shares = screen.getByLabelText<HTMLInputElement>('Cacao to choose among, %');
  expect(shares.value).toBe('80, 70, 60');
  await waitFor(() => expect(screen.queryByRole('option', { name: 'School 70' })).toBeTruthy());
  await user.selectOptions(screen.getByLabelText('Chocolate everyone begins from'), `recipe:${idOf(71)}`);
  await waitFor(() => expect(shares.value).toBe('70, 60'));
  await user.clear(shares);
  await user.type(shares, '75, 60');
  expect(screen.getByText(/^75.%.*cannot be made.*at most 70\.0.%/)).toBeTruthy();
});

test('what bought chocolate can have is offered as well, by what it is made of', async () => {
  const milk = (key: string, massMg: number) => ({
    massMg,
    ingredient: { ...SHELF.find((i) => i.key === key)!, name: 'Milk 40' },
  });
  const composition = { parcelId: idOf(81), pricePerKg: 1100, unknown: ['Milk 40'] };
  const lines = [milk('liquor', 400_000), milk('cane-sugar', 600_000)];
  const { wire, user } = open();
  wire.has(`/api/compositions?of=${idOf(81)}`, [{ ...composition, lines }]);
  await user.selectOptions(
    await screen.findByLabelText('Chocolate everyone begins from'),
    await screen.findByRole('option', { name: /VA-06/ }),
  );
  await waitFor(() =>
    expect(screen.getByLabelText<HTMLInputElement>('Cacao to choose among, %').value).toBe('40'),
  );
});

test('where nothing is there to begin from, the ways to bought chocolate and to a recipe are shown', async () => {
  open(undefined, { recipes: [], stock: [] });
  const to = async (name: string) => (await screen.findByRole('link', { name })).getAttribute('href');
  expect(await to('Receive bought chocolate')).toBe('/beans?do=receive');
  expect(await to('Write a recipe')).toBe('/recipe/write');
});

test('what was typed waits for whoever leaves for the recipe, and can be begun anew', async () => {
  new Wire().has('/api/recipes', RECIPES).has('/api/ingredients', SHELF);
  const { user } = show(<ClassDialog onClose={() => undefined} />);
  await user.type(screen.getByLabelText('Name'), 'Saturday');
  const places = screen.getByLabelText('Places');
  await user.clear(places);
  await user.type(places, '5{Tab}');
  cleanup();
  const { user: back } = show(<ClassDialog onClose={() => undefined} />);
  expect(screen.getByLabelText('Name')).toHaveProperty('value', 'Saturday');
  expect(screen.getByLabelText('Places')).toHaveProperty('value', '5');
  await back.click(screen.getByRole('button', { name: 'Begin anew' }));
  expect(screen.getByLabelText('Name')).toHaveProperty('value', '');
  expect(screen.getByLabelText('Places')).toHaveProperty('value', '8');
  expect(screen.queryByRole('button', { name: 'Begin anew' })).toBeNull();
});
