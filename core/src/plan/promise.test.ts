import {
  changed,
  isLate,
  NothingToMakeOf,
  planWorkshop,
  promiseFor,
  whatHelps,
  whatIf,
  type PlanOrderLine,
  type PlanRoom,
} from './index.ts';
import { countingClock } from './testing/clock.ts';
import { inFlight, roomWith } from './testing/room.ts';

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

  test('asked for the earliest, by no day: a day that can then be promised', () => {
    const options = { draws: 60, budgetMs: 400, now: countingClock() };
    const { behind } = promiseFor(room, plan.steps, asked(0, { due: room.now }), options);
    expect(behind.pushed).toEqual([]);
    expect(behind.at80).not.toBeNull();
    const again = promiseFor(room, plan.steps, asked(0, { due: behind.at80! }), options);
    expect(again.behind.chance).toBeGreaterThan(0.7);
  });

  test('what lies in stock is ready now', () => {
    const full = { ...room, orders: [], stock: [{ recipeId: 'dark', lotId: 'TL', bars: 500 }] };
    const { behind } = promiseFor(full, [], asked(3), { draws: 20, budgetMs: 50, now: countingClock() });
    expect(behind.chance).toBe(1);
    expect(Date.parse(behind.at80!) - Date.parse(room.now)).toBeLessThan(10 * 60_000);
  });
});

describe('whether there will be bars enough', () => {
  const quick = { draws: 20, budgetMs: 50, now: countingClock() };
  const given = (bars: number, more: Partial<PlanRoom>) =>
    promiseFor(
      roomWith([], {
        batches: [inFlight({ id: 'b', bars: 95, barsWithin: { low: 85, high: 105 } })],
        ...more,
      }),
      [],
      asked(30, { bars }),
      quick,
    ).behind;

  test('is sure of stock, and told of a batch on its way by the range of its bars', () => {
    const stock = [{ recipeId: 'dark', lotId: 'TL', bars: 95 }];
    expect(given(95, { stock, batches: [] }).enough).toBe(1);
    expect(given(60, {}).enough).toBeGreaterThan(0.99);
    expect(given(95, {}).enough).toBeGreaterThan(0.45);
    expect(given(95, {}).enough).toBeLessThan(0.6);
  });

  test('a new batch is made with some to spare', () => {
    const { enough, chance } = given(90, { batches: [] });
    expect(enough).toBeGreaterThan(0.85);
    expect(chance).toBeGreaterThan(0.8);
  });
});

describe('an order of several kinds', () => {
  const quick = () => ({ draws: 60, budgetMs: 100, now: countingClock() });
  const both = [asked(60), asked(60, { id: 'l10', recipeId: 'milk', bars: 150 })];

  test('is there when the last of them is: no sooner, and no surer, than any alone', () => {
    const together = promiseFor(room, plan.steps, both, quick()).behind;
    const alone = both.map((line) => promiseFor(room, plan.steps, line, quick()).behind);
    for (const one of alone) {
      expect(together.at80! >= one.at50!).toBe(true);
      expect(together.chance).toBeLessThanOrEqual(one.chance + 0.05);
    }
    expect(together.pushed).toEqual([]);
    // Both kinds are in the plan that is shown.
    const mine = together.plan.orders.find((o) => o.orderId === 'o9')!;
    expect(mine.codes.length).toBeGreaterThanOrEqual(2);
  });

  test('a list of one is as that one; none, two orders and no bars are refused', () => {
    expect(promiseFor(room, plan.steps, [both[0]!], quick()).behind.at80).toBe(
      promiseFor(room, plan.steps, both[0]!, quick()).behind.at80,
    );
    for (const wrong of [[], [both[0]!, asked(60, { orderId: 'other' })], [asked(60, { bars: 0 })]])
      expect(() => promiseFor(room, plan.steps, wrong, quick())).toThrow(RangeError);
    expect(() => promiseFor(room, plan.steps, asked(60, { bars: 2.5 }), quick())).toThrow(RangeError);
  });
});

describe('bars that nothing can be made from', () => {
  const quick = () => ({ draws: 20, budgetMs: 50, now: countingClock() });
  const stock = [{ recipeId: 'dark', lotId: 'TL', bars: 60 }];

  test('are promised for no day, and it is said how many', () => {
    for (const lost of [
      { recipeId: 'gone', id: 'l1' },
      { lotId: 'used up', id: 'l2' },
    ]) {
      expect(() => promiseFor(room, plan.steps, asked(60, lost), quick())).toThrow(NothingToMakeOf);
      expect(() => promiseFor(room, plan.steps, [asked(60), asked(60, lost)], quick())).toThrow(
        NothingToMakeOf,
      );
    }
    const few = { ...room, orders: [], stock, lots: [] };
    try {
      promiseFor(few, [], asked(60, { bars: 100 }), quick());
      throw new Error('it was promised');
    } catch (error) {
      expect(error).toMatchObject({ name: 'NothingToMakeOf', bars: 40 });
    }
    // What lies there is promised all the same.
    expect(promiseFor(few, [], asked(60, { bars: 60 }), quick()).behind.chance).toBe(1);
  });

  test('keep an order from ever being in time, though the rest lies in stock', () => {
    const few = { ...roomWith([{ bars: 100, days: 20 }]), stock, lots: [] };
    const [order] = planWorkshop(few, quick()).orders;
    expect(order).toMatchObject({ ready: null, chance: 0, unmade: 40 });
    expect(isLate(order!)).toBe(true);
    const all = { ...few, stock: [{ ...stock[0]!, bars: 100 }] };
    expect(planWorkshop(all, quick()).orders[0]).toMatchObject({ ready: null, chance: 1, unmade: 0 });
  });

  test('nor is it in time where another of its lines is made', () => {
    const two = roomWith([{ bars: 100, days: 40 }]);
    const [line] = two.orders;
    const half = { ...two, orders: [line!, { ...line!, id: 'lx', recipeId: 'gone', bars: 30 }] };
    const [order] = planWorkshop(half, quick()).orders;
    expect(order).toMatchObject({ chance: 0, unmade: 30 });
    expect(order!.codes).toHaveLength(1);
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
