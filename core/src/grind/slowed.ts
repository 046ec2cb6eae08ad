import { requireAbove0, requireNotBelow0 } from '../numerics/index.ts';
import type { GrindPrior } from './defaults.ts';
import {
  forecastGrind,
  grindMisfit,
  type GrindForecast,
  type GrindProblem,
  type GritReading,
} from './forecast.ts';
import { misreadGrit } from './misread.ts';

/** A grind that no longer keeps the pace of its first hours. */
export interface SlowedGrind {
  /** Since about when, in hours of the segment, and to what share of its pace, 0–1. */
  sinceHours: number;
  pace: number;
}

/** Readings on either side of the hour it may have slowed at. */
const BEFORE = 2;
const AFTER = 2;

/** Shares of its pace that are tried. */
const PACES = [0.25, 0.4, 0.55, 0.7];

/** It is said to have slowed where that makes the readings so much likelier, as a logarithm: the hour and the pace were looked for. */
const LIKELIER = 3.5;

/**
 * Whether a grind has slowed (a belt that slips, stones that came loose, paste too cold): whether its readings are much likelier with a pace
 * that fell at some hour than with one pace all along, by the likelihood of the best curve for either.
 *
 * @param readings of the segment now running, in order of time
 * @returns null where one pace does as well, or there are fewer than four readings
 * @throws RangeError for readings that are no numbers, out of order, or not above 0 µm
 */
export function slowedGrind(readings: readonly GritReading[], prior?: GrindPrior): SlowedGrind | null {
  if (readings.some((r, i) => i > 0 && r.hours < readings[i - 1]!.hours))
    throw new RangeError('the readings of a grind come in order of time');
  if (readings.length < BEFORE + AFTER) return null;
  const steady = grindMisfit(readings, prior);
  // No misfit lies below 0: what fits so well with one pace gains too little by another.
  if (steady <= LIKELIER) return null;
  let best: (SlowedGrind & { gain: number }) | null = null;
  for (let i = BEFORE; i <= readings.length - AFTER; i += 1) {
    const sinceHours = (readings[i - 1]!.hours + readings[i]!.hours) / 2;
    for (const pace of PACES) {
      const gain = steady - grindMisfit(groundBy(readings, { sinceHours, pace }), prior);
      if (gain > (best?.gain ?? LIKELIER)) best = { sinceHours, pace, gain };
    }
  }
  return best && { sinceHours: best.sinceHours, pace: best.pace };
}

/** Hours at full pace that have ground as much as so many hours of the clock, and the other way round. */
const groundAt = (hours: number, { sinceHours, pace }: SlowedGrind) =>
  hours > sinceHours ? sinceHours + pace * (hours - sinceHours) : hours;
const clockAt = (ground: number, { sinceHours, pace }: SlowedGrind) =>
  ground > sinceHours ? sinceHours + (ground - sinceHours) / pace : ground;

/** Readings on the clock of what was ground: hours after a grind slowed count for what they ground at the pace that was left. */
export const groundBy = (readings: readonly GritReading[], slowed: SlowedGrind): GritReading[] =>
  readings.map((r) => ({ ...r, hours: groundAt(r.hours, slowed) }));

/**
 * Readings as a machine may learn from them: of a run whose last segment slowed (a slipping belt tells nothing of the stones) on the clock of what
 * was ground, otherwise as they are, without those that were misread.
 *
 * @param taken of a whole run, by segment
 * @throws RangeError as {@link slowedGrind}
 */
export function readingsToLearnFrom(taken: readonly GritReading[]): GritReading[] {
  const misread = misreadGrit(taken);
  const readings = taken.filter((r) => !misread.includes(r));
  const last = Math.max(...readings.map((r) => r.segment ?? 0), 0);
  const running = readings.filter((r) => (r.segment ?? 0) === last).toSorted((a, b) => a.hours - b.hours);
  const slow = slowedGrind(running);
  if (!slow) return [...readings];
  const others = readings.filter((r) => (r.segment ?? 0) !== last);
  return [...others, ...groundBy(running, slow)];
}

/**
 * The forecast of a grind that has slowed and goes on as slowly: as {@link forecastGrind}, with the hours after it slowed counting for what they
 * grind. Its curve, and what later runs learn from it, are those of the mill at full pace.
 *
 * @param problem its readings all of the segment now running
 * @throws RangeError as {@link forecastGrind}, and for a pace that is not above 0
 */
export function forecastSlowed(problem: GrindProblem, slowed: SlowedGrind): GrindForecast {
  requireAbove0(slowed.pace, 'the pace that is left');
  requireNotBelow0(slowed.sinceHours, 'the hour since when');
  const fit = forecastGrind({ ...problem, readings: groundBy(problem.readings, slowed) });
  if (!fit.ok) return fit;
  const { median, low, high } = fit.toAim;
  return {
    ...fit,
    toAim: { median: clockAt(median, slowed), low: clockAt(low, slowed), high: clockAt(high, slowed) },
    chanceReached: fit.chanceReached,
    at: (hours) => fit.at(groundAt(hours, slowed)),
    nextReading: (from, to) => {
      const next = fit.nextReading(groundAt(from, slowed), groundAt(to, slowed));
      return { ...next, hours: clockAt(next.hours, slowed) };
    },
  };
}
