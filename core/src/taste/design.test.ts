import { normalDraw, seededRandom } from '../numerics/index.ts';
import {
  answersNeeded,
  balanceOf,
  blindCodes,
  choicePower,
  cochranQ,
  criticalCount,
  dominance,
  forcedChoice,
  noteDifferences,
  servingOrders,
  significantShare,
  williamsDesign,
} from './index.ts';

describe('forced choices', () => {
  test('right answers needed, from the published tables (5 %, ISO 4120 and 10399)', () => {
    for (const [n, least] of [
      [6, 5],
      [12, 8],
      [18, 10],
      [24, 13],
      [30, 15],
      [60, 27],
    ] as const)
      expect(criticalCount('triangle', n)).toBe(least);
    for (const [n, least] of [
      [10, 9],
      [20, 15],
      [24, 17],
      [32, 22],
      [60, 37],
    ] as const)
      expect(criticalCount('duo-trio', n)).toBe(least);
    // Two-sided paired preference: 15 of 20, 18 of 24.
    expect(criticalCount('paired', 20, 2)).toBe(15);
    expect(criticalCount('paired', 24, 2)).toBe(18);
    expect(criticalCount('triangle', 2)).toBeNull();
  });

  test('how many are needed for half, 40 and 30 % who tell them apart: 16, 25, 43 by the table for 80 %', () => {
    for (const [share, table] of [
      [0.5, 16],
      [0.4, 25],
      [0.3, 43],
    ] as const)
      expect(Math.abs(answersNeeded('triangle', share)! - table)).toBeLessThanOrEqual(3);
    expect(answersNeeded('triangle', 0.01)).toBeNull();
  });

  test('power is the share of simulated panels that find it, and 5 % at most where nobody can', () => {
    const random = seededRandom(3);
    let found = 0;
    const runs = 4000;
    for (let r = 0; r < runs; r += 1) {
      let right = 0;
      for (let i = 0; i < 24; i += 1) right += Number(random() < 0.5 || random() < 1 / 3);
      found += Number(forcedChoice('triangle', right, 24).decided);
    }
    expect(Math.abs(found / runs - choicePower('triangle', 24, 0.5))).toBeLessThan(0.015);
    expect(choicePower('triangle', 24, 0)).toBeLessThan(0.05);
    expect(choicePower('paired', 30, 0, 2)).toBeLessThan(0.05);
  });

  test('five of eight: p = 0.088, and nobody need have tasted it', () => {
    const { p, decided, discriminators, low } = forcedChoice('triangle', 5, 8);
    expect(p).toBeCloseTo(0.08794, 5);
    expect([decided, low]).toEqual([false, 0]);
    expect(discriminators).toBeCloseTo(0.4375, 6);
    expect(() => forcedChoice('triangle', 9, 8)).toThrow(/between 0 and 8/);
    expect(() => forcedChoice('triangle', 3, 8, 2)).toThrow(/one-sided/);
    expect(() => forcedChoice('duo-trio', 1.5, 8)).toThrow(/whole number/);
  });
});

describe('serving orders', () => {
  test('a Williams design: each sample once at each place, after each other equally often, for 2 to 16', () => {
    for (let n = 2; n <= 16; n += 1) {
      const design = williamsDesign(n);
      for (const row of design) expect([...row].sort((a, b) => a - b)).toEqual(design[0]!.map((_, i) => i));
      const { place, after, exact } = balanceOf(design, n);
      expect(exact).toBe(true);
      expect([place.most, after.most]).toEqual(n % 2 ? [2, 2] : [1, 1]);
    }
  });

  test('a panel of several designs is exact; one that is not comes out as even as a place more or less', () => {
    expect(servingOrders({ samples: 4, assessors: 6, rounds: 2, seed: 1 }).balance.exact).toBe(true);
    for (const [samples, assessors] of [
      [3, 4],
      [4, 6],
      [5, 7],
      [5, 12],
    ] as const) {
      const { balance, orders } = servingOrders({ samples, assessors, seed: 8 });
      expect(orders).toHaveLength(assessors);
      expect(balance.place.most - balance.place.fewest).toBeLessThanOrEqual(2);
      expect(balance.after.most - balance.after.fewest).toBeLessThanOrEqual(2);
    }
  });

  test('more than a flight is cut evenly with a rest, over which nothing is carried', () => {
    const { flights, orders, balance } = servingOrders({ samples: 7, assessors: 14, seed: 5 });
    expect(flights).toEqual([4, 3]);
    expect(balance.place).toEqual({ fewest: 2, most: 2 });
    const followers = orders.reduce((sum, o) => sum + o.length - 2, 0);
    expect(followers).toBe(14 * 5);
    expect(servingOrders({ samples: 12, assessors: 3, seed: 5 }).flights).toEqual([4, 4, 4]);
  });

  test('the same seed serves the same; nobody meets the same order in both rounds of a small panel', () => {
    const ask = { samples: 4, assessors: 5, rounds: 2, seed: 42 };
    expect(servingOrders(ask)).toEqual(servingOrders(ask));
    const { orders } = servingOrders(ask);
    for (let a = 0; a < 5; a += 1) expect(orders[2 * a]).not.toEqual(orders[2 * a + 1]);
    expect(() => servingOrders({ ...ask, samples: 1 })).toThrow(/samples/);
    expect(() => servingOrders({ ...ask, samples: 17 })).toThrow(/at most 16/);
    expect(() => servingOrders({ ...ask, assessors: 0 })).toThrow(/assessors/);
  });

  test('codes lead nobody: three different digits, no run, well apart', () => {
    const codes = blindCodes(24, 7);
    expect(new Set(codes).size).toBe(24);
    for (const code of codes) {
      expect(code).toMatch(/^[1-9]\d\d$/);
      expect(new Set(code).size).toBe(3);
    }
    expect(codes).not.toContain('123');
    expect(blindCodes(24, 7)).toEqual(codes);
    expect(blindCodes(24, 8)).not.toEqual(codes);
    expect(() => blindCodes(401, 1)).toThrow(/400/);
  });
});

describe('notes', () => {
  test('two samples are McNemar’s exact test: 5 to 0 is 0.0625, 8 to 1 is 0.0391', () => {
    const table = (one: number, two: number) => [
      ...Array.from({ length: one }, () => [1, 0]),
      ...Array.from({ length: two }, () => [0, 1]),
      [1, 1],
      [0, 0],
    ];
    expect(cochranQ(table(5, 0)).p).toBeCloseTo(0.0625, 10);
    expect(cochranQ(table(8, 1)).p).toBeCloseTo(0.0390625, 10);
  });

  test('three samples: all ways counted by hand', () => {
    // Two assessors, each one note of three: both on the same sample in 3 of 9 ways.
    expect(
      cochranQ([
        [1, 0, 0],
        [1, 0, 0],
      ]),
    ).toEqual({ q: 4, p: 1 / 3, how: 'exact' });
    // Three assessors alike: 3 of 27.
    expect(
      cochranQ([
        [0, 1, 0],
        [0, 1, 0],
        [0, 1, 0],
      ]).p,
    ).toBeCloseTo(1 / 9, 12);
    expect(
      cochranQ([
        [1, 1],
        [0, 0],
      ]),
    ).toEqual({ q: 0, p: 1, how: 'exact' });
    expect(() => cochranQ([[1, 2]])).toThrow(/named/);
  });

  test('a false alarm over all notes of a panel comes in 5 of 100 at most', () => {
    const random = seededRandom(21);
    const notes = ['honey', 'berry', 'toast', 'tea', 'wood', 'malt'];
    let alarms = 0;
    for (let r = 0; r < 200; r += 1) {
      const cards = Array.from({ length: 10 }, (_, a) =>
        ['x', 'y', 'z'].map((sample) => ({
          sample,
          assessor: `a${a}`,
          notes: notes.filter(() => random() < 0.4),
        })),
      ).flat();
      alarms += Number(noteDifferences(cards).some((n) => n.decided));
    }
    expect(alarms / 200).toBeLessThan(0.08);
  });

  test('who missed a sample does not count, and one card or two of a sample say a note once', () => {
    const cards = [
      { sample: 'x', assessor: 'a', notes: ['honey', 'honey'] },
      { sample: 'x', assessor: 'a', notes: ['honey'] },
      { sample: 'y', assessor: 'a', notes: [] },
      { sample: 'x', assessor: 'late', notes: ['honey'] },
    ];
    expect(noteDifferences(cards)[0]).toMatchObject({ note: 'honey', shares: { x: 1, y: 0 }, p: 1 });
    expect(noteDifferences([])).toEqual([]);
  });
});

describe('a panel’s strips together', () => {
  const stroke = (note: string, from: number, to: number) => ({ note, from, to, strength: 3 });

  test('shares second by second, and the level above chance (Pineau et al.)', () => {
    // Eight strips and two notes: 0.5 + 1.645 √(0.25 / 8) = 0.791.
    expect(significantShare(0.5, 8)).toBeCloseTo(0.7908, 4);
    const strips = [
      ...Array.from({ length: 7 }, () => [stroke('berry', 0, 40), stroke('tea', 60, 120)]),
      [stroke('tea', 0, 120)],
    ];
    const { curves, level, strips: n } = dominance(strips);
    expect([n, curves.map((c) => c.note)]).toEqual([8, ['berry', 'tea']]);
    expect(level).toBeCloseTo(0.7908, 4);
    expect(curves[0]!.share[20]).toBeCloseTo(7 / 8);
    expect(curves[0]!.significant).toEqual([{ from: 0, to: 39 }]);
    expect(curves[1]!.significant).toEqual([{ from: 60, to: 119 }]);
  });

  test('tasters who choose at random pass the level at 5 of 100 moments or so', () => {
    const random = seededRandom(2);
    let above = 0;
    const runs = 400;
    for (let r = 0; r < runs; r += 1) {
      const strips = Array.from({ length: 20 }, () => [
        stroke(['a', 'b', 'c', 'd'][Math.floor(random() * 4)]!, 0, 120),
      ]);
      const { curves } = dominance(strips);
      above += curves.filter((c) => c.significant.length > 0).length / Math.max(2, curves.length);
    }
    expect(above / runs).toBeLessThan(0.08);
    expect(normalDraw(random)).toBeDefined();
  });

  test('no strips have no curves; a stroke beyond the strip is refused', () => {
    expect(dominance([]).curves).toEqual([]);
    expect(dominance([[]]).strips).toBe(0);
    expect(() => dominance([[stroke('a', 50, 130)]])).toThrow(/end of a stroke/);
  });
});
