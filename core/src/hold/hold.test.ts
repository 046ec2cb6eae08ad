import fc from 'fast-check';
import {
  holdTime,
  probedHold,
  SACKED_BEANS,
  slabTerms,
  slabTheta,
  splitStack,
  StackModel,
  trapChart,
} from './index.ts';

describe('slab series', () => {
  // Published first roots (Incropera, table 5.1): Bi 0.1, 1, 10.
  test.each([
    [0.1, 0.3111, 1.0161],
    [1, 0.8603, 1.1191],
    [10, 1.4289, 1.262],
  ])('Bi = %f', (bi, zeta, c) => {
    const [first] = slabTerms(bi);
    expect(first!.zeta).toBeCloseTo(zeta, 3);
    expect(first!.weight).toBeCloseTo(c, 3);
  });
  test('every root satisfies ζ tan ζ = Bi', () =>
    fc.assert(
      fc.property(fc.double({ min: 1e-3, max: 1e3, noNaN: true }), (bi) => {
        for (const { zeta } of slabTerms(bi, 12))
          expect(Math.abs(zeta * Math.sin(zeta) - bi * Math.cos(zeta))).toBeLessThan(1e-6 * (1 + bi));
      }),
    ));
  test('begins at one everywhere inside', () => expect(slabTheta(slabTerms(5), 0.002)).toBeCloseTo(1, 5));
});

describe('a stack of sacks', () => {
  const small = { sides: [0.8, 0.5, 0.3] as const, startC: 24, airC: -20 };
  const pallet = { sides: [1.2, 1.0, 1.1] as const, startC: 24, airC: -20 };
  const within = (value: number | null, wanted: number) =>
    expect(Math.abs(value! / wanted - 1)).toBeLessThan(0.005);
  test('0.8 × 0.5 × 0.3 m: −15 °C after 2.67 days, −18 °C after 3.55', () => {
    within(new StackModel(small).daysTo(-15), 2.67);
    within(new StackModel(small).daysTo(-18), 3.55);
  });
  test('a tight pallet needs 16.4 days to −15 °C, and gaps help', () => {
    within(new StackModel(pallet).daysTo(-15), 16.4);
    expect(new StackModel(splitStack(pallet, 3)).daysTo(-15)!).toBeLessThan(8);
  });
  test('agrees with an independent finite-difference solution', () => {
    // One octant of the brick on a grid, explicit in time, symmetric at the middle, convective at the faces.
    const n = [10, 8, 6] as const;
    const half = small.sides.map((s) => s / 2);
    const h = half.map((L, i) => L / n[i]!);
    const { conductivity: k, diffusivity: a, transfer } = SACKED_BEANS;
    const dt = 0.9 / (2 * a * h.reduce((s, x) => s + 1 / (x * x), 0));
    let T = new Float64Array(n[0] * n[1] * n[2]).fill(24);
    const at = (x: number, y: number, z: number) => (x * n[1] + y) * n[2] + z;
    for (let t = 0; t < 2.67 * 86_400; t += dt) {
      const next = new Float64Array(T.length);
      for (let x = 0; x < n[0]; x += 1)
        for (let y = 0; y < n[1]; y += 1)
          for (let z = 0; z < n[2]; z += 1) {
            const here = T[at(x, y, z)]!;
            let flow = 0;
            const c = [x, y, z];
            for (let d = 0; d < 3; d += 1) {
              const down = [...c];
              down[d]! -= 1;
              const up = [...c];
              up[d]! += 1;
              if (c[d]! > 0) flow += (T[at(down[0]!, down[1]!, down[2]!)]! - here) / (h[d]! * h[d]!);
              if (c[d]! < n[d]! - 1) flow += (T[at(up[0]!, up[1]!, up[2]!)]! - here) / (h[d]! * h[d]!);
              else flow += (-20 - here) / (h[d]! * k * (1 / transfer + h[d]! / 2 / k));
            }
            next[at(x, y, z)] = here + a * dt * flow;
          }
      T = next;
    }
    expect(T[0]!).toBeCloseTo(new StackModel(small).at(2.67), 0);
  });
  test('heat as well as cold, and targets the air cannot give', () => {
    expect(new StackModel({ ...small, airC: 55 }).daysTo(50)).toBeGreaterThan(1);
    expect(new StackModel(small).daysTo(-25)).toBeNull();
    expect(new StackModel(small).daysTo(30)).toBe(0);
    expect(holdTime(small, -18, 4).daysInAll).toBeCloseTo(7.55, 1);
    expect(() => new StackModel({ ...small, sides: [0, 1, 1] })).toThrow(/above 0 m/);
  });
  test('an air that cannot do it is refused, never counted as there already', () => {
    // A forgotten minus: 24 °C for −24.
    expect(holdTime({ ...small, startC: 20, airC: 24 }, -18, 4)).toEqual({
      daysToCore: null,
      daysInAll: null,
      refusal: { code: 'air-too-warm', meantC: -24 },
    });
    expect(holdTime({ ...small, airC: 24 }, -18, 4).refusal).toEqual({ code: 'air-too-warm', meantC: -24 });
    expect(holdTime({ ...small, airC: -10 }, -18, 4).refusal).toEqual({ code: 'air-too-warm', meantC: null });
    expect(holdTime({ ...small, airC: 45 }, 50, 1).refusal).toEqual({ code: 'air-too-cool', meantC: null });
    expect(holdTime({ ...small, airC: 55 }, -18, 4).refusal!.code).toBe('air-too-warm');
    expect(holdTime({ ...small, startC: -20, airC: -20 }, -18, 4)).toMatchObject({
      daysToCore: 0,
      daysInAll: 4,
    });
    for (const bad of [Number.NaN, Infinity])
      for (const stack of [
        { ...small, airC: bad },
        { ...small, startC: bad },
      ])
        expect(() => holdTime(stack, -18, 4)).toThrow(RangeError);
    expect(() => holdTime(small, Number.NaN, 4)).toThrow(RangeError);
    expect(() => holdTime(small, -18, -1)).toThrow(RangeError);
  });
  test('the profile is coldest at the faces and even on both sides', () => {
    const p = new StackModel(small).profile(1);
    expect(p[0]!.celsius).toBeLessThan(p[20]!.celsius);
    expect(p[0]!.celsius).toBeCloseTo(p[40]!.celsius, 9);
  });
});

test('a core probe replaces the estimate, and starts again when the freezer thaws', () => {
  const day = 86_400_000;
  const aim = { coreC: -18, days: 4, cold: true };
  expect(probedHold([], aim)).toBeNull();
  expect(probedHold([{ at: 0, celsius: -10 }], aim)).toMatchObject({ reachedAt: null, endsAt: null });
  const thawed = [-10, -18.5, -19, -12, -18.2, -19].map((celsius, i) => ({ at: i * day, celsius }));
  expect(probedHold(thawed, aim)).toEqual({
    reachedAt: 4 * day,
    endsAt: 8 * day,
    lastC: -19,
    lastAt: 5 * day,
    silent: false,
  });
  // A probe that has said nothing for three days proves nothing; one that fell silent and came back starts the clock again.
  expect(probedHold(thawed, { ...aim, now: 8 * day })).toMatchObject({ silent: true, endsAt: null });
  const gap = [
    { at: 0, celsius: -19 },
    { at: 3 * day, celsius: -19 },
  ];
  expect(probedHold(gap, aim)).toMatchObject({ reachedAt: 3 * day, endsAt: 7 * day });
  expect(() => probedHold([{ at: 0, celsius: Number.NaN }], aim)).toThrow(/number/);
});

describe('trap counts', () => {
  const week = (i: number, count: number, traps = 4) => ({
    day: `2026-09-${String(1 + i * 3).padStart(2, '0')}`,
    count,
    traps,
  });
  test('c-chart: c̄ ± 3√c̄', () => {
    const { kind, points } = trapChart([3, 5, 4, 6, 2, 4, 20].map((c, i) => week(i, c)));
    const c = 44 / 7;
    expect(kind).toBe('c');
    expect(points[0]!.upper * 4).toBeCloseTo(c + 3 * Math.sqrt(c), 9);
    expect(points.map((p) => p.signal)).toEqual([false, false, false, false, false, false, true]);
  });
  test('Laney where the number of traps varies: over-dispersed counts widen the limits', () => {
    const counts = [
      [4, 4],
      [12, 6],
      [2, 3],
      [18, 8],
      [3, 4],
      [15, 5],
    ] as const;
    const { kind, points } = trapChart(counts.map(([c, n], i) => week(i, c, n)));
    expect(kind).toBe('laney');
    const u = 54 / 30;
    expect(points[0]!.upper - u).toBeGreaterThan(3 * Math.sqrt(u / 4));
  });
  test('few counts have no limits', () => expect(trapChart([week(0, 9)]).points[0]!.signal).toBe(false));
  test('nonsense is refused', () => expect(() => trapChart([week(0, -1)])).toThrow(/0 or more/));
});
