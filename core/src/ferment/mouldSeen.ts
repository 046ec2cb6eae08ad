import type { Warning } from '../calibration/index.ts';
import { dryNotes, forecastDrying } from './dry.ts';
import { followDrying, type KeptWeighing } from './followed.ts';

/** Weighings before anything is foretold. */
const SEEN_BEFORE = 3;

/**
 * Whether beans that dried stood too long above 20 % and whether a page that followed them would have said so beforehand, from what was
 * known by then; h of their drying. Null where it is not known yet: no moisture measured, or still moist, and not for long enough.
 *
 * @param weighings as they were kept, in order of time
 * @throws RangeError for weighings that are no numbers
 */
export function mouldSeen(weighings: readonly KeptWeighing[]): Warning | null {
  const drying = followDrying(weighings);
  if (!drying.isKnown) return null;
  const moist = drying.weighings;
  const risky = moist.findIndex((_, i) =>
    dryNotes(moist.slice(0, i + 1)).some((note) => note.code === 'mould-risk'),
  );
  const last = moist.at(-1);
  if (!last || (risky < 0 && last.moisture > 20)) return null;
  const warned = moist.findIndex((_, i) => {
    if (i + 1 < SEEN_BEFORE || (risky >= 0 && i >= risky)) return false;
    const then = followDrying(moist.slice(0, i + 1).map((w) => w.of));
    return (
      then.isKnown &&
      dryNotes(then.weighings, undefined, forecastDrying(then)).some((note) => note.code === 'mould-ahead')
    );
  });
  return {
    happenedAt: risky < 0 ? null : moist[risky]!.hours,
    warnedAt: warned < 0 ? null : moist[warned]!.hours,
  };
}
