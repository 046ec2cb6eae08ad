import { normalDraw, seededRandom } from '../numerics/index.ts';
import { enoughBars } from './enough.ts';
import { needsOf, type PlanBatch, type PlanRoom } from './index.ts';
import { inFlight, roomWith } from './testing/room.ts';

const of = (room: PlanRoom) => enoughBars(room, needsOf(room));
const onItsWay = (bars: number, within: PlanBatch['barsWithin']) => ({
  batches: [inFlight({ id: 'b', bars, barsWithin: within })],
});

test('a batch that is to give just what is expected of it is enough in about every other case', () => {
  const within = { low: 90, high: 110 };
  const chance = (bars: number) => of(roomWith([{ bars, days: 20 }], onItsWay(100, within))).get('o0')!;
  expect(chance(100)).toBeCloseTo(0.525, 2);
  // The lower end of a range of four in five is passed in nine of ten.
  expect(chance(90)).toBeGreaterThan(0.9);
  expect(chance(90)).toBeLessThan(0.92);
  expect(chance(60)).toBeGreaterThan(0.999);
});

test('what was promised first is served first; what fills the shelf is nobody’s', () => {
  const aims = [{ id: 'a', recipeId: 'dark', lotId: null, floor: 0, aim: 40 }];
  const room = roomWith(
    [
      { bars: 80, days: 20 },
      { bars: 20, days: 10 },
    ],
    { ...onItsWay(105, { low: 95, high: 115 }), aims },
  );
  const found = of(room);
  expect(found.get('o1')).toBeGreaterThan(0.999);
  expect(found.get('o0')).toBeGreaterThan(0.7);
  expect(found.get('o0')).toBeLessThan(0.8);
  expect(found.has('a')).toBe(false);
});

test('stock is sure, and so is what nobody says a range of; too few are never enough', () => {
  const stock = [{ recipeId: 'dark', lotId: 'TL', bars: 60 }];
  expect(of(roomWith([{ bars: 60, days: 9 }], { stock })).get('o0')).toBe(1);
  expect(of(roomWith([{ bars: 95, days: 20 }], onItsWay(95, null))).get('o0')).toBe(1);
  const needs = { ...needsOf(roomWith([{ bars: 95, days: 20 }], onItsWay(95, null))) };
  expect(enoughBars({ batches: [inFlight({ id: 'b', bars: 90 })] }, needs).get('o0')).toBe(0);
});

test('what one batch lacks another has to spare, where somebody has bars of both', () => {
  // 95 bars of the batch on its way, and as many of a new one with some to spare.
  const room = roomWith([{ bars: 190, days: 20 }], onItsWay(95, { low: 92, high: 98 }));
  const [made] = needsOf(room).batches;
  expect(made!.bars).toBeGreaterThan(98);
  expect(of(room).get('o0')).toBeGreaterThan(0.85);
});

test('the chances are those of workshops that hand out what there is, the first promise first', () => {
  const room = roomWith(
    [
      { bars: 60, days: 9 },
      { bars: 128, days: 12 },
      { bars: 250, days: 30 },
    ],
    {
      batches: [
        inFlight({ id: 'b', bars: 95, barsWithin: { low: 85, high: 105 } }),
        inFlight({ id: 'c', bars: 95, barsWithin: { low: 90, high: 100 } }),
      ],
    },
  );
  const needs = needsOf(room);
  const told = of(room);
  const random = seededRandom(11);
  const held = new Map([...told.keys()].map((id) => [id, 0]));
  const LIVES = 4000;
  for (let k = 0; k < LIVES; k += 1) {
    const left = new Map([
      ['b', 95.5 + (20 / 2.5631) * normalDraw(random)],
      ['c', 95.5 + (10 / 2.5631) * normalDraw(random)],
      ...needs.batches.map((b) => [b.key, b.bars * (1 + b.spread * normalDraw(random))] as const),
    ]);
    const seen = new Set<string>();
    // Who had to go without gets theirs of what comes next.
    let owed = 0;
    for (const line of needs.lines) {
      for (const s of needs.supplies) if (s.lineId === line.id) seen.add(s.batch!);
      let wanted = owed + line.bars;
      for (const batch of seen) {
        const bars = Math.max(0, Math.min(wanted, left.get(batch)!));
        left.set(batch, left.get(batch)! - bars);
        wanted -= bars;
      }
      owed = wanted;
      if (wanted <= 0) held.set(line.orderId, held.get(line.orderId)! + 1);
    }
  }
  for (const [id, chance] of told) expect(Math.abs(held.get(id)! / LIVES - chance)).toBeLessThan(0.03);
  expect([...told.values()].some((c) => c > 0.4 && c < 0.9)).toBe(true);
});
