import { normalDraw, seededRandom, type Random } from '../numerics/index.ts';
import {
  forecastGrind,
  forecastSlowed,
  gritAt,
  grindMisfit,
  hoursToAim,
  learnPrior,
  RUN_FACTOR,
  readingsToLearnFrom,
  slowedGrind,
  USUAL_GRIND_PRIOR,
  wearTrend,
  type GrindCurve,
  type GritReading,
  type LearnedRun,
} from './index.ts';

const NAMES = ['rate', 'finest', 'coarse'] as const;

const around = (random: Random, centre: GrindCurve, factors: Record<keyof GrindCurve, number>): GrindCurve =>
  Object.fromEntries(
    NAMES.map((n) => [n, centre[n] * Math.exp(normalDraw(random) * Math.log(factors[n]))]),
  ) as unknown as GrindCurve;

const usual = Object.fromEntries(NAMES.map((n) => [n, USUAL_GRIND_PRIOR[n].median])) as unknown as GrindCurve;
const wide = Object.fromEntries(NAMES.map((n) => [n, USUAL_GRIND_PRIOR[n].factor])) as Record<
  keyof GrindCurve,
  number
>;

/** What of the usual range is the machine's, and not the run's. */
const machines = Object.fromEntries(
  NAMES.map((n) => [n, Math.exp(Math.sqrt(Math.log(wide[n]) ** 2 - Math.log(RUN_FACTOR[n]) ** 2))]),
) as Record<keyof GrindCurve, number>;

const readingsOf = (random: Random, truth: GrindCurve, hours: readonly number[]): GritReading[] =>
  hours.map((h) => {
    const um = gritAt(truth, h);
    return { hours: h, um: Math.max(1, um + normalDraw(random) * Math.hypot(1, 0.05 * um)) };
  });

/** 500 runs on machines of unknown stones, each with a history of its own, forecast from four readings; share of outcomes in the 80 % interval. */
function coverage(histories: number, aimUm: number): { share: number; runs: number; meanWidth: number } {
  const random = seededRandom(7 + histories);
  let [inside, runs, width] = [0, 0, 0];
  for (let run = 0; run < 500; run += 1) {
    const machine = around(random, usual, machines);
    const earlier: LearnedRun[] = [];
    for (let i = 0; i < histories; i += 1) {
      const truth = around(random, machine, RUN_FACTOR);
      const f = forecastGrind({ readings: readingsOf(random, truth, [2, 9, 16, 24, 31]), aimUm, seed: i });
      if (f.ok) earlier.push(f.learned);
    }
    const truth = around(random, machine, RUN_FACTOR);
    const f = forecastGrind({
      readings: readingsOf(random, truth, [2, 8, 14, 20]),
      aimUm,
      prior: learnPrior(earlier),
      seed: 1000 + run,
    });
    const t = hoursToAim(truth, aimUm);
    // What the stones never reach counts too: the range must then be open.
    if (!f.ok) continue;
    runs += 1;
    width += Math.min(f.toAim.high, 200) - f.toAim.low;
    if (t >= f.toAim.low && t <= f.toAim.high) inside += 1;
  }
  return { share: inside / runs, runs, meanWidth: width / runs };
}

describe('over 500 simulated runs the 80 % interval holds 75–85 % of outcomes', () => {
  const fresh = coverage(0, 25);
  const learned = coverage(5, 25);
  test('on a machine without a history', () => {
    expect(fresh.runs).toBe(500);
    expect(fresh.share).toBeGreaterThanOrEqual(0.75);
    expect(fresh.share).toBeLessThanOrEqual(0.85);
  });
  test('on a machine with five earlier runs', () => {
    expect(learned.share).toBeGreaterThanOrEqual(0.75);
    expect(learned.share).toBeLessThanOrEqual(0.85);
  });
  test('and a history narrows it', () => expect(learned.meanWidth).toBeLessThan(0.95 * fresh.meanWidth));
});

describe('a mill that has slowed', () => {
  const curve: GrindCurve = { rate: 0.09, finest: 14, coarse: 85 };
  const readings = (from: number | null, pace: number) =>
    [1, 4, 7, 10, 13, 16, 19, 22].map((hours) => ({
      hours,
      um: gritAt(curve, from !== null && hours > from ? from + pace * (hours - from) : hours),
    }));
  test('is told, with the hour and the pace', () => {
    const slowed = slowedGrind(readings(11, 0.25))!;
    expect(slowed.sinceHours).toBeGreaterThan(8);
    expect(slowed.sinceHours).toBeLessThan(14);
    expect(slowed.pace).toBeLessThan(0.6);
  });
  test('is not told of one that keeps its pace, nor from too little', () => {
    expect(slowedGrind(readings(null, 1))).toBeNull();
    expect(slowedGrind(readings(2, 0.25).slice(0, 3))).toBeNull();
  });
  test('is foretold at the pace that is left, and tells of the mill at full pace', () => {
    const slowed = { sinceHours: 11, pace: 0.25 };
    const said = forecastSlowed({ readings: readings(11, 0.25), aimUm: 20 }, slowed);
    if (!said.ok) throw new Error('expected a forecast');
    // At full pace 20 µm are there after ln(85/6)/0.09 h; what is left after hour 11 takes four times as long.
    const exact = 11 + (hoursToAim(curve, 20) - 11) / 0.25;
    expect(said.toAim.low).toBeLessThan(exact);
    expect(said.toAim.high).toBeGreaterThan(exact);
    expect(said.curve.rate).toBeCloseTo(0.09, 1);
    expect(said.at(22).median).toBeCloseTo(gritAt(curve, 11 + 0.25 * 11), 0);
    const steady = forecastGrind({ readings: readings(11, 0.25), aimUm: 20 });
    const off = (hours: number) => Math.abs(Math.log(hours / exact));
    expect(off(said.toAim.median)).toBeLessThan(0.5 * off(steady.ok ? steady.toAim.median : exact));
    expect(said.nextReading(22, 30).hours).toBeGreaterThanOrEqual(22);
    expect(() => forecastSlowed({ readings: readings(11, 0.25), aimUm: 20 }, { ...slowed, pace: 0 })).toThrow(
      RangeError,
    );
  });
  test('teaches its stones’ pace and not that of the belt that slipped', () => {
    const learnt = (of: readonly GritReading[]) => {
      const fit = forecastGrind({ readings: of, aimUm: 20 });
      if (!fit.ok) throw new Error('expected a fit');
      return fit.curve.rate;
    };
    const slipped = readings(11, 0.25);
    const whole = learnt(readings(null, 1));
    expect(Math.abs(Math.log(learnt(readingsToLearnFrom(slipped)) / whole))).toBeLessThan(
      0.5 * Math.abs(Math.log(learnt(slipped) / whole)),
    );
    // One that kept its pace, and what was ground before something was added, stay as they are.
    expect(readingsToLearnFrom(readings(null, 1))).toEqual(readings(null, 1));
    const added = [{ hours: 5, um: 60, segment: 0 }, ...slipped.map((r) => ({ ...r, segment: 1 }))];
    expect(readingsToLearnFrom(added)[0]).toEqual(added[0]);
    expect(readingsToLearnFrom(added).at(-1)!.hours).toBeLessThan(22);
    expect(readingsToLearnFrom([])).toEqual([]);
  });
  test('refuses readings out of order and nonsense', () => {
    expect(() => slowedGrind(readings(null, 1).reverse())).toThrow(/order of time/);
    expect(() => slowedGrind(readings(null, 1).map((r) => ({ ...r, um: -1 })))).toThrow(RangeError);
    expect(() => grindMisfit([])).toThrow(RangeError);
  });
});

describe('learning', () => {
  const run = (rate: number): LearnedRun => {
    const readings = [2, 6, 12, 18, 24, 30, 40].map((hours) => ({
      hours,
      um: gritAt({ rate, finest: 14, coarse: 85 }, hours),
    }));
    const f = forecastGrind({ readings, aimUm: 20 });
    if (!f.ok) throw new Error('expected a fit');
    return f.learned;
  };
  test('without runs the trade’s ranges serve', () => expect(learnPrior([])).toBe(USUAL_GRIND_PRIOR));
  test('a machine’s own rate takes over, and the range narrows towards that between runs', () => {
    const p = learnPrior(Array.from({ length: 12 }, () => run(0.05)));
    expect(p.rate.median).toBeCloseTo(0.05, 2);
    expect(p.rate.factor).toBeLessThan(1.3);
    expect(p.rate.factor).toBeGreaterThan(1.1);
    expect(p.runs).toBe(12);
  });
  test('stones that wear are told from ones that merely vary', () => {
    const month = 30 * 86_400_000;
    const random = seededRandom(3);
    const runs = (perMonth: number) =>
      Array.from({ length: 14 }, (_, i) => ({
        at: i * month,
        rate: 0.09 * Math.exp(perMonth * i + 0.05 * normalDraw(random)),
      }));
    const wearing = wearTrend(runs(-0.03))!;
    expect(wearing.wears).toBe(true);
    expect(wearing.perYear).toBeCloseTo(Math.expm1(-0.03 * 12.175), 1);
    expect(wearTrend(runs(0))!.wears).toBe(false);
    expect(wearTrend(runs(0).slice(0, 4))).toBeNull();
  });
});
