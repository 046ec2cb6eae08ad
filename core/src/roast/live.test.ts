import { normalDraw, seededRandom } from '../numerics/index.ts';
import { often } from '../testing/index.ts';
import {
  compareRoasts,
  crossing,
  forecastRoast,
  foretoldRoast,
  learnOven,
  makeBean,
  makeOven,
  planMinutes,
  plannedStirs,
  reckonsStirs,
  runAt,
  shiftOven,
  simulateRoast,
  smoothedAt,
  solvePlan,
  STARTER_PLANS,
  starterPlans,
  timeToTarget,
  watchRoast,
  type LoggedRoast,
  type Oven,
  type RoastEvent,
  type RoastPlan,
} from './index.ts';

const bean = makeBean();
const usual = makeOven({ usableKg: 3 });
/** An oven the learner does not know: weaker, slower, and 6 K cooler than its dial. */
const truth = shiftOven(usual, [0.25, -0.3, 0.4, -6]);
test('the plans to start from are set to an oven’s dial in °F, and as they are in °C', () => {
  expect(starterPlans('°C')).toEqual(STARTER_PLANS);
  const set = starterPlans('°F').flatMap((p) => p.stages.map((s) => s.setC * 1.8 + 32));
  expect(set.map((f) => (Math.round((f % 5) * 100) / 100) % 5)).toEqual(set.map(() => 0));
  expect(Math.round(set[1]!)).toBe(250);
});

const plans: RoastPlan[] = [STARTER_PLANS[0]!, STARTER_PLANS[1]!, STARTER_PLANS[2]!];

function logged(oven: Oven, seed: number, loadKg: number, plan: RoastPlan): LoggedRoast {
  const random = seededRandom(seed);
  const run = simulateRoast({ bean, oven, plan, loadKg, sampleEvery: 10 });
  const read = (column: 'bean' | 'air', noise: number) =>
    Array.from(run.seconds, (seconds, i) => ({
      seconds,
      celsius: run[column][i]! + noise * normalDraw(random),
    }));
  return { bean, plan, loadKg, events: [], beanReadings: read('bean', 0.4), ovenReadings: read('air', 0.8) };
}

describe('learning an oven', () => {
  const roasts = [0, 1, 2, 3, 4, 5].map((i) => logged(truth, 10 + i, 1.6 + 0.2 * i, plans[i % 3]!));
  const learnt = learnOven(usual, roasts.slice(0, 3));
  test('finds heat transfer, power and offset again, within three of its own uncertainties', () => {
    const shifts = [0.25, -0.3, 0.4, -6];
    learnt.shifts.forEach((s, i) =>
      expect(Math.abs(s - shifts[i]!)).toBeLessThan(3 * Math.sqrt(learnt.covariance[i]![i]!) + 0.02),
    );
    expect(learnt.figures[0]!.u).toBeLessThan(0.2 * learnt.figures[0]!.value);
    expect(learnt.rms).toBeLessThan(1);
  });
  test('predicts the time to a target on roasts it has not seen better than before', () => {
    const error = (oven: Oven) =>
      roasts.slice(3).reduce((sum, r) => {
        const e = timeToTarget(r, oven, 105)!;
        return sum + Math.abs(e.predictedSeconds - e.measuredSeconds);
      }, 0) / 3;
    expect(error(learnt.oven)).toBeLessThan(error(usual) / 4);
    expect(error(learnt.oven)).toBeLessThan(15);
  });
  test('gives the prior back when it has nothing to learn from', () => {
    const none = learnOven(usual, [{ ...roasts[0]!, beanReadings: [] }]);
    expect(none).toMatchObject({ roasts: 0, shifts: [0, 0, 0, 0] });
    expect(none.oven).toEqual(usual);
  });
});

describe('stirs that hands do not note', () => {
  /** Four roasts of an oven, stirred or not and noted or not, and how far off the dose of the next one is. */
  const off = (isStirred: boolean, isNoted: boolean, seed: number) => {
    const random = seededRandom(seed);
    const real = shiftOven(
      usual,
      [0.2, 0.2, 0.2, 3].map((sd) => sd * normalDraw(random)),
    );
    const stirs = (plan: RoastPlan) => (isStirred ? plannedStirs(plan, 360, 0) : []);
    const past = [0, 1, 2, 0].map((i, k) => {
      const common = { bean, plan: plans[i]!, loadKg: 2.2 + 0.2 * k };
      const run = simulateRoast({ ...common, oven: real, events: stirs(plans[i]!) });
      const read = (column: 'bean' | 'air', noise: number) =>
        Array.from(run.seconds, (seconds, n) => ({
          seconds,
          celsius: run[column][n]! + noise * normalDraw(random),
        }));
      const events = isNoted ? stirs(plans[i]!) : [];
      return { ...common, events, beanReadings: read('bean', 0.4), ovenReadings: read('air', 0.8) };
    });
    const learnt = learnOven(usual, past);
    const next = { bean, plan: plans[0]!, loadKg: 2.5 };
    const dose = (oven: Oven, events: RoastEvent[]) => simulateRoast({ ...next, oven, events }).dose.at(-1)!;
    const came = dose(real, stirs(plans[0]!));
    const expected = dose(learnt.oven, reckonsStirs(learnt) ? plannedStirs(plans[0]!, 360, 0) : []);
    return Math.log(expected / came);
  };
  test.each([
    ['stirred and noted', true, true],
    ['stirred without a word', true, false],
    ['never stirred', false, false],
  ])('are in what the oven has taught: %s', (_, isStirred, isNoted) => {
    const all = Array.from({ length: often(2, 6) }, (_, i) => off(isStirred, isNoted, i + 1));
    expect(Math.abs(all.reduce((a, b) => a + b, 0) / all.length)).toBeLessThan(0.04);
  });
  test('are reckoned with as long as nothing is learnt', () => {
    expect(reckonsStirs(learnOven(usual, []))).toBe(true);
  });
});

describe('forecast', () => {
  const roast = logged(truth, 77, 2.2, STARTER_PLANS[0]!);
  const at = (now: number, more: object = {}) =>
    forecastRoast({ ...roast, oven: usual, now, aimDose: 5, ...more });
  test('the band narrows as readings come in, and holds the end', () => {
    const [before, early, late] = [at(0, { beanReadings: [], ovenReadings: [] }), at(300), at(1200)];
    const width = (f: typeof early) => f.beanAtEnd.high - f.beanAtEnd.low;
    expect(width(early)).toBeLessThan(width(before));
    expect(width(late)).toBeLessThan(width(early) + 0.2);
    const end = roast.beanReadings.at(-1)!.celsius;
    expect(late.beanAtEnd.low - 1).toBeLessThan(end);
    expect(late.beanAtEnd.high + 1).toBeGreaterThan(end);
  });
  test('says when the dose is reached, and what will be lost', () => {
    const f = at(900);
    const run = simulateRoast({ bean, oven: truth, plan: roast.plan, loadKg: 2.2 });
    const when = crossing(
      Array.from(run.seconds, (s, i) => [s, run.dose[i]!] as const),
      5,
    )!;
    expect(Math.abs(f.doseAt!.median - when)).toBeLessThan(120);
    expect(Math.abs(f.lossShare.end.median - run.lossShare)).toBeLessThan(0.005);
    expect(f.dose.now.median).toBeLessThan(f.dose.end.median);
    expect(f.end.median).toBe(35 * 60);
  });
  test('foresees the surface passing a ceiling, and only then', () => {
    const run = simulateRoast({ bean, oven: truth, plan: roast.plan, loadKg: 2.2 });
    const hottest = run.surfaceMax;
    const when = run.seconds[run.surface.findIndex((s) => s > hottest - 4)]!;
    const before = at(when - 120, { ceilingC: hottest - 4 });
    expect(before.ceiling!.chance).toBeGreaterThan(0.5);
    expect(before.ceiling!.seconds).toBeLessThan(300);
    expect(at(when - 120, { ceilingC: hottest + 15 }).ceiling).toEqual({ chance: 0, seconds: Infinity });
    expect(at(600).ceiling).toBeNull();
  });
  test('a finished roast foretold ten minutes before its last reading', () => {
    const said = foretoldRoast(roast, usual)!;
    expect(said.actual).toBe(roast.beanReadings.at(-1)!.celsius);
    expect(Math.abs(said.actual - said.mean)).toBeLessThan(3 * said.sd);
    expect(foretoldRoast({ ...roast, beanReadings: roast.beanReadings.slice(0, 60) }, usual)).toBeNull();
  });
  test('a probe that reads too much is told from a hot oven by where it began', () => {
    // Both as the oven really is; one probe 3 K over throughout.
    const off = { ...roast, beanReadings: roast.beanReadings.map((r) => ({ ...r, celsius: r.celsius + 3 })) };
    const dose = (r: LoggedRoast) => forecastRoast({ ...r, oven: usual, now: 1500 }).dose.end.median;
    expect(dose(off) / dose(roast)).toBeLessThan(1.3);
    // 3 K are a fifth to a third more dose when they are taken for heat.
    expect(dose(off)).toBeGreaterThan(0.9 * dose(roast));
  });
  test('a roast left in after its plan is followed on', () => {
    const f = at(40 * 60);
    expect(f.line.at(-1)!.seconds).toBe(40 * 60);
    expect(f.end.median).toBe(35 * 60);
  });
});

const SOLVED = {
  every: [6, 3, 10, 2, 4, 5, 7, 8, 12, 15].slice(0, often(2, 10)),
  doses: [14, 6, 8, 10, 12, 17, 20, 25].slice(0, often(1, 8)),
};

describe('solving a plan for an aim', () => {
  const common = { start: STARTER_PLANS[0]!, bean, oven: usual, loadKg: 2.1 };
  test('12 dose minutes, half the acid gone, surface under 150 °C', () => {
    const solved = solvePlan({ ...common, aim: { doseMinutes: 12, acidGone: 0.5, surfaceMaxC: 150 } });
    expect(solved.met).toBe(true);
    expect(solved.run.dose.at(-1)! / 12).toBeCloseTo(1, 1);
    expect(solved.run.surfaceMax).toBeLessThan(150.5);
    expect(1 - solved.run.acid.at(-1)!).toBeGreaterThan(0.49);
    for (const s of solved.plan.stages) expect(s.setC % 0.5).toBeCloseTo(0, 9);
  });
  test.each(SOLVED.every)(
    'where the door is opened every %s min to stir, what is reckoned has it opened',
    (minutes) => {
      const stirEvery = minutes * 60;
      const { bean: beans, oven, loadKg } = common;
      for (const start of STARTER_PLANS)
        for (const doseMinutes of SOLVED.doses) {
          const solved = solvePlan({ ...common, start, aim: { doseMinutes, surfaceMaxC: 150 }, stirEvery });
          expect([start.name, doseMinutes, solved.met]).toEqual([start.name, doseMinutes, true]);
          // As it goes in the oven, with the stirs put in by hand.
          const events = Array.from({ length: 60 }, (_, i) => (i + 1) * stirEvery)
            .filter((seconds) => seconds < planMinutes(solved.plan) * 60 - 120)
            .map((seconds) => ({ seconds, kind: 'stir' as const, lasts: 20 }));
          const run = simulateRoast({ bean: beans, oven, loadKg, plan: solved.plan, events });
          expect(Math.abs(run.dose.at(-1)! / doseMinutes - 1)).toBeLessThan(0.031);
        }
    },
  );
  test('what an oven read in °F is set to is whole degrees of its dial, or halves', () => {
    for (const start of starterPlans('°F')) {
      const solved = solvePlan({
        ...common,
        start,
        aim: { doseMinutes: 14 },
        stirEvery: 360,
        dialUnit: '°F',
      });
      expect([start.name, solved.met]).toEqual([start.name, true]);
      for (const { setC } of solved.plan.stages) {
        const halves = (setC * 1.8 + 32) * 2;
        expect(Math.abs(halves - Math.round(halves))).toBeLessThan(0.01);
      }
    }
  });
  test('wishes that exclude each other come back with the nearest and by how much', () => {
    const solved = solvePlan({ ...common, aim: { doseMinutes: 25, surfaceMaxC: 105, maxMinutes: 20 } });
    expect(solved.met).toBe(false);
    const surface = solved.results.find((r) => r.what === 'surface')!;
    expect(surface.got).toBeLessThan(112);
    expect(solved.results.find((r) => r.what === 'dose')).toMatchObject({ met: false, wanted: 25 });
  });
});

test('stirs to come keep their interval from the last one and leave the end in peace', () => {
  const plan = { name: '', stages: [{ name: '', setC: 120, minutes: 28, fan: true }] };
  expect(plannedStirs(plan, 360, 0).map((s) => s.seconds)).toEqual([360, 720, 1080, 1440]);
  expect(plannedStirs(plan, 360, 500).map((s) => s.seconds)).toEqual([860, 1220]);
  expect(plannedStirs(plan, undefined, 0)).toEqual([]);
});

describe('watching', () => {
  const quiet = {
    now: 600,
    bean: [] as { seconds: number; celsius: number }[],
    oven: [],
    setC: 122,
    expectedC: 100,
    surfaceC: 104,
    ceilingC: 150,
    stirEvery: null,
    lastStir: null,
    endSeconds: 2100,
    probe: true,
  };
  const line = (from: number, to: number, celsius: (s: number) => number) =>
    Array.from({ length: (to - from) / 5 + 1 }, (_, i) => ({
      seconds: from + 5 * i,
      celsius: celsius(from + 5 * i),
    }));
  const codes = (more: object) =>
    watchRoast({ ...quiet, bean: line(0, 600, (s) => 20 + s * 0.13), ...more }).map((a) => a.code);
  test('nothing amiss, nothing said', () => expect(codes({})).toEqual([]));
  test('surface above the ceiling', () => expect(codes({ surfaceC: 151 })).toEqual(['scorch']));
  test('a silent probe', () => expect(codes({ now: 640 })).toEqual(['probe-lost']));
  test('hand readings are not a silent probe', () => expect(codes({ now: 640, probe: false })).toEqual([]));
  test('a probe that speaks °F', () => {
    const alarms = watchRoast({ ...quiet, bean: line(0, 600, () => 212) });
    expect(alarms[0]).toMatchObject({ code: 'scorch' === alarms[0]!.code ? 'scorch' : 'fahrenheit' });
    expect(alarms.find((a) => a.code === 'fahrenheit')).toMatchObject({ meantC: 100 });
  });
  test('stalled heating', () =>
    expect(codes({ bean: line(0, 600, (s) => Math.min(80, 20 + s * 0.2)) })).toEqual(['stalled']));
  test('a cold oven', () =>
    expect(
      codes({ now: 700, bean: line(0, 700, (s) => 20 + 0.13 * s), oven: line(0, 700, () => 95) }),
    ).toContain('oven-cold'));
  test('a ceiling about to be passed, by the forecast, and not said twice', () => {
    expect(codes({ ceiling: { chance: 0.7, seconds: 120 } })).toEqual(['scorch-ahead']);
    expect(codes({ ceiling: { chance: 0.3, seconds: 120 } })).toEqual([]);
    expect(codes({ ceiling: { chance: 0.9, seconds: 0 }, surfaceC: 151 })).toEqual(['scorch']);
    expect(() => codes({ ceiling: { chance: Number.NaN, seconds: 0 } })).toThrow(RangeError);
  });
  test('an oven that runs away from its setting, but not one that comes down from a hotter stage', () => {
    expect(codes({ oven: line(400, 600, (s) => 138 + (s - 400) * 0.06) })).toEqual(['oven-hot']);
    expect(codes({ oven: line(400, 600, (s) => 150 - (s - 400) * 0.06) })).toEqual([]);
    expect(codes({ oven: line(400, 600, (s) => 118 + (s - 400) * 0.06) })).toEqual([]);
  });
  test('a stir that is due, and beans that should be out', () => {
    expect(codes({ stirEvery: 360, lastStir: 200 })).toEqual(['stir-due']);
    expect(codes({ now: 600, endSeconds: 590, stirEvery: 360, lastStir: 200 })).toEqual(['beans-out']);
  });
});

test('pace by local quadratic', () => {
  const readings = Array.from({ length: 100 }, (_, i) => ({ seconds: i * 5, celsius: 20 + 0.05 * i * 5 }));
  expect(smoothedAt(readings, 480)!.pace).toBeCloseTo(3, 6);
});

test('the pace at the newest reading of a noisy probe stays within a kelvin a minute, and follows beans that slow down', () => {
  const random = seededRandom(41);
  // Half a kelvin of noise every three seconds, or a third every twenty; 3 °C/min slowing to 1 within ten minutes.
  for (const [every, noise] of [
    [3, 0.5],
    [20, 0.3],
  ] as const) {
    const missed = Array.from({ length: 400 }, () => {
      const readings = Array.from({ length: 1 + 600 / every }, (_, i) => ({
        seconds: i * every,
        celsius: 60 + (3 * i * every) / 60 - ((i * every) / 600) ** 2 * 10 + noise * normalDraw(random),
      }));
      return smoothedAt(readings, 600)!.pace - 1;
    });
    const mean = missed.reduce((a, b) => a + b, 0) / missed.length;
    expect(Math.abs(mean)).toBeLessThan(0.15);
    expect(Math.sqrt(missed.reduce((a, b) => a + b * b, 0) / missed.length)).toBeLessThan(1);
  }
});

test('the pace of now is steadier by the model than by the probe alone, also between stirs, and follows an oven that went out', () => {
  const plan = STARTER_PLANS[0]!;
  const stirs = plannedStirs(plan, 360, 0);
  const missed = { model: 0, probe: 0 };
  for (const seed of [1, 2]) {
    const run = simulateRoast({ bean, oven: truth, plan, loadKg: 2, events: stirs, sampleEvery: 5 });
    const random = seededRandom(seed);
    const read = (column: 'bean' | 'air', noise: number) =>
      Array.from(run.seconds, (s, i) => ({
        seconds: s,
        celsius: run[column][i]! + noise * normalDraw(random),
      }));
    const roast = {
      bean,
      plan,
      loadKg: 2,
      events: stirs,
      beanReadings: read('bean', 0.35),
      ovenReadings: read('air', 0.6),
    };
    for (const now of [400, 730, 1100]) {
      const pace = (runAt(run, 'bean', now) - runAt(run, 'bean', now - 10)) * 6;
      const seen = roast.beanReadings.filter((r) => r.seconds <= now);
      missed.model += (forecastRoast({ ...roast, oven: usual, now }).paceNow - pace) ** 2;
      missed.probe += (smoothedAt(seen, now)!.pace - pace) ** 2;
    }
  }
  expect(Math.sqrt(missed.model / 6)).toBeLessThan(0.6);
  expect(missed.model).toBeLessThan(missed.probe / 4);
  const out = simulateRoast({
    bean,
    oven: truth,
    plan,
    loadKg: 2,
    events: [{ seconds: 900, kind: 'set', setC: 20 }],
    until: 1080,
    sampleEvery: 5,
  });
  const readings = Array.from(out.seconds, (seconds, i) => ({ seconds, celsius: out.bean[i]! }));
  const said = forecastRoast({
    bean,
    plan,
    loadKg: 2,
    events: [],
    beanReadings: readings,
    ovenReadings: [],
    oven: usual,
    now: 1080,
  });
  expect(said.paceNow).toBeLessThan(-1.5);
});

test('roasts compared on beans-in', () => {
  const a = [0, 60, 120].map((seconds) => ({ seconds, celsius: 20 + seconds }));
  const b = [0, 60, 120].map((seconds) => ({ seconds, celsius: 25 + seconds }));
  const c = compareRoasts([a, b]);
  expect(c.rows).toHaveLength(9);
  expect(c.rows[0]).toMatchObject({ low: 20, middle: 22.5, high: 25, differences: [0, 5] });
  expect(c.largest).toEqual([null, { kelvin: 5, seconds: 0 }]);
});
test('a sampled run is read straight between samples', () => {
  const run = simulateRoast({ bean, oven: usual, plan: STARTER_PLANS[0]!, loadKg: 1, sampleEvery: 60 });
  expect(runAt(run, 'bean', 30)).toBeCloseTo((run.bean[0]! + run.bean[1]!) / 2, 9);
});
