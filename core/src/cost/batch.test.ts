import fc from 'fast-check';
import { seededRandom } from '../numerics/index.ts';
import {
  addCosts,
  barIf,
  wearToCome,
  workToCome,
  COST_KINDS,
  costFlow,
  costInside,
  costPerBar,
  noCosts,
  spentOnBatch,
  totalCost,
  type Drawn,
} from './index.ts';
import { Books, kg, RATES } from './testing/books.ts';

/** 10 kg of beans at 9.00 and 2 kg of sugar at 2.50, two hours of hands, to chocolate in a mould still open. */
function onItsWay(): Books {
  const books = new Books()
    .parcel('beans', 'r', 'dry beans', 900)
    .parcel('nibs', 'winnow', 'nibs', null, 'b')
    .parcel('husk', 'winnow', 'husk', null, 'b')
    .parcel('chocolate', 'grind', 'chocolate', null, 'b')
    .parcel('bars', 'mould', 'bars', null, 'b')
    .line('r', 'out', 'beans', 40 * kg)
    .line('winnow', 'in', 'beans', 10 * kg)
    .line('winnow', 'out', 'nibs', 8 * kg)
    .line('winnow', 'out', 'husk', 1.5 * kg)
    .work('winnow', { kind: 'winnow', minutes: 60, fetched: 300 })
    .line('grind', 'in', 'nibs', 8 * kg)
    .line('grind', 'in', null, 2 * kg, 250)
    .line('grind', 'out', 'chocolate', 9.8 * kg)
    .work('grind', { minutes: 60 })
    .line('mould', 'in', 'chocolate', 9.8 * kg)
    .line('mould', 'out', 'bars', 4.9 * kg)
    .work('mould', { kind: 'mould', minutes: 30 });
  books.open.add('mould');
  return books;
}
const STEPS = ['winnow', 'grind', 'mould'];

test('a batch has cost what a plain reckoning says: beans, sugar, hands, overheads, less its husk', () => {
  const books = onItsWay();
  const spent = spentOnBatch(books, costFlow(books, books.works, RATES), 'b', STEPS, []);
  const plain = costPerBar({
    materials: [
      { label: 'beans', massMg: 10 * kg, pricePerKg: 900 },
      { label: 'sugar', massMg: 2 * kg, pricePerKg: 250 },
    ],
    labourMinutes: 150,
    labourRate: 1500,
    perBar: 0,
    bars: 0,
    other: [
      { label: 'husk', cost: -300 },
      { label: 'overheads', cost: 4.9 * 200 },
    ],
  });
  expect(totalCost(spent)).toBeCloseTo(plain.total, 6);
  expect(spent).toMatchObject({ credit: -300 });
});

test('of an open step what has come out carries its share of the mass, the rest is in the machine', () => {
  const books = onItsWay();
  const flow = costFlow(books, books.works, RATES);
  const inside = costInside(books, flow, 'mould');
  const poured = noCosts();
  addCosts(poured, flow.unit.get('bars')!, 4.9 * kg);
  for (const kind of COST_KINDS) expect(inside[kind]).toBeCloseTo(poured[kind], 6);
  expect(costInside(books, flow, 'grind')).toEqual(noCosts());
  // Closed with the same bars, the loss makes them as dear as all of it.
  books.open.clear();
  const closed = costFlow(books, books.works, RATES);
  expect(totalCost(closed.unit.get('bars')!)).toBeCloseTo(2 * totalCost(flow.unit.get('bars')!), 9);
});

test('what bars of a batch were sold for is no by-product: it does not make them cheaper', () => {
  const books = onItsWay()
    .line('sold', 'in', 'bars', 4.9 * kg)
    .work('sold', { kind: 'leave' });
  const before = onItsWay();
  const spent = (of: Books, steps: readonly string[]) =>
    spentOnBatch(of, costFlow(of, of.works, RATES), 'b', steps, []);
  expect(spent(books, [...STEPS, 'sold'])).toEqual(spent(before, STEPS));
});

test('a bar to come shares what was spent, and carries its wrapping and overheads', () => {
  const spent = { ...noCosts(), beans: 9000, labour: 3000, packaging: 200, overhead: 300 };
  const usual = { packagingPerBar: 30, overheadPerKg: 200 };
  const bar = barIf({ spent, massMg: 1.5 * kg, wrapped: 10 }, { bars: 100, barMg: 50_000 }, usual);
  expect(bar).toMatchObject({ beans: 90, labour: 30 });
  expect(bar.packaging).toBeCloseTo((200 + 90 * 30) / 100, 9);
  expect(bar.overhead).toBeCloseTo((300 + 3.5 * 200) / 100, 9);
  const none = { spent, massMg: 0, wrapped: 0 };
  for (const bars of [0, -1, 1.5, NaN, Infinity])
    expect(() => barIf(none, { bars, barMg: 50_000 }, usual)).toThrow(RangeError);
  expect(() => barIf(none, { bars: 10, barMg: NaN }, usual)).toThrow(/bar/);
  expect(() => barIf(none, { bars: 10, barMg: 1 }, { ...usual, packagingPerBar: -1 })).toThrow(RangeError);
});

test('a bar to come carries the work still to come, and what the recipe still adds', () => {
  const spent = { ...noCosts(), beans: 9000, labour: 3000, ingredients: 100 };
  const usual = {
    packagingPerBar: 0,
    overheadPerKg: 0,
    ingredientsPerKg: 200,
    labourPerKg: { roast: 300, temper: 600, mould: 500 },
  };
  const none = { spent, massMg: 0, wrapped: 0 };
  const bars = { bars: 100, barMg: 50_000 };
  // Of 5 kg: 0.25 of the tempering and all of the moulding at 6.00 and 5.00 a kg.
  const bar = barIf(none, { ...bars, toCome: { temper: 0.25, mould: 1 } }, usual);
  expect(bar.labour).toBeCloseTo(30 + (0.25 * 600 + 500) * 0.05, 9);
  expect(bar.ingredients).toBeCloseTo(1, 9);
  // 5 kg take 10.00 of what the recipe adds, 1.00 of which is in it already.
  expect(barIf(none, { ...bars, toCome: { recipe: 1 } }, usual).ingredients).toBeCloseTo(10, 9);
  expect(
    barIf(none, { ...bars, toCome: { recipe: 1 } }, { ...usual, ingredientsPerKg: null }).ingredients,
  ).toBe(1);
  expect(() => barIf(none, { ...bars, toCome: { mould: 1.5 } }, usual)).toThrow(/between 0 and 1/);
});

test('power is to come as work is, wear by what has not gone in yet', () => {
  const none = { spent: { ...noCosts(), machines: 400 }, massMg: 0, wrapped: 0 };
  const usual = {
    packagingPerBar: 0,
    overheadPerKg: 0,
    energyPerKg: { grind: 60, temper: 20 },
    machinesPerKg: { grind: 80, temper: 10 },
  };
  // The grinder turns with all of it: nothing of its power has been counted, and all of its wear.
  const shares = { toCome: { grind: 1, temper: 1 }, wear: { grind: 0, temper: 1 } };
  const bar = barIf(none, { bars: 100, barMg: 50_000, ...shares }, usual);
  expect(bar.energy).toBeCloseTo(80 * 0.05, 9);
  expect(bar.machines).toBeCloseTo(4 + 10 * 0.05, 9);
  expect(bar.labour).toBe(0);
  const wrong = { ...usual, energyPerKg: { grind: -1 } };
  expect(() => barIf(none, { bars: 100, barMg: 50_000, ...shares }, wrong)).toThrow(
    /the energy of a kg at grind/,
  );
  const more = { bars: 100, barMg: 50_000, wear: { grind: 2 } };
  expect(() => barIf(none, more, usual)).toThrow(/between 0 and 1/);
});

test('what has not come out of a station is still to be worked there; nothing is where nothing is needed', () => {
  const at = (station: string, state: string, outMg: number, meanMg: number, inProcessMg = 0) => ({
    station,
    state,
    outMg,
    inProcessMg,
    expected: { meanMg, lowMg: meanMg, highMg: meanMg },
  });
  const stations = [
    at('sort', 'done', 10, 10),
    at('roast', 'not needed', 0, 0),
    at('temper', 'running', 4, 16, 8),
    at('mould', 'done', 3, 15),
    at('taste', 'ahead', 0, 15),
  ] as never;
  expect(workToCome({ stations })).toEqual({ sort: 0, temper: 0.75, mould: 0.8, taste: 1 });
  expect(wearToCome({ stations })).toEqual({ sort: 0, temper: 0.25, mould: 0.8, taste: 1 });
});

test('conserved: all batches together have had what came in and was worked, with what stands on the shelves and in machines', () =>
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 1e6 }), (seed) => {
      const random = seededRandom(seed);
      const books = new Books().parcel('lot', 'r', 'dry beans', 700).line('r', 'out', 'lot', 1000 * kg);
      const steps = new Map<string, string[]>([
        ['a', []],
        ['b', []],
      ]);
      const drawn = new Map<string, Drawn[]>([
        ['a', []],
        ['b', []],
      ]);
      const shelf: { id: string; batchId: string | null; massMg: number }[] = [
        { id: 'lot', batchId: null, massMg: 1000 * kg },
      ];
      let arrivals = 0;
      for (let i = 0; i < 14; i += 1) {
        const batchId = random() < 0.5 ? 'a' : 'b';
        const step = `s${i}`;
        steps.get(batchId)!.push(step);
        books.work(step, { minutes: Math.round(random() * 60) });
        let inMg = 0;
        for (let k = 0; k < 2; k += 1) {
          const from = shelf[Math.floor(random() * shelf.length)]!;
          const massMg = Math.round(from.massMg * random() * 0.6);
          if (massMg === 0) continue;
          from.massMg -= massMg;
          books.line(step, 'in', from.id, massMg);
          inMg += massMg;
          if (from.id === 'lot') arrivals += (massMg / 1e6) * 700;
          else if (from.batchId !== batchId) drawn.get(from.batchId!)!.push({ parcelId: from.id, massMg });
        }
        if (inMg === 0) continue;
        const isOpen = random() < 0.3;
        if (isOpen) books.open.add(step);
        const outMg = Math.round(inMg * (isOpen ? random() : 1 - random() * 0.1));
        if (outMg === 0) {
          books.open.add(step);
          continue;
        }
        books.parcel(`p${i}`, step, 'chocolate', null, batchId).line(step, 'out', `p${i}`, outMg);
        shelf.push({ id: `p${i}`, batchId, massMg: outMg });
      }
      const flow = costFlow(books, books.works, RATES);
      const spent = [...steps].map(([id, own]) => spentOnBatch(books, flow, id, own, drawn.get(id)!));
      let worked = 0;
      for (const own of flow.own.values()) worked += totalCost(own);
      expect(spent.reduce((sum, c) => sum + totalCost(c), 0)).toBeCloseTo(arrivals + worked, 4);
      let standing = 0;
      for (const p of shelf.slice(1)) standing += totalCost(flow.unit.get(p.id)!) * p.massMg;
      for (const [, own] of steps)
        for (const step of own) {
          if (books.lines.has(step)) standing += totalCost(costInside(books, flow, step));
          else standing += totalCost(flow.own.get(step) ?? noCosts());
        }
      expect(standing).toBeCloseTo(arrivals + worked, 4);
    }),
    { numRuns: 200 },
  ));
