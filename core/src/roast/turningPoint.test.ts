import { normalDraw, seededRandom } from '../numerics/index.ts';
import {
  acidLeft,
  beansOwn,
  forecastRoast,
  learnOven,
  makeBean,
  makeOven,
  roastDose,
  shiftOven,
  simulateRoast,
  STARTER_PLANS,
  watchRoast,
  type BeanReading,
  type LoggedRoast,
} from './index.ts';

const bean = makeBean();
const drum = makeOven({ kind: 'drum', usableKg: 2 });
const plan = STARTER_PLANS[0]!;

/** What a probe reads that follows the beans with a time of its own, s, having been at `hotC` when they went in. */
function probe(
  beans: readonly BeanReading[],
  hotC: number,
  lag: number,
  noise: number,
  seed = 3,
): BeanReading[] {
  const random = seededRandom(seed);
  let reads = hotC;
  return beans.map(({ seconds, celsius }, i) => {
    const since = i === 0 ? 0 : seconds - beans[i - 1]!.seconds;
    reads += (celsius - reads) * (1 - Math.exp(-since / lag));
    return { seconds, celsius: reads + noise * normalDraw(random) };
  });
}

function roastIn(oven = drum, loadKg = 1.6) {
  const run = simulateRoast({ bean, oven, plan, loadKg, sampleEvery: 2 });
  const read = (column: 'bean' | 'air'): BeanReading[] =>
    Array.from(run.seconds, (seconds, i) => ({ seconds, celsius: run[column][i]! }));
  return { beans: read('bean'), air: read('air') };
}

const live = { plan, bean, oven: drum, loadKg: 1.6, events: [] };

describe('a bean probe that was heated with the oven', () => {
  const { beans, air } = roastIn();
  const truth = roastDose(beans);

  test.each([
    [120, 8],
    [160, 12],
    [200, 20],
    [230, 30],
  ])('from %i °C, following within %i s, gives the dose of the beans', (hotC, lag) => {
    const readings = probe(beans, hotC, lag, 0.3);
    const { readings: own, turning } = beansOwn(readings);
    expect(turning!.celsius).toBeLessThan(90);
    expect(Math.abs(roastDose(own) - truth)).toBeLessThan(0.04 * truth + 0.1);
    // The mean over the roast lags by as much as the probe does, whatever it began at.
    expect(Math.abs(roastDose(own) - roastDose(probe(beans, beans[0]!.celsius, lag, 0)))).toBeLessThan(0.15);
    expect(Math.abs(acidLeft(own) - acidLeft(beans))).toBeLessThan(0.02);
  });

  test('what was read before it turned is left out, whatever it was', () => {
    const readings = probe(beans, 200, 12, 0.2);
    const { turning, readings: own } = beansOwn(readings);
    expect(roastDose(readings)).toBeGreaterThan(1.3 * truth);
    expect(own[0]).toEqual(turning);
    expect(turning!.celsius - Math.min(...readings.map((r) => r.celsius))).toBeLessThan(0.6);
  });

  test('nothing is said of the beans while it falls, and no alarm rings', () => {
    const readings = probe(beans, 200, 12, 0.2);
    const { turning } = beansOwn(readings);
    for (const now of [0, 4, 20, turning!.seconds - 4]) {
      const seen = readings.filter((r) => r.seconds <= now);
      expect(beansOwn(seen)).toEqual({ readings: [], turning: null, isFalling: true });
      const watched = {
        now,
        bean: seen,
        oven: [],
        setC: 140,
        expectedC: 40,
        surfaceC: null,
        ceilingC: 135,
        stirEvery: null,
        lastStir: null,
        endSeconds: null,
        probe: true,
      };
      expect(watchRoast(watched)).toEqual([]);
    }
    expect(beansOwn(readings.filter((r) => r.seconds <= turning!.seconds + 30)).turning).not.toBeNull();
  });

  test('the forecast is that of a probe that was cool', () => {
    const at = (beanReadings: BeanReading[]) =>
      forecastRoast({ ...live, beanReadings, ovenReadings: air, now: 720, aimDose: 8 });
    const [hot, cool] = [at(probe(beans, 210, 10, 0.2)), at(probe(beans, beans[0]!.celsius, 10, 0.2))];
    expect(hot.beanAtEnd.median).toBeCloseTo(cool.beanAtEnd.median, -0.3);
    expect(Math.abs(hot.dose.end.median - cool.dose.end.median)).toBeLessThan(0.06 * cool.dose.end.median);
  });

  test('an oven is learned as well from hot probes as from cool ones, and from a log that begins with the preheating', () => {
    const unknown = shiftOven(drum, [0.2, -0.2, 0.3, -5]);
    const logs = (hotC: number | null): LoggedRoast[] =>
      [1.2, 1.6, 2].map((loadKg, i) => {
        const seen = roastIn(unknown, loadKg);
        const before = Array.from({ length: 60 }, (_, k) => ({
          seconds: 10 * (k - 60),
          celsius: 20 + 2 * k,
        }));
        return {
          ...live,
          loadKg,
          beanReadings: [
            ...(hotC === null ? [] : before),
            ...probe(seen.beans, hotC ?? seen.beans[0]!.celsius, 10, 0.3, i),
          ],
          ovenReadings: [...(hotC === null ? [] : before), ...seen.air],
        };
      });
    const [hot, cool] = [learnOven(drum, logs(190)), learnOven(drum, logs(null))];
    hot.shifts.forEach((s, i) =>
      expect(Math.abs(s - cool.shifts[i]!)).toBeLessThan(Math.sqrt(cool.covariance[i]![i]!)),
    );
    expect(hot.rms).toBeLessThan(cool.rms + 1);
  });
});

describe('a probe with a loose plug', () => {
  const { beans } = roastIn();
  const truth = roastDose(beans);
  const faults: [string, (i: number) => number | null][] = [
    ['a spark', (i) => (i === 300 ? 600 : null)],
    ['an open plug for ten seconds', (i) => (i >= 400 && i < 405 ? 0 : null)],
    ['sparks all along', (i) => (i % 40 === 27 ? 320 : null)],
  ];
  test.each(faults)('%s changes neither dose nor acid, and rings no alarm', (_, fault) => {
    const readings = beans.map((r, i) => ({ ...r, celsius: fault(i) ?? r.celsius }));
    const { readings: own, turning } = beansOwn(readings);
    expect(turning).toBeNull();
    expect(roastDose(own)).toBeCloseTo(truth, 1);
    expect(acidLeft(own)).toBeCloseTo(acidLeft(beans), 3);
    const at = readings.findIndex((r, i) => r.celsius === fault(i));
    const now = readings[at]!.seconds;
    const watched = {
      now,
      bean: readings.slice(0, at + 1),
      oven: [],
      setC: null,
      expectedC: beans[at]!.celsius,
      surfaceC: null,
      ceilingC: 200,
      stirEvery: null,
      lastStir: null,
      endSeconds: null,
      probe: true,
    };
    expect(watchRoast(watched)).toEqual([]);
  });

  test('in a hot drum the turning point is not where it had a short circuit', () => {
    const hot = probe(beans, 200, 12, 0.2);
    const { turning } = beansOwn(hot);
    const broken = hot.map((r, i) => (i === 8 ? { ...r, celsius: -100 } : r));
    expect(beansOwn(broken).turning).toEqual(turning);
  });
});

describe('a probe that tells of the beans from the start', () => {
  test.each([
    ['cool at first', [22, 24, 30, 41, 55, 70]],
    ['noted by hand, late', [96, 101, 104, 108, 111, 113]],
    ['steady', [120, 120, 120, 120, 120, 120]],
    ['warm from a first pass', [40, 44, 52, 60, 70, 78]],
  ])('%s', (name, values) => {
    const from = name === 'noted by hand, late' ? 240 : 0;
    const readings = values.map((celsius, i) => ({ seconds: from + 30 * i, celsius }));
    expect(beansOwn(readings)).toEqual({ readings, turning: null, isFalling: false });
  });

  test('a dip later on, when the door is open, is the beans’ own', () => {
    const readings = [22, 40, 60, 80, 60, 85, 100].map((celsius, i) => ({ seconds: 60 * i, celsius }));
    expect(beansOwn(readings).readings).toEqual(readings);
  });

  test('what was read before the beans went in is not theirs', () => {
    const readings = [-60, -30, 0, 30].map((seconds) => ({ seconds, celsius: 25 }));
    expect(beansOwn(readings).readings.map((r) => r.seconds)).toEqual([0, 30]);
  });

  test('none gives none, and what is no number is refused', () => {
    expect(beansOwn([])).toEqual({ readings: [], turning: null, isFalling: false });
    expect(() => beansOwn([{ seconds: 0, celsius: Number.NaN }])).toThrow(RangeError);
  });
});
