import { evenNormals, leastSquares, lineThrough, quantile } from '../numerics/index.ts';
import { drawBean } from './bean.ts';
import type { BeanReading } from './dose.ts';
import { factorOf } from './learn.ts';
import { thinReadings, type LoggedRoast } from './logged.ts';
import { learnMisses, shared, USUAL_MISSES, whitening, type Missed, type Misses } from './misses.ts';
import {
  BETWEEN,
  DISCREPANCY_TIME,
  OVEN_PRIOR_SD,
  PROBE_SD,
  shiftOven,
  START_SD,
  type Oven,
} from './oven.ts';
import { planMinutes } from './plan.ts';
import { lossAt, runAt, simulateRoast, type KillStep, type RoastRun } from './simulate.ts';
import { fromBeansIn } from './turningPoint.ts';

/** A number with its 80 % range. */
export interface Ranged {
  median: number;
  low: number;
  high: number;
}

/** A roast that is running, or about to. */
export interface LiveRoast extends LoggedRoast {
  oven: Oven;
  /** Covariance of the oven's shifts, as learnt; the usual prior where left out. */
  covariance?: readonly (readonly number[])[];
  /** Seconds since beans-in; readings after it are not looked at. */
  now: number;
  killStep?: KillStep;
  /** Wanted roast dose, minutes at 120 °C: its time is forecast. */
  aimDose?: number | null;
  /** Highest surface temperature the lot may see, °C: whether it will be passed is forecast. */
  ceilingC?: number | null;
}

/** A derived quantity now and at the end. */
export interface Gauge {
  now: Ranged;
  end: Ranged;
}

/** What the model expects of a roast from now to its end, with 80 % ranges. */
export interface RoastForecast {
  /** Seconds, and the bean's temperature there, °C. From 0; the past follows the readings. */
  line: { seconds: number; median: number; low: number; high: number; air: number }[];
  /** When the plan ends, seconds after beans-in. */
  end: Ranged;
  /** When the dose reaches its aim; null without an aim, Infinity where it never does by the end. */
  doseAt: Ranged | null;
  beanAtEnd: Ranged;
  surfaceNow: Ranged;
  /**
   * Whether the beans' surface passes the ceiling within {@link CEILING_AHEAD} s, 0–1, and in how many seconds where it does; null without
   * a ceiling, readings or a way left to go.
   */
  ceiling: { chance: number; seconds: number } | null;
  /**
   * How fast the beans warm now, °C/min: as the model has it, which knows of stage, door and stir, and as the probe has lately departed from that.
   */
  paceNow: number;
  /** How far the probe in the beans goes up in the next minute, its own wandering counted in; °C/min. */
  pace: Ranged;
  moisture: Gauge;
  acid: Gauge;
  dose: Gauge;
  logReduction: Gauge;
  /** Share of its mass the load has lost, 0–1. */
  lossShare: Gauge;
  /** Readings it rests on. */
  readings: number;
}

/**
 * The bean's expected temperature at a moment with its 80 % range, °C: the forecast's line, straight between its points
 * and level before the first and after the last.
 */
export function beanExpectedAt({ line }: Pick<RoastForecast, 'line'>, seconds: number): Ranged {
  const next = line.findIndex((p) => p.seconds >= seconds);
  if (next <= 0) return line[next < 0 ? line.length - 1 : 0]!;
  const [a, b] = [line[next - 1]!, line[next]!];
  const share = (seconds - a.seconds) / (b.seconds - a.seconds);
  const between = (key: keyof Ranged) => a[key] + (b[key] - a[key]) * share;
  return { median: between('median'), low: between('low'), high: between('high') };
}

/** How far ahead a ceiling is looked at, s: time enough to open the door. */
export const CEILING_AHEAD = 300;

const DRAWS = 40;

/** Step of the differences by which the model is linearised, in standard deviations of a parameter. */
const STEP = 0.1;
const COARSE = { shells: 10, step: 5, sampleEvery: 15 } as const;
const LONGEST_TAIL = 1800;

/** The pace of now is the model's over so many seconds, and the probe's departure from it over so many; both back from now. */
const PACE_OF = { model: 15, probe: 90 } as const;

/** A departure is read from so many readings at least, over so many seconds. */
const DEPARTED = { readings: 4, seconds: 45 } as const;

/**
 * Forecasts a roast to the end of its plan. The oven as learnt is the prior; the roast's own readings shift it (maximum a
 * posteriori by Levenberg–Marquardt), and draws from what is then still open, carried to the end by the model, give the
 * band. Without readings it is the corridor of the plan. The band narrows as readings come in. Events after now are
 * taken as planned.
 *
 * @throws RangeError for a load not above 0 or an empty plan
 */
export function forecastRoast(live: LiveRoast): RoastForecast {
  const seen = <R extends { seconds: number }>(list: readonly R[]) =>
    list.filter((r) => r.seconds <= live.now);
  const { beanReadings, ovenReadings } = fromBeansIn({
    beanReadings: seen(live.beanReadings),
    ovenReadings: seen(live.ovenReadings),
  });
  const prior =
    live.covariance ?? OVEN_PRIOR_SD.map((sd, i) => OVEN_PRIOR_SD.map((_, k) => (i === k ? sd * sd : 0)));
  const own = [PROBE_SD, START_SD.bean, START_SD.air];
  const covariance = [
    ...prior.map((row, i) => [
      ...row.map((v, k) => v + (i === k ? BETWEEN[i]! ** 2 : 0)),
      ...own.map(() => 0),
    ]),
    ...own.map((sd, i) => [...prior.map(() => 0), ...own.map((_, k) => (i === k ? sd * sd : 0))]),
  ];
  const factor = factorOf(covariance);
  const beans = thinReadings(beanReadings, 36);
  const airs = thinReadings(ovenReadings, 24);
  const begin = startReading(beanReadings, 10, 45);
  const airBegin = startReading(ovenReadings, 45, 400);
  const run = (shifts: readonly number[], until?: number, bean = live.bean) =>
    simulateRoast({
      ...COARSE,
      bean,
      oven: shiftOven(live.oven, shifts),
      plan: live.plan,
      loadKg: live.loadKg,
      // A probe that reads too much reads too much from the start.
      roomC: (begin ? begin.celsius - shifts[4]! : (live.roomC ?? 21)) + shifts[5]!,
      airC: airBegin && airBegin.celsius + shifts[6]!,
      events: live.events,
      until,
      killStep: live.killStep,
    });
  // The parameters are whitened: each a standard normal beforehand.
  const unwhiten = (z: readonly number[]) =>
    covariance.map((_, i) => z.reduce((sum, v, k) => sum + factor.get(i, k) * v, 0));
  let centre = covariance.map(() => 0);
  let spread = factorOf(covariance.map((_, i) => covariance.map((__, k) => (i === k ? 1 : 0))));
  let misses: Misses = USUAL_MISSES.bean;
  if (beans.length > 0) {
    const until = Math.min(live.now, planMinutes(live.plan) * 60 + LONGEST_TAIL) + 15;
    const missedAt = (z: readonly number[]) => {
      const shifts = unwhiten(z);
      const r = run(shifts, until);
      return {
        bean: beans.map((b) => runAt(r, 'bean', b.seconds) + shifts[4]! - b.celsius),
        air: airs.map((a) => runAt(r, 'air', a.seconds) - a.celsius),
      };
    };
    const fitBy = (bean: Misses, air: Misses, start: readonly number[], maxIterations: number) => {
      const [ofBean, ofAir] = [whitening(beans, bean), whitening(airs, air)];
      return leastSquares({
        residuals: (z) => {
          const missed = missedAt(z);
          return [...ofBean(missed.bean), ...ofAir(missed.air), ...z];
        },
        start: [...start],
        scale: centre.map(() => 100),
        maxIterations,
        // A thousandth of a standard deviation more or less is nothing to a range.
        tolerance: 1e-4,
      });
    };
    const first = fitBy(USUAL_MISSES.bean, USUAL_MISSES.air, centre, 8);
    const here = missedAt(first.parameters);
    const moved = first.parameters.map((_, k) =>
      missedAt(first.parameters.map((v, i) => (i === k ? v + STEP : v))),
    );
    const of = (probe: 'bean' | 'air', readings: readonly BeanReading[]): Missed => ({
      readings,
      missed: here[probe],
      moves: here[probe].map((m, i) => moved.map((other) => (other[probe][i]! - m) / STEP)),
    });
    const found = learnMisses(of('bean', beans), of('air', airs), first.parameters);
    misses = found.bean;
    const fit = fitBy(found.bean, found.air, first.parameters, 4);
    centre = fit.parameters;
    spread = factorOf(fit.covariance.to2DArray());
  }
  const draws = evenNormals(DRAWS, centre.length + 3).map(([noise, ...e]) => {
    const [wetter, faster] = e.splice(centre.length) as [number, number];
    const z = centre.map((c, i) => c + e.reduce((sum, v, k) => sum + spread.get(i, k) * v, 0));
    const shifts = unwhiten(z);
    // How wet the beans of this load are, and how fast they dry, is known roughly at best.
    const bean = drawBean(live.bean, wetter, faster);
    const open = run(shifts, undefined, bean);
    // A roast left in after its plan is followed as far as it has come.
    const r = open.endSeconds < live.now ? run(shifts, live.now, bean) : open;
    return {
      r,
      probe: shifts[4]!,
      end: Math.max(open.endSeconds, live.now),
      planEnd: open.endSeconds,
      noise: noise!,
      moisture: bean.moisture,
    };
  });
  return gather(live, draws, beanReadings, misses.stray);
}

/** The first reading, where it is early and cool enough to be what was put in; else undefined. */
function startReading(
  readings: readonly BeanReading[],
  within: number,
  belowC: number,
): BeanReading | undefined {
  const first = readings[0];
  return first && first.seconds <= within && first.celsius > 0 && first.celsius < belowC ? first : undefined;
}

interface Draw {
  r: RoastRun;
  probe: number;
  end: number;
  planEnd: number;
  noise: number;
  /** At the start, kg/kg. */
  moisture: number;
}

const ranged = (values: readonly number[]): Ranged => ({
  median: quantile(values, 0.5),
  low: quantile(values, 0.1),
  high: quantile(values, 0.9),
});

function gather(
  live: LiveRoast,
  draws: readonly Draw[],
  readings: readonly { seconds: number; celsius: number }[],
  stray: number,
): RoastForecast {
  const { now } = live;
  const lately = readings.filter((r) => r.seconds > now - 60);
  const miss = (d: Draw) =>
    lately.length === 0
      ? 0
      : lately.reduce((s, r) => s + r.celsius - runAt(d.r, 'bean', r.seconds) - d.probe, 0) / lately.length;
  const misses = draws.map(miss);
  const fade = (t: number) => shared(Math.max(0, t - now));
  const beanAt = (i: number, t: number) => {
    const d = draws[i]!;
    const f = t >= now ? fade(t) : 1;
    const open = readings.length === 0 ? 1 : Math.sqrt(1 - f * f);
    // At beans-in nothing is uncertain yet; without readings the model's own error grows in over the first minutes.
    const grown = readings.length === 0 ? 1 - Math.exp(-t / DISCREPANCY_TIME) : 1;
    const probe = readings.length === 0 ? d.probe * grown : d.probe;
    return runAt(d.r, 'bean', t) + probe + misses[i]! * f + d.noise * stray * open * grown;
  };
  const end = ranged(draws.map((d) => d.end));
  const longest = Math.max(end.median, now);
  const line: RoastForecast['line'] = [];
  const stepOf = Math.max(15, longest / 120);
  for (let t = 0; t < longest + stepOf; t += stepOf) {
    const at = Math.min(t, longest);
    const values = draws.map((_, i) => beanAt(i, at));
    line.push({
      seconds: at,
      ...ranged(values),
      air: quantile(
        draws.map((d) => runAt(d.r, 'air', at)),
        0.5,
      ),
    });
    if (at === longest) break;
  }
  const gauge = (column: 'moisture' | 'acid' | 'dose' | 'logReduction'): Gauge => ({
    now: ranged(draws.map((d) => runAt(d.r, column, now))),
    end: ranged(draws.map((d) => runAt(d.r, column, d.end))),
  });
  const minute = Math.min(now + 60, longest);
  return {
    line,
    end: ranged(draws.map((d) => d.planEnd)),
    doseAt: live.aimDose ? ranged(draws.map((d) => doseTime(d.r, live.aimDose!))) : null,
    beanAtEnd: ranged(draws.map((d, i) => beanAt(i, d.end))),
    surfaceNow: ranged(draws.map((d, i) => runAt(d.r, 'surface', now) + misses[i]!)),
    ceiling:
      live.ceilingC == null || readings.length === 0 || now >= longest
        ? null
        : ceilingAhead(
            draws.map((d, i) => (t: number) => runAt(d.r, 'surface', t) + misses[i]! * fade(t)),
            live.ceilingC,
            now,
            Math.min(now + CEILING_AHEAD, longest),
          ),
    paceNow: quantile(
      draws.map(({ r }) => paceOf(r, readings, now)),
      0.5,
    ),
    pace: ranged(
      draws.map((_, i) => ((beanAt(i, minute) - beanAt(i, now)) / Math.max(15, minute - now)) * 60),
    ),
    moisture: gauge('moisture'),
    acid: gauge('acid'),
    dose: gauge('dose'),
    logReduction: gauge('logReduction'),
    lossShare: {
      now: ranged(draws.map((d) => lossAt(d.r, d.moisture, now))),
      end: ranged(draws.map((d) => d.r.lossShare)),
    },
    readings: readings.length,
  };
}

/** The pace of a run now, and that by which the readings lately leave it, °C/min. */
function paceOf(run: RoastRun, readings: readonly BeanReading[], now: number): number {
  const from = now - PACE_OF.model;
  const modelled = (runAt(run, 'bean', now) - runAt(run, 'bean', from)) / PACE_OF.model;
  const lately = readings.filter((r) => r.seconds > now - PACE_OF.probe);
  if (lately.length < DEPARTED.readings || lately.at(-1)!.seconds - lately[0]!.seconds < DEPARTED.seconds)
    return 60 * modelled;
  const departed = lineThrough(
    lately.map((r) => ({ x: r.seconds, y: r.celsius - runAt(run, 'bean', r.seconds) })),
  );
  return 60 * (modelled + departed!.slope);
}

/** Share of surfaces that pass a ceiling between two moments, and the median wait of those that do, s. */
function ceilingAhead(
  surfaces: readonly ((seconds: number) => number)[],
  ceilingC: number,
  from: number,
  to: number,
): { chance: number; seconds: number } {
  const waits = surfaces.flatMap((surface) => {
    for (let t = from; t <= to; t += 15) if (surface(t) > ceilingC) return [t - from];
    return [];
  });
  return {
    chance: waits.length / surfaces.length,
    seconds: waits.length === 0 ? Infinity : quantile(waits, 0.5),
  };
}

/** When a run's dose reaches an aim; Infinity where it does not within the run. */
function doseTime(run: RoastRun, aim: number): number {
  const { seconds, dose } = run;
  for (let i = 1; i < seconds.length; i += 1) {
    if (dose[i]! < aim) continue;
    const share = (aim - dose[i - 1]!) / (dose[i]! - dose[i - 1]!);
    return seconds[i - 1]! + share * (seconds[i]! - seconds[i - 1]!);
  }
  return Number.POSITIVE_INFINITY;
}
