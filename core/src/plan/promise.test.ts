import { changed, planWorkshop, promiseFor, whatHelps, whatIf, type PlanOrderLine } from './index.ts';
import { countingClock } from './testing/clock.ts';
import { roomWith } from './testing/room.ts';

const DAY = 86_400_000;
const room = roomWith([
  { bars: 380, days: 10 },
  { bars: 390, days: 18 },
]);
const plan = planWorkshop(room, { budgetMs: 500, now: countingClock(), draws: 60 });
const asked = (days: number, more: Partial<PlanOrderLine> = {}): PlanOrderLine => ({
  id: 'l9',
  orderId: 'o9',
  customer: 'Somebody',
  due: new Date(Date.parse(room.now) + days * DAY).toISOString(),
  weight: 1,
  recipeId: 'dark',
  lotId: null,
  bars: 200,
  kind: 'order',
  ...more,
});

describe('a promise at the counter', () => {
  test('behind everything else it pushes nobody, and four fifths come later than one half', () => {
    const { behind } = promiseFor(room, plan.steps, asked(60), {
      draws: 60,
      budgetMs: 100,
      now: countingClock(),
    });
    expect(behind.pushed).toEqual([]);
    expect(behind.at80! >= behind.at50!).toBe(true);
    expect(behind.chance).toBeGreaterThan(0.8);
  });

  test('where that is too late, before everything else is offered with what it pushes', () => {
    const { behind, before } = promiseFor(room, plan.steps, asked(9, { weight: 8 }), {
      draws: 60,
      budgetMs: 800,
      now: countingClock(),
    });
    expect(behind.chance).toBeLessThan(0.8);
    if (before) expect(before.chance).toBeGreaterThan(behind.chance);
  });

  test('what lies in stock is ready now', () => {
    const full = { ...room, orders: [], stock: [{ recipeId: 'dark', lotId: 'TL', bars: 500 }] };
    const { behind } = promiseFor(full, [], asked(3), { draws: 20, budgetMs: 50, now: countingClock() });
    expect(behind.chance).toBe(1);
    expect(Date.parse(behind.at80!) - Date.parse(room.now)).toBeLessThan(10 * 60_000);
  });
});

describe('what if', () => {
  test('a grinder that stands still for ten days makes no order ready sooner', () => {
    const stopped = ['ida', 'otto'].reduce(
      (r, machineId) => changed(r, { kind: 'stops', machineId, days: 10, from: room.now }),
      room,
    );
    const after = planWorkshop(stopped, { budgetMs: 400, now: countingClock(), draws: 0 });
    for (const o of plan.orders) {
      const then = after.orders.find((x) => x.orderId === o.orderId)!;
      expect(Date.parse(then.ready!) - Date.parse(o.ready!)).toBeGreaterThan(3 * DAY);
    }
  });

  test('beans that come two weeks late hold their batches back so long', () => {
    const { plan: after } = whatIf(
      room,
      plan,
      { kind: 'late-beans', lotId: 'TL', days: 14 },
      { budgetMs: 300, now: countingClock(), draws: 20 },
    );
    const first = Math.min(...after.steps.map((s) => Date.parse(s.start)));
    expect(first).toBeGreaterThanOrEqual(Date.parse(room.now) + 14 * DAY);
  });

  test('days and moulds below one are refused', () => {
    expect(() => changed(room, { kind: 'stops', machineId: 'ida', days: 0, from: room.now })).toThrow(
      RangeError,
    );
    expect(() => changed(room, { kind: 'moulds', mouldId: 'tablet', count: -1 })).toThrow(RangeError);
  });

  test('what would help is told only where it brings half a day', () => {
    for (const h of whatHelps(room, plan.steps, { budgetMs: 100, now: countingClock() }))
      expect(h.sooner).toBeGreaterThanOrEqual(DAY / 2);
  });
});
