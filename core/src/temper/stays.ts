import type { Warning } from '../calibration/index.ts';
import { TEMPER_PATHS, type ChocolateType, type TemperPath } from './defaults.ts';
import { inTheBowl } from './probeOut.ts';
import { guardsAlong, type BowlReading } from './window.ts';

/** A bowl just warmed still shows the pace of its warming: as long as a pace looks back, s. */
const SETTLED = 300;

/** Left of the window when a bowl is spoken of as leaving it, s. */
const SOON = 180;

/**
 * Every stay of a bowl in its window, looked back on: when it left it, and when a page that follows it would have said that it is about to. Stays too
 * short to be warned of are left out, and so is a warning that only the pour kept from coming true.
 *
 * @param read in order of time, s and °C
 * @throws RangeError for readings that are no numbers
 */
export function windowStays(
  read: readonly BowlReading[],
  type: ChocolateType,
  path: TemperPath = TEMPER_PATHS[type],
): Warning[] {
  const readings = inTheBowl(read);
  const stays: Warning[] = [];
  let stay: { from: number; warnedAt: number | null } | null = null;
  const end = (at: number, happenedAt: number | null) => {
    const wasLong = stay !== null && at - stay.from >= SETTLED + SOON;
    const isOpen = happenedAt === null && stay?.warnedAt != null && at - stay.warnedAt < SOON;
    if (stay && wasLong && !isOpen) stays.push({ happenedAt, warnedAt: stay.warnedAt });
    stay = null;
  };
  for (const [i, guard] of guardsAlong(readings, path).entries()) {
    const { seconds } = readings[i]!;
    if (guard.state !== 'inside') {
      end(seconds, seconds);
      continue;
    }
    stay ??= { from: seconds, warnedAt: null };
    if (
      stay.warnedAt === null &&
      seconds - stay.from >= SETTLED &&
      guard.secondsLeft !== null &&
      guard.secondsLeft <= SOON
    )
      stay.warnedAt = seconds;
  }
  const last = readings.at(-1);
  if (last) end(last.seconds, null);
  return stays;
}
