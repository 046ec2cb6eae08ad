import { BOWL_HABITS, type TemperPath } from './defaults.ts';
import { guardWindow, slope, type BowlReading } from './window.ts';

/** Where a bowl is on its way. */
export type BowlPhase = 'melting' | 'cooling' | 'cold' | 'warming' | 'working' | 'too-warm' | 'too-cool';

/** Where a bowl is on its way along its path; null without a reading. Readings are in order of time. */
export function bowlPhase(readings: readonly BowlReading[], path: TemperPath): BowlPhase | null {
  const guard = guardWindow(readings, 'dark', path);
  if (!guard) return null;
  if (guard.state === 'inside') return 'working';
  if (guard.state !== 'on-the-way') return guard.state;
  const { celsius } = guard;
  const pace = paceOf(readings) ?? 0;
  const hottest = readings.reduce((h, r) => Math.max(h, r.celsius), -Infinity);
  if (
    hottest < path.meltC - BOWL_HABITS.nearMeltC ||
    (celsius > path.windowHighC && pace > BOWL_HABITS.steadyPace)
  )
    return 'melting';
  if (celsius > path.windowHighC) return 'cooling';
  if (pace > BOWL_HABITS.warmingPace) return 'warming';
  return celsius <= path.coolC + BOWL_HABITS.nearCoolC ? 'cold' : 'cooling';
}

/** Pace of the last readings, °C/min; null with fewer than two. */
export function paceOf(readings: readonly BowlReading[]): number | null {
  const last = readings.at(-1);
  if (!last) return null;
  const near = readings.filter((r) => r.seconds >= last.seconds - BOWL_HABITS.paceSeconds);
  return slope(near.length >= 2 ? near : readings.slice(-2));
}
