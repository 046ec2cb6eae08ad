import { screen, waitFor, within } from '@testing-library/react';
import { ClassView, type ClassHold } from '@wunsch/contract';
import { show, Wire, type PageOptions } from '../testing/page.tsx';
import { idOf } from '../testing/views.ts';
import { drawnFrom } from './classNames.ts';
import ClassPage from './ClassPage.tsx';

const [noor, ben, zoe] = [idOf(31), idOf(32), idOf(33)];
const [base, oldSugar, newSugar] = [idOf(41), idOf(42), idOf(43)];

const guest = (id: string, name: string, more: object = {}) => ({
  id,
  name,
  version: 2,
  code: 'ABCDEFGH2345',
  state: 'coming',
  came: null,
  bar: null,
  problem: null,
  findings: [],
  score: null,
  ...more,
});

const BAR = {
  baseMg: 84_000,
  sugarMg: 36_000,
  flavours: [],
  cacaoPercent: 70,
  sugarPercent: 30,
  fatPercent: 38,
  allergens: [],
  flow: 'pours',
  faults: [],
};

const COST = {
  parts: [
    { name: 'materials', amount: 1200 },
    { name: 'labour', amount: 8800 },
  ],
  total: 10_000,
  perHead: 5000,
  income: 9000,
  left: -1000,
  paysFrom: 3,
};

/** A class with three guests, one of whom is not coming; refuses what the server could not have sent. */
const classOf = (more: object = {}) =>
  ClassView.parse({
    title: 'Bean to bar in an evening',
    startsAt: '2026-12-04T17:00:00.000Z',
    minutes: 120,
    places: 8,
    price: 4500,
    base: { of: 'parcel', id: base },
    barMg: 30_000,
    barsEach: 4,
    sugarId: idOf(51),
    sweetness: [80, 70],
    show: ['sort', 'temper', 'weigh', 'mould'],
    id: idOf(30),
    version: 4,
    held: null,
    baseName: 'chocolate',
    sugarName: 'Cane sugar',
    offers: [],
    mostCacao: 89.96,
    problem: null,
    guests: [
      guest(noor, 'Noor', {
        allergies: ['nuts'],
        avoid: 'kiwi',
        cacaoPercent: 70,
        bar: BAR,
        findings: [{ allergen: 'nuts', where: 'table', others: [ben] }],
      }),
      guest(ben, 'Ben', { cacaoPercent: 80, bar: { ...BAR, faults: ['thick'] } }),
      guest(zoe, 'Zoe', { state: 'not-coming' }),
    ],
    needs: [
      {
        what: 'base',
        name: 'chocolate',
        massMg: 168_000,
        pieces: null,
        onHandMg: 5_000_000,
        parcels: [{ id: base, remainingMg: 5_000_000 }],
      },
      {
        what: 'sugar',
        name: 'Cane sugar',
        massMg: 72_000,
        pieces: null,
        onHandMg: 90_000,
        parcels: [
          { id: oldSugar, remainingMg: 50_000 },
          { id: newSugar, remainingMg: 40_000 },
        ],
      },
      { what: 'moulds', name: 'Mini', massMg: null, pieces: 1, onHandMg: null, parcels: [] },
    ],
    sheet: {
      rows: [
        { step: 'sort', from: 0, to: 15, unattended: false },
        { step: 'temper', from: 15, to: 45, unattended: false },
      ],
      ends: 110,
      over: 0,
      spare: 10,
      before: [{ what: 'base-melted', hoursBefore: 14, massMg: 168_000 }],
    },
    cost: COST,
    costFull: { ...COST, left: 12_000 },
    unpriced: [],
    traces: [],
    address: 'https://row.example/class/',
    ...more,
  });

async function open(more: object = {}, options: PageOptions = {}) {
  const of = classOf(more);
  const wire = new Wire().has(`/api/classes/${of.id}`, of);
  const page = show(<ClassPage />, { route: '/classes/:classId', at: `/classes/${of.id}`, ...options });
  await screen.findByRole('heading', { level: 1, name: of.title });
  return { ...page, wire, of };
}
const plain = (element: Element | null) => (element?.textContent ?? '').replace(/\u00a0/g, ' ');
const rowOf = (name: string) => screen.getByRole('row', { name: new RegExp(`^${name}`) });

/** What stands beside a name among what the class takes. */
const takes = (name: string) => plain(screen.getAllByText(name).at(-1)!.closest('li'));

test('what is bought for is told with every place taken, and of it what those who come need', async () => {
  const { needs } = classOf();
  const [chocolate, sugar, moulds] = needs;
  await open({
    needs: [
      { ...chocolate, fullMg: 744_000 },
      { ...sugar, fullMg: 216_000 },
      { ...moulds, fullPieces: 2 },
      {
        what: 'beans',
        name: 'dry beans',
        massMg: 320_000,
        fullMg: 1_280_000,
        pieces: null,
        onHandMg: 0,
        parcels: [],
      },
    ],
  });
  expect(takes('Chocolate')).toMatch(/744 g5\.00 kg here168 g of it for the 2 who come/);
  // What is there is enough for those who come, and not for every place.
  expect(takes('Cane sugar')).toMatch(/216 g▲ 126 g short72 g of it/);
  expect(takes('Beans to sort and crack')).toMatch(/1\.28 kg▲ 1\.28 kg short320 g of it/);
  expect(takes('Mini')).toMatch(/2 moulds/);
});

test('where every place is taken, or it has been, there is one figure', async () => {
  const { needs } = classOf();
  await open({ places: 2, needs: needs.map((n) => ({ ...n, fullMg: n.massMg ?? undefined })) });
  expect(takes('Chocolate')).toMatch(/168 g5\.00 kg here$/);
});

test('who comes stands with what they make, and with what to be careful of', async () => {
  await open();
  expect(plain(screen.getByRole('heading', { level: 1 }).parentElement)).toMatch(/2 of 8|2 \/ 8|2.*8/);
  expect(plain(rowOf('Noor'))).toMatch(/▲ nuts, kiwi.*nuts: at the table, in the bars of Ben/);
  expect(plain(rowOf('Noor'))).toMatch(/70 %84\.0 g base \+ 36\.0 g sugar/);
  expect(plain(rowOf('Ben'))).toMatch(/will pour badly/);
  expect(plain(rowOf('Zoe'))).toMatch(/not coming/);
  // A loss is marked by more than its colour.
  expect(plain(screen.getByText('Left over').parentElement)).toMatch(/▲ −?-?£?/);
});

test.each([
  ['too-dark', 'en', /at most 89\.9 % cacao/],
  ['too-dark', 'de', /höchstens 89,9 % Kakao/],
  ['base-empty', 'en', /nothing is known of what this base is made of/],
  ['sugar-gone', 'de', /steht nicht mehr im Regal/],
  ['sugar-is-cacao', 'en', /Choose a sugar/],
] as const)(
  'why no bar can be made is said in the page’s language: %s, %s',
  async (problem, language, said) => {
    await open({ problem }, { language });
    expect(plain(screen.getByRole('alert'))).toMatch(said);
    // Labels of bars that cannot be made are not printed.
    expect(screen.queryByRole('link', { name: /Labels|Etiketten/ })).toBeNull();
  },
);

test('a guest is told of a choice that cannot be made, but not of what lies with the class', async () => {
  await open({ guests: [guest(noor, 'Noor', { cacaoPercent: 95, problem: 'too-dark' })] });
  expect(plain(rowOf('Noor'))).toMatch(/cannot be made from this base/);
});

test('closing a class draws the oldest sugar first, from more than one delivery where it takes that', async () => {
  const { user, wire, of } = await open();
  await user.click(screen.getByRole('button', { name: 'It has been: close it' }));
  const dialog = within(await screen.findByRole('dialog'));
  // Who is not coming is not asked about.
  expect(dialog.queryByRole('checkbox', { name: 'Zoe' })).toBeNull();
  await user.click(dialog.getByRole('checkbox', { name: 'Ben' }));
  await user.click(dialog.getByRole('button', { name: 'Close the class' }));
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]!.path).toBe(`/api/classes/${of.id}/held`);
  const { cameIds, lines } = wire.sent[0]!.body as ClassHold;
  expect(cameIds).toEqual([noor]);
  expect(lines.map(({ parcelId, massMg }) => [parcelId, massMg])).toEqual([
    [base, 168_000],
    [oldSugar, 50_000],
    [newSugar, 22_000],
  ]);
  // Each has ids of its own, which undo needs.
  expect(new Set(lines.flatMap((l) => [l.stepId, l.takenId, l.lossId])).size).toBe(9);
});

test('more than there is cannot be said to have been used', async () => {
  const { user } = await open();
  await user.click(screen.getByRole('button', { name: 'It has been: close it' }));
  const dialog = within(await screen.findByRole('dialog'));
  const sugar = dialog.getByLabelText<HTMLInputElement>(/Used: .*sugar/i);
  await user.clear(sugar);
  await user.type(sugar, '95{Tab}');
  expect(plain(dialog.getByText(/is outside/))).toMatch(/90/);
});

test.each([
  ['lies ahead', '2026-12-04T17:00:00.000Z', /It begins only on 4 Dec.*change its date first/],
  ['has begun', '2026-11-26T09:30:00.000Z', null],
])('whoever closes a class that %s', async (_, startsAt, warned) => {
  const { user } = await open({ startsAt });
  await user.click(screen.getByRole('button', { name: 'It has been: close it' }));
  const dialog = within(await screen.findByRole('dialog'));
  const said = dialog.queryByText(/It begins only/);
  if (warned) expect(plain(said)).toMatch(warned);
  else expect(said).toBeNull();
});

test.each([
  [0, []],
  [50_000, [50_000]],
  [50_001, [50_000, 1]],
  [90_000, [50_000, 40_000]],
])('%d mg come of as many deliveries as they need', (massMg, drawn) => {
  const parcels = [
    { id: oldSugar, remainingMg: 50_000 },
    { id: newSugar, remainingMg: 40_000 },
  ];
  expect(drawnFrom(parcels, massMg).map((d) => d.massMg)).toEqual(drawn);
});

test('a guest is taken in with an address of their own, and changed from the version that was seen', async () => {
  const { user, wire, of } = await open();
  await user.click(screen.getByRole('button', { name: 'Take a guest in' }));
  const dialog = within(await screen.findByRole('dialog'));
  await user.type(dialog.getByLabelText('Name'), ' Mo ');
  await user.click(dialog.getByRole('button', { name: 'Take a guest in' }));
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]!.body).toMatchObject({ classId: of.id, name: 'Mo', cacaoPercent: null });
  expect((wire.sent[0]!.body as { code: string }).code).toMatch(/^[A-HJ-NP-Z2-9]{12}$/);
  await user.click(await screen.findByRole('button', { name: 'Change Ben' }));
  await user.click(within(await screen.findByRole('dialog')).getByRole('button', { name: 'Is not coming' }));
  await waitFor(() => expect(wire.sent).toHaveLength(2));
  expect(wire.sent[1]).toMatchObject({ ifMatch: '"2"', body: { name: 'Ben', state: 'not-coming' } });
});

test.each([
  ['has been', { held: { at: '2026-12-04T20:00:00Z', by: 'AK', note: 'Loud.' } }],
  ['was called off', { state: 'called-off' }],
])('a class that %s takes no more guests', async (_, more) => {
  await open(more);
  expect(screen.queryByRole('button', { name: 'Take a guest in' })).toBeNull();
  expect(screen.queryByRole('button', { name: 'It has been: close it' })).toBeNull();
  expect(screen.queryByRole('button', { name: 'Change Ben' })).toBeNull();
});

test('who only looks sees the class and changes nothing of it', async () => {
  await open({}, { role: 'viewer' });
  expect(rowOf('Noor')).toBeTruthy();
  for (const name of ['Change', 'Take a guest in', 'It has been: close it', 'Change Ben'])
    expect(screen.queryByRole('button', { name })).toBeNull();
});

test('a class that runs over is told of', async () => {
  await open({ sheet: { ...classOf().sheet, over: 25, spare: 0, ends: 145 } });
  expect(plain(screen.getByText(/longer than the class/))).toBe('▲ 25 min longer than the class');
});

test('before the first guest the page says what to do next', async () => {
  await open({ guests: [], cost: { ...COST, perHead: null, income: 0 } });
  expect(screen.getByText('Nobody is coming yet.')).toBeTruthy();
  expect(screen.queryByRole('link', { name: 'Host’s sheet' })).toBeNull();
  // What it takes, and what it costs.
  expect(screen.getAllByText('with all 8 places')).toHaveLength(2);
});

test('what has no price is named beside what the class costs', async () => {
  await open({ unpriced: ['Nibs', 'Sea salt'] });
  expect(plain(screen.getByText(/^No price is known/))).toMatch(/of nibs, sea salt: they count as nothing/i);
});
