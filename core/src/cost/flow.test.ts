import { seededRandom } from '../numerics/index.ts';
import {
  addCosts,
  changedBar,
  costDrivers,
  costFlow,
  marginOf,
  noCosts,
  priceFor,
  SAME,
  totalCost,
  unpricedBehind,
  type CostRates,
} from './index.ts';
import { bars, Books, kg, RATES } from './testing/books.ts';

test('a bar costs what went into it, by hand', () => {
  const books = bars();
  const { unit, spent } = costFlow(books, books.works, RATES);
  const all = noCosts();
  addCosts(all, unit.get('box')!, 8 * kg);
  // 6 of 8 kg of the nibs, which carry 90.00 of beans, an hour, and the husk that fetched 3.00.
  expect(all.beans).toBeCloseTo(9000 * 0.75, 6);
  expect(all.credit).toBeCloseTo(-300 * 0.75, 6);
  expect(all.labour).toBeCloseTo(1500 * 0.75 + 1500 * 1.5 + 750, 6);
  expect(all.ingredients).toBeCloseTo(500, 6);
  expect(all.energy).toBeCloseTo(20 * 30, 6);
  expect(all.machines).toBeCloseTo(200, 6);
  expect(all.overhead).toBeCloseTo(1600, 6);
  expect(all.packaging).toBeCloseTo(200, 6);
  expect(totalCost(spent.get('wrap')!)).toBeCloseTo(totalCost(all), 6);
  expect(costDrivers(all).map((d) => d.kind)).toEqual(['beans', 'labour', 'overhead']);
});

test('what comes back of a delivery costs what it had cost, and carries nothing of what stayed there', () => {
  const books = bars()
    .parcel('back', 'leave', 'bars')
    .line('leave', 'in', 'box', 8 * kg)
    .line('leave', 'out', 'back', 1 * kg);
  const leaves = Object.assign(books, { leaves: new Set(['leave']) });
  const { unit } = costFlow(leaves, books.works, RATES);
  expect(totalCost(unit.get('back')!)).toBeCloseTo(totalCost(unit.get('box')!), 12);
});

test('what is poured back into the pot it was drawn from carries its own cost round: none is lost and none is made', () => {
  const ring = bars()
    .parcel('drawn', 'grind', 'rework')
    .line('grind', 'out', 'drawn', 2 * kg)
    .line('grind', 'in', 'drawn', 2 * kg);
  // Without the machine's write-off, which counts every kg that goes in.
  ring.work('grind', { machineHours: 40, watts: 500 });
  const straight = bars();
  straight.work('grind', { machineHours: 40, watts: 500 });
  const [a, b] = [ring, straight].map((books) => costFlow(books, books.works, RATES));
  expect(totalCost(a!.unit.get('drawn')!)).toBeCloseTo(totalCost(b!.unit.get('chocolate')!), 10);
  expect(totalCost(a!.unit.get('box')!)).toBeCloseTo(totalCost(b!.unit.get('box')!), 10);
});

test('butter and cake share the cost of the liquor by mass or by value', () => {
  const press = () =>
    new Books()
      .parcel('liquor', 'r', 'liquor', 1200)
      .parcel('butter', 'press', 'cocoa butter')
      .parcel('cake', 'press', 'cocoa powder')
      .line('press', 'in', 'liquor', 10 * kg)
      .line('press', 'out', 'butter', 4 * kg)
      .line('press', 'out', 'cake', 6 * kg);
  const cost = (rates: CostRates, id: string, mass: number) =>
    totalCost(costFlow(press(), new Map(), rates).unit.get(id)!) * mass;
  expect(cost(RATES, 'butter', 4 * kg)).toBeCloseTo(4800, 6);
  const byValue: CostRates = {
    ...RATES,
    joint: 'value',
    valuePerKg: { 'cocoa butter': 3, 'cocoa powder': 1 },
  };
  expect(cost(byValue, 'butter', 4 * kg)).toBeCloseTo((12000 * 12) / 18, 6);
  expect(cost(byValue, 'cake', 6 * kg)).toBeCloseTo((12000 * 6) / 18, 6);
  // With the value of one of them unknown it goes by mass.
  const half: CostRates = { ...RATES, joint: 'value', valuePerKg: { 'cocoa butter': 3 } };
  expect(cost(half, 'butter', 4 * kg)).toBeCloseTo(4800, 6);
});

test('nothing that is paid for vanishes: over 200 random histories all of it lies on hand, went out, or stands in steps without an output', () => {
  const random = seededRandom(16);
  const whole = (low: number, high: number) => low + Math.floor(random() * (high - low + 1));
  for (let k = 0; k < 200; k += 1) {
    const books = new Books();
    const left = new Map<string, number>();
    let paid = 0;
    for (let n = 0; n < 3; n += 1) {
      const price = whole(100, 2000);
      books.parcel(`lot ${n}`, `r${n}`, 'dry beans', price).line(`r${n}`, 'out', `lot ${n}`, 5 * kg);
      left.set(`lot ${n}`, 5 * kg);
      paid += price * 5;
    }
    let gone = 0;
    const ends: [string, number][] = [];
    for (let s = 0; s < 12; s += 1) {
      const there = [...left].filter(([, mg]) => mg > 100);
      const step = `s${s}`;
      let sum = 0;
      for (const [id, mg] of there.slice(0, whole(1, 3))) {
        const massMg = whole(1, mg);
        left.set(id, mg - massMg);
        books.line(step, 'in', id, massMg);
        sum += massMg;
      }
      if (sum === 0) continue;
      if (random() < 0.2) {
        ends.push([step, 1]);
        continue;
      }
      const minutes = whole(0, 90);
      books.work(step, { minutes, writeOffPerKg: 7 });
      paid += (minutes / 60) * RATES.labourRate + (sum / 1e6) * 7;
      books.parcel(`p${s}`, step, random() < 0.2 ? 'rework' : 'chocolate').parcel(`h${s}`, step, 'husk');
      const out = Math.max(1, Math.floor(sum * (0.4 + 0.4 * random())));
      books
        .line(step, 'out', `p${s}`, out)
        .line(step, 'out', `h${s}`, Math.max(1, Math.floor((sum - out) / 2)));
      left.set(`p${s}`, out);
    }
    const { unit, spent } = costFlow(books, books.works, RATES);
    for (const [step] of ends) gone += totalCost(spent.get(step)!);
    const onHand = [...left].reduce((sum, [id, mg]) => sum + totalCost(unit.get(id)!) * mg, 0);
    expect(onHand + gone).toBeCloseTo(paid, 4);
  }
});

test('what if: dearer beans, fewer hours, more bars, a heavier bar', () => {
  const bar = { ...noCosts(), beans: 100, labour: 60, packaging: 30, overhead: 10 };
  expect(totalCost(changedBar(bar, SAME))).toBeCloseTo(200, 9);
  expect(totalCost(changedBar(bar, { ...SAME, beans: 1.2 }))).toBeCloseTo(220, 9);
  expect(totalCost(changedBar(bar, { ...SAME, hours: 0.5 }))).toBeCloseTo(170, 9);
  expect(totalCost(changedBar(bar, { ...SAME, yield: 1.01 }))).toBeCloseTo(170 / 1.01 + 30, 9);
  expect(totalCost(changedBar(bar, { ...SAME, barMass: 2 }))).toBeCloseTo(370, 9);
  expect(() => changedBar(bar, { ...SAME, yield: 0 })).toThrow(RangeError);
  expect(() => changedBar(bar, { ...SAME, beans: Number.NaN })).toThrow(RangeError);
  expect(marginOf(bar, 400)).toEqual({ money: 200, share: 0.5 });
  expect(marginOf(bar, 0).share).toBeNull();
  expect(priceFor(bar, 0.5)).toBe(400);
  expect(priceFor(bar, 0.3)).toBe(290);
  expect(() => priceFor(bar, 1)).toThrow(RangeError);
  expect(() => costFlow(bars(), new Map(), { ...RATES, labourRate: -1 })).toThrow(RangeError);
});

describe('what no price is known of', () => {
  test('is found at any depth, each once: beans given away, sugar of no price, bars poured into another batch', () => {
    const books = new Books()
      .parcel('dear', 'r1', 'dry beans', 900)
      .parcel('given', 'r2', 'dry beans', 0)
      .parcel('foil', 'r3', 'packaging', 0)
      .parcel('liquor', 'grind', 'chocolate')
      .parcel('rest', 'mould', 'rework')
      .parcel('bars', 'mould', 'bars')
      .parcel('second', 'again', 'bars')
      .parcel('third', 'alone', 'bars');
    books.line('grind', 'in', 'dear', 5e6).line('grind', 'in', 'given', 5e6).line('grind', 'in', null, 4e6);
    books.line('grind', 'out', 'liquor', 14e6);
    books.line('mould', 'in', 'liquor', 14e6).line('mould', 'in', 'foil', 1e5);
    books.line('mould', 'out', 'bars', 13e6).line('mould', 'out', 'rest', 1e6);
    books
      .line('again', 'in', 'rest', 1e6)
      .line('again', 'in', null, 1e5, 250)
      .line('again', 'out', 'second', 1e6);
    books
      .line('alone', 'in', 'dear', 1e6)
      .line('alone', 'in', null, 1e5, 250)
      .line('alone', 'out', 'third', 1e6);
    const unpriced = unpricedBehind(books);
    const told = (id: string) => unpriced([id]).map((x) => `${x.what} ${x.id}`);
    expect(told('bars')).toEqual(['lot given', 'ingredient sugar']);
    expect(told('second')).toEqual(['lot given', 'ingredient sugar']);
    expect(told('third')).toEqual([]);
    expect(told('given')).toEqual(['lot given']);
    expect(unpriced(['bars', 'second', 'nobody'])).toHaveLength(2);
  });

  test('what is poured back into what it was drawn from ends', () => {
    const books = new Books().parcel('a', 's', 'chocolate').parcel('b', 'q', 'rework');
    books.line('s', 'in', 'b', 1e6).line('s', 'in', null, 1e6).line('s', 'out', 'a', 2e6);
    books.line('q', 'in', 'a', 1e6).line('q', 'out', 'b', 1e6);
    expect(unpricedBehind(books)(['a'])).toEqual([{ what: 'ingredient', id: 'sugar' }]);
  });
});
