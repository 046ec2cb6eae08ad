import { normalDraw, seededRandom } from '../numerics/index.ts';
import { enoughBars } from './enough.ts';
import { keptChance, needsOf, planWorkshop, unmadeOf, workshopProject, type PlanRoom } from './index.ts';
import { countingClock } from './testing/clock.ts';
import { lived } from './testing/lived.ts';
import { inFlight, roomWith } from './testing/room.ts';

const within = (bars: number, half: number) => ({ low: bars - half, high: bars + half });

/** One order for what a batch on its way is expected to give, and whether it is to have some to spare. */
const oneBatch = (spare: boolean, more: Partial<PlanRoom> = {}): PlanRoom => {
  const room = roomWith([{ bars: 95, days: 20 }], {
    batches: [inFlight({ bars: 95, barsWithin: within(95, 9) })],
    ...more,
  });
  return { ...room, orders: room.orders.map((o) => ({ ...o, spare })) };
};

const enough = (room: PlanRoom) => enoughBars(room, needsOf(room)).get('o0')!;

test('a batch is made for what may be lacking only where the order says so', () => {
  expect(needsOf(oneBatch(false)).batches).toEqual([]);
  expect(enough(oneBatch(false))).toBeLessThan(0.6);
  const room = oneBatch(true);
  const { batches, supplies, lines } = needsOf(room);
  expect(batches).toHaveLength(1);
  expect(supplies.filter((s) => s.spare)).toEqual([
    { lineId: 'l0', bars: expect.any(Number), batch: batches[0]!.key, spare: true },
  ]);
  expect(enough(room)).toBeGreaterThan(0.95);
  // What is spare is no part of what is wanted, and the batch is there by the same day.
  expect(unmadeOf(needsOf(room), lines[0]!)).toBe(0);
  // The order is ready without it, and surely so with it.
  const { orders } = workshopProject(room).project;
  const isThere = (id: string) =>
    orders!.find((o) => o.id === id)!.activities.some((a) => a.startsWith(batches[0]!.key));
  expect([isThere('o0'), isThere('o0:spare')]).toEqual([false, true]);
});

test('what other batches have to spare is taken first, and nobody else is then promised it', () => {
  const other = inFlight({ id: 'c', code: 'TL-17', bars: 95, barsWithin: within(95, 9) });
  const room = oneBatch(true);
  const both = { ...room, batches: [...room.batches, other] };
  const alone = needsOf(both);
  expect(alone.batches).toEqual([]);
  const kept = alone.supplies.find((s) => s.spare)!;
  expect(kept.batch).toBe('c');
  expect(enough(both)).toBeGreaterThan(0.95);
  const later = {
    ...room.orders[0]!,
    id: 'l1',
    orderId: 'o1',
    due: '2027-01-10T08:00:00.000Z',
    bars: 95,
    spare: false,
  };
  const shared = needsOf({ ...both, orders: [...both.orders, later] });
  const left = shared.supplies.filter((s) => s.lineId === 'l1' && s.batch === 'c');
  expect(left.reduce((sum, s) => sum + s.bars, 0)).toBe(95 - kept.bars);
  expect(shared.batches).toHaveLength(1);
});

test('no more is made where the batches are sure enough, where all lies in stock, and where nothing can be made', () => {
  expect(
    needsOf(oneBatch(true, { batches: [inFlight({ bars: 130, barsWithin: within(130, 9) })] })).batches,
  ).toEqual([]);
  const stock = [{ recipeId: 'dark', lotId: 'TL', bars: 95 }];
  expect(needsOf(oneBatch(true, { stock, batches: [] })).supplies).toEqual([
    { lineId: 'l0', bars: 95, batch: null },
  ]);
  const room = oneBatch(true, { lots: [] });
  expect(needsOf(room)).toMatchObject({ batches: [], impossible: [] });
  expect(enough(room)).toBeLessThan(0.6);
});

test('with some to spare there are enough bars in 19 of 20 workshops', () => {
  const LIVES = 3000;
  const random = seededRandom(5);
  let [held, all] = [0, 0];
  for (const [bars, half] of [
    [95, 5],
    [95, 14],
    [190, 9],
  ] as const) {
    const room = oneBatch(true);
    const one = {
      ...room,
      orders: room.orders.map((o) => ({ ...o, bars })),
      batches: [inFlight({ bars: 95, barsWithin: within(95, half) })],
    };
    const { batches } = needsOf(one);
    for (let k = 0; k < LIVES; k += 1) {
      const got =
        95.5 +
        ((2 * half) / 2.5631) * normalDraw(random) +
        batches.reduce((sum, b) => sum + b.bars * (1 + b.spread * normalDraw(random)), 0);
      held += Number(got >= bars);
      all += 1;
    }
  }
  expect(held / all).toBeGreaterThan(0.94);
});

test('an order is kept where it is in time and there are enough bars; nothing is said before that was tried', () => {
  expect(keptChance({ chance: 0.9, enough: 0.5 })).toBeCloseTo(0.45, 12);
  expect(keptChance({ chance: 0.9 })).toBe(0.9);
  expect(keptChance({ chance: null, enough: 0.5 })).toBeNull();
});

test('what is made to spare counts as surely as it is in time; the order itself waits for none of it', () => {
  const soon = { now: '2026-11-30T08:00:00.000Z' };
  const last = inFlight({ bars: 95, barsWithin: within(95, 9), stage: 'temper', route: ['temper', 'mould'] });
  const dueIn = (days: number): PlanRoom => {
    const room = oneBatch(true, { ...soon, batches: [last] });
    const due = new Date(Date.parse(room.now) + days * 86_400_000).toISOString();
    return { ...room, orders: room.orders.map((o) => ({ ...o, due })) };
  };
  const plan = (days: number, draws: number) =>
    planWorkshop(dueIn(days), { budgetMs: 300, draws }).orders.find((o) => o.orderId === 'o0')!;
  // Tempered and cast within two days; roasted, ground and cast takes more than a week.
  for (const draws of [0, 60]) {
    const early = plan(3, draws);
    expect(Date.parse(early.ready!)).toBeLessThan(Date.parse(early.due));
    expect(Date.parse(early.spareBy!)).toBeGreaterThan(Date.parse(early.due));
    expect(early.enough).toBeCloseTo(enough(oneBatch(false)), 6);
    const late = plan(40, draws);
    expect(Date.parse(late.spareBy!)).toBeLessThan(Date.parse(late.due));
    expect(late.enough).toBeGreaterThan(0.95);
  }
});

test('an order gets all its bars in time as often as is told, in workshops that live otherwise than reckoned, with and without a reserve', () => {
  const LIVES = 60;
  const [DAY, HOUR] = [86_400_000, 3_600_000];
  let [told, held, off, rooms] = [0, 0, 0, 0];
  for (let k = 1; k <= 24; k += 1) {
    const random = seededRandom(k * 401);
    const half = 3 + random() * 12;
    // No more than is expected: what is made besides is a reserve, and nothing else.
    const bars = 95 - Math.floor(random() * half);
    const room = (days: number): PlanRoom => {
      const one = oneBatch(k % 3 > 0, {
        batches: [
          inFlight({ stage: 'temper', route: ['temper', 'mould'], bars: 95, barsWithin: within(95, half) }),
        ],
      });
      const due = new Date(Date.parse(one.now) + days * DAY).toISOString();
      return { ...one, orders: one.orders.map((o) => ({ ...o, bars, due })) };
    };
    const planned = (of: PlanRoom) => planWorkshop(of, { budgetMs: 150, draws: 200, now: countingClock() });
    // Wanted about when it is ready, or when its reserve is.
    const easy = planned(room(60)).orders.find((o) => o.orderId === 'o0')!;
    const by = Date.parse(k % 3 === 1 ? (easy.spareBy ?? easy.ready!) : easy.ready!);
    const late = room((by + (random() * 4 - 0.5) * HOUR - Date.parse(room(60).now)) / DAY);
    const plan = planned(late);
    const order = plan.orders.find((o) => o.orderId === 'o0')!;
    const workshop = workshopProject(late);
    const readyIn = (id: string, ends: Map<string, number>) => {
      const of = workshop.project.orders!.find((o) => o.id === id);
      return of ? Math.max(...of.activities.map((a) => ends.get(a)!)) : Infinity;
    };
    let kept = 0;
    for (let life = 0; life < LIVES; life += 1) {
      const ends = lived(workshop, plan.steps, random);
      const own = 95.5 + ((2 * half) / 2.5631) * normalDraw(random);
      const reserve = workshop.needs.batches.reduce(
        (sum, b) => sum + b.bars * (1 + b.spread * normalDraw(random)),
        0,
      );
      const due = workshop.due.get('o0')!;
      const inReserve = readyIn('o0:spare', ends) <= due ? reserve : 0;
      kept += Number(readyIn('o0', ends) <= due && own + inReserve >= bars);
    }
    told += keptChance(order)!;
    held += kept / LIVES;
    off += Math.abs(keptChance(order)! - kept / LIVES);
    rooms += 1;
  }
  expect(Math.abs(told - held) / rooms).toBeLessThan(0.05);
  expect(off / rooms).toBeLessThan(0.06);
  // Neither always nor never.
  expect(told / rooms).toBeGreaterThan(0.4);
  expect(told / rooms).toBeLessThan(0.9);
});
