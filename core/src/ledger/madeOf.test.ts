import fc from 'fast-check';
import {
  madeFrom,
  madeOf,
  unitCost,
  type LineageGraph,
  type LineageLine,
  type LineageParcel,
} from './index.ts';

const parcel = (id: string, stepId: string, more: Partial<LineageParcel> = {}): LineageParcel => ({
  id,
  stepId,
  material: 'chocolate',
  lotId: null,
  lotName: null,
  batchId: null,
  pricePerKg: null,
  allergens: [],
  ...more,
});
const into = (stepId: string, massMg: number, more: Partial<LineageLine>): LineageLine => ({
  stepId,
  direction: 'in',
  parcelId: null,
  massMg,
  material: null,
  ingredientId: null,
  pricePerKg: null,
  allergens: [],
  ...more,
});
const graphOf = (parcels: LineageParcel[], lines: LineageLine[]): LineageGraph => ({
  parcels: new Map(parcels.map((p) => [p.id, p])),
  lines: new Map(
    [...new Set(lines.map((l) => l.stepId))].map((s) => [s, lines.filter((l) => l.stepId === s)]),
  ),
});

test('through rework and two batches in one bowl, by hand', () => {
  const graph = graphOf(
    [
      parcel('nibs', 'arrive', { material: 'nibs', lotId: 'L1' }),
      parcel('dark', 'grind'),
      parcel('drained', 'first', { material: 'rework' }),
      parcel('bars', 'second', { material: 'bars' }),
    ],
    [
      into('grind', 700, { parcelId: 'nibs', material: 'nibs' }),
      into('grind', 300, { ingredientId: 'sugar' }),
      into('first', 500, { parcelId: 'dark' }),
      into('first', 100, { ingredientId: 'salt' }),
      into('second', 300, { parcelId: 'dark' }),
      into('second', 60, { parcelId: 'drained' }),
      into('second', 5, { parcelId: 'foil', material: 'packaging' }),
    ],
  );
  const shares = new Map(madeOf(graph, 'bars').map((c) => [c.ingredientId ?? c.parcelId, c.share]));
  // 60 g of drained chocolate are 50 g of dark and 10 g of salt; foil is no part of a bar.
  expect(shares.get('salt')).toBeCloseTo(10 / 360, 12);
  expect(shares.get('nibs')).toBeCloseTo((0.7 * 350) / 360, 12);
  expect(shares.get('sugar')).toBeCloseTo((0.3 * 350) / 360, 12);
  expect(shares.size).toBe(3);
});

test('a bowl that nothing has come out of is what its lines are, each followed back; nothing is of an empty one', () => {
  const graph = graphOf(
    [parcel('nibs', 'arrive', { material: 'nibs', lotId: 'L1' }), parcel('dark', 'grind')],
    [
      into('grind', 700, { parcelId: 'nibs', material: 'nibs' }),
      into('grind', 300, { ingredientId: 'sugar' }),
      into('bowl', 100, { parcelId: 'dark' }),
      into('bowl', 60, { parcelId: 'nibs', material: 'nibs' }),
      into('bowl', 40, { ingredientId: 'sugar' }),
      into('bowl', 5, { parcelId: 'foil', material: 'packaging' }),
    ],
  );
  const lines = graph.lines.get('bowl')!;
  const grams = new Map(madeFrom(graph, lines).map((c) => [c.ingredientId ?? c.parcelId, c.share * 200]));
  expect(grams.get('nibs')).toBeCloseTo(60 + 70, 10);
  expect(grams.get('sugar')).toBeCloseTo(40 + 30, 10);
  expect(grams.size).toBe(2);
  expect(madeFrom(graph, [])).toEqual([]);
  expect(madeFrom(graph, [into('bowl', 0, { ingredientId: 'sugar' })])).toEqual([]);
});

test('chocolate poured back into the pot it was drawn from changes nothing of what it is made of, nor of what it costs', () => {
  const straight = [
    into('grind', 700, { parcelId: 'nibs', material: 'nibs' }),
    into('grind', 300, { ingredientId: 'sugar', pricePerKg: 200 }),
  ];
  const out = (parcelId: string, massMg: number, material: 'chocolate' | 'rework') =>
    into('grind', massMg, { direction: 'out', parcelId, material });
  const parcels = [
    parcel('nibs', 'arrive', { material: 'nibs', lotId: 'L1', pricePerKg: 1200 }),
    parcel('dark', 'grind'),
    parcel('drawn', 'grind', { material: 'rework' }),
    parcel('bars', 'mould', { material: 'bars' }),
  ];
  const mould = [
    into('mould', 500, { parcelId: 'dark' }),
    into('mould', 500, { direction: 'out', parcelId: 'bars', material: 'bars' }),
  ];
  const graph = graphOf(parcels, [
    ...straight,
    into('grind', 250, { parcelId: 'drawn', material: 'rework' }),
    out('drawn', 250, 'rework'),
    out('dark', 1000, 'chocolate'),
    ...mould,
  ]);
  const shares = new Map(madeOf(graph, 'bars').map((c) => [c.ingredientId ?? c.parcelId, c.share]));
  expect([...shares.keys()]).toEqual(['nibs', 'sugar']);
  expect(shares.get('nibs')).toBeCloseTo(0.7, 11);
  expect(shares.get('sugar')).toBeCloseTo(0.3, 11);
  const wanted = 0.7 * 1200 + 0.3 * 200;
  for (const id of ['dark', 'drawn', 'bars']) expect(unitCost(graph, id)).toBeCloseTo(wanted, 8);
});

test('shares add up to one, however the chocolate went round; a parcel in its own making ends', () => {
  fc.assert(
    fc.property(
      fc.array(
        fc.array(fc.tuple(fc.nat(9), fc.integer({ min: 1, max: 1000 })), { minLength: 1, maxLength: 4 }),
        { minLength: 1, maxLength: 10 },
      ),
      (steps) => {
        const parcels = steps.map((_, i) => parcel(`p${i}`, `s${i}`));
        const lines = steps.flatMap((ins, i) =>
          ins.map(([from, massMg]) =>
            from < steps.length && from !== i
              ? into(`s${i}`, massMg, { parcelId: `p${from}` })
              : into(`s${i}`, massMg, { ingredientId: `i${from}` }),
          ),
        );
        const sum = madeOf(graphOf(parcels, lines), 'p0').reduce((s, c) => s + c.share, 0);
        expect(sum).toBeCloseTo(1, 9);
      },
    ),
  );
});
