import type { ConcheView, GrindView, ObservationRecord, StepRecord } from '@wunsch/contract';
import {
  DEFAULT_AIM_UM,
  forecastGrind,
  forecastSlowed,
  grindingHours,
  misreadGrit,
  slowedGrind,
  type GrindForecast,
  type GrindPrior,
  type GrindProblem,
  type SlowedGrind,
} from '@wunsch/core/grind';
import { dayStart, minuteOfDay } from '@wunsch/core/plan';
import { grindClock, type GrindLine } from '../stations/grind/index.ts';
import { concheClock, concheForecast, USUAL_SOUR_AIM } from '../stations/conche/index.ts';
import { remember } from './remember.ts';

const HOUR = 3_600_000;

/** Points of the drawn band. */
const BAND_POINTS = 24;

/** Clock hour at which somebody comes in and asks what it is now. */
const MORNING = 7;

/** Hours ahead within which the next reading is looked for. */
const LOOK_AHEAD = 30;

/** The clock is taken in steps this large for what is drawn, h, so that a page looked at again costs nothing. */
const CLOCK_STEP = 0.1;

const forecast = remember(200, forecastGrind);

/** Whether the segment that runs has slowed; two dozen fits, so remembered. */
const slowed = remember(
  200,
  ({ readings, prior, running }: Pick<GrindProblem, 'readings'> & { prior: GrindPrior; running: number }) =>
    slowedGrind(
      readings.filter((r) => r.segment === running).toSorted((a, b) => a.hours - b.hours),
      prior,
    ),
);

/** Readings stones cannot have done, by their place in the list; some fits, so remembered. */
const misread = remember(
  200,
  ({ readings, prior }: Pick<GrindProblem, 'readings'> & { prior: GrindPrior }) => {
    const named = misreadGrit(readings, prior);
    return readings.flatMap((r, i) => (named.includes(r) ? [i] : []));
  },
);

/** A grind, and whether it has slowed. */
interface Forecastable {
  problem: GrindProblem;
  slow: SlowedGrind | null;
}

/** The forecast of a grind at its pace, or at the one it has fallen to; then the readings of its running segment tell. */
const slowedForecast = remember(200, ({ problem, slow }: { problem: GrindProblem; slow: SlowedGrind }) =>
  forecastSlowed(
    { ...problem, readings: problem.readings.filter((r) => r.segment === problem.segment) },
    slow,
  ),
);
const forecastOf = ({ problem, slow }: Forecastable): GrindForecast =>
  slow ? slowedForecast({ problem, slow }) : forecast(problem);

/** The drawn band; it costs hundreds of draws a point. */
const picture = remember(200, ({ last, ...of }: Forecastable & { last: number }) => {
  const fit = forecastOf(of);
  if (!fit.ok) throw new RangeError('there is nothing to draw before a fit');
  return Array.from({ length: BAND_POINTS + 1 }, (_, i) => {
    const hours = (last * i) / BAND_POINTS;
    return { hours, ...fit.at(hours) };
  });
});

/** The next reading worth taking: the one truth for the grind's page, the Bench and the slip. */
const readingWorthTaking = remember(
  200,
  ({ from, to, ...of }: Forecastable & { from: number; to: number }) => {
    const fit = forecastOf(of);
    return fit.ok ? fit.nextReading(from, to) : null;
  },
);

const stepped = (hours: number) => Math.ceil(hours / CLOCK_STEP) * CLOCK_STEP;

/** What one grind step needs for its view. */
export interface GrindInput {
  step: StepRecord;
  /** Its inputs in force. */
  lines: readonly GrindLine[];
  observations: readonly ObservationRecord[];
  aimUm: number | null;
  prior: GrindPrior;
  /** Epoch ms. */
  now: number;
  /** Draw the band and look for the next reading; left out where only the stop is shown. */
  withBand: boolean;
  /** Where the workshop's morning is. */
  timeZone: string;
}

/** The readings of a grind since its last solid addition, and when its aim should be reached. */
export function grindView(input: GrindInput): GrindView {
  const { step, lines, observations, aimUm, prior, now, withBand, timeZone } = input;
  const aim = step.details.aimUm ?? aimUm ?? DEFAULT_AIM_UM;
  const mine = observations.filter((o) => o.stepId === step.id);
  const { segments, pauses, readings } = grindClock({ startedAt: step.startedAt, lines, notes: mine });
  const running = segments.length - 1;
  const start = segments[running]!;
  const end = step.endedAt ? Date.parse(step.endedAt) : now;
  const paused = pauses.some((p) => p.to === null);
  const hours = grindingHours(start, end, pauses);
  const bare = readings.map(({ hours: h, um, uUm, segment }) => ({ hours: h, um, uUm, segment }));
  const wrong = new Set(misread({ readings: bare, prior }));
  const base = {
    stepId: step.id,
    aimUm: aim,
    segmentStart: new Date(start).toISOString(),
    hours,
    allHours: grindingHours(Date.parse(step.startedAt), end, pauses),
    paused,
    readings: readings
      .map((r, i) => ({ ...r, isMisread: wrong.has(i) }))
      .filter((r) => r.segment === running)
      .map(({ id, hours: h, um, uUm, at, isMisread }) => ({ id, hours: h, um, uUm, at, isMisread })),
    passes: mine.filter((o) => o.data.kind === 'pass').length,
  };
  const problem = {
    readings: bare.filter((_, i) => !wrong.has(i)),
    aimUm: aim,
    prior,
    segment: running,
  };
  const slow = slowed({ readings: problem.readings, prior, running });
  const fit = forecastOf({ problem, slow });
  if (!fit.ok) return { ...base, needs: fit.needs, forecast: null };
  const { toAim } = fit;
  const instant = (h: number) => new Date(end + Math.max(0, h - hours) * HOUR).toISOString();
  const due = (h: number) => new Date(end + (h - hours) * HOUR).toISOString();
  const span = Math.max(hours, Number.isFinite(toAim.high) ? toAim.high : toAim.median, 4) * 1.1;
  const open = step.status === 'open' && !paused;
  // Counted from the last reading, not from now: what is worth taking does not move while one waits for it.
  const since = base.readings.findLast((r) => !r.isMisread)?.hours ?? 0;
  const nextReading = open
    ? readingWorthTaking({
        problem,
        slow,
        from: since,
        to: Math.max(since + 1, Math.min(since + LOOK_AHEAD, toAim.median)),
      })
    : null;
  const band = withBand
    ? picture({
        problem,
        slow,
        last: stepped(Number.isFinite(span) ? Math.min(span, hours + 240) : hours + 48),
      })
    : [];
  return {
    ...base,
    needs: 0,
    forecast: {
      curve: fit.curve,
      hoursToAim: { median: finite(toAim.median), low: finite(toAim.low), high: finite(toAim.high) },
      aimAt: timed(toAim, instant),
      chanceReached: fit.chanceReached,
      nextReading: nextReading ? { at: due(nextReading.hours), rangeLeft: nextReading.rangeLeft } : null,
      morning: withBand && open ? morning(fit, hours, now, timeZone) : null,
      slowed: slow,
      band,
      runs: fit.prior.runs,
    },
  };
}

type Fit = Extract<GrindForecast, { ok: true }>;

function morning(fit: Fit, hours: number, now: number, timeZone: string) {
  const today = minuteOfDay(now, MORNING * 60, timeZone);
  const at = today > now ? today : minuteOfDay(dayStart(now, timeZone, 1), MORNING * 60, timeZone);
  return { at: new Date(at).toISOString(), ...fit.at(hours + (at - now) / HOUR) };
}

const finite = (x: number) => (Number.isFinite(x) ? x : null);

function timed(
  { median, low, high }: { median: number; low: number; high: number },
  instant: (h: number) => string,
): { at: string; low: string; high: string | null } | null {
  if (!Number.isFinite(median)) return null;
  return { at: instant(median), low: instant(low), high: Number.isFinite(high) ? instant(high) : null };
}

/** The sourness of a conche and when its aim should be met, from the lot's earlier rates. */
export function concheView({
  step,
  observations,
  acidRates,
  now,
  withBand,
}: {
  step: StepRecord;
  observations: readonly ObservationRecord[];
  acidRates: readonly number[];
  now: number;
  withBand: boolean;
}): ConcheView {
  const aim = step.details.sourAim ?? USUAL_SOUR_AIM;
  const end = step.endedAt ? Date.parse(step.endedAt) : now;
  const clock = concheClock(
    step.startedAt,
    observations.filter((o) => o.stepId === step.id),
    end,
  );
  const { hours } = clock;
  const forecast = concheForecast(clock, aim, acidRates);
  const instant = (h: number) => new Date(end + Math.max(0, h - hours) * HOUR).toISOString();
  const { median, high } = forecast.toAim;
  const reach = Number.isFinite(high) ? high : Number.isFinite(median) ? median : hours + 24;
  const last = Math.min(Math.max(hours, reach, 6) * 1.1, hours + 120);
  const setting = clock.stretches.at(-1)!;
  return {
    stepId: step.id,
    aim,
    hours,
    paused: clock.pauses.some((p) => p.to === null),
    celsius: setting.celsius,
    air: setting.air,
    tastings: clock.tastings.map(({ id, hours: h, score, at }) => ({ id, hours: h, score, at })),
    aimAt: timed(forecast.toAim, instant),
    chanceMet: forecast.chanceMet,
    band: withBand
      ? Array.from({ length: BAND_POINTS + 1 }, (_, i) => {
          const h = (last * i) / BAND_POINTS;
          return { hours: h, ...forecast.at(h) };
        })
      : [],
    runs: acidRates.length,
  };
}
