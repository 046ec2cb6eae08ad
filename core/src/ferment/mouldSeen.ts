import type { Warning } from '../calibration/index.ts';
import {
  dryMatter,
  dryNotes,
  forecastDrying,
  moistureByMass,
  type DryStart,
  type DryWeighing,
} from './dry.ts';

/** Weighings before anything is foretold. */
const SEEN_BEFORE = 3;

/**
 * Whether beans that dried stood too long above 20 % and whether a page that followed them would have said so beforehand, h of their drying. Null
 * where it is not known yet: still moist, and not for long enough.
 *
 * @param start their mass and moisture when it was first known
 * @param weighings from then on, in order of time
 * @throws RangeError for weighings that cannot be
 */
export function mouldSeen(start: DryStart, weighings: readonly DryWeighing[]): Warning | null {
  const dry = dryMatter(start);
  const moist = weighings.map((w) => ({ hours: w.hours, moisture: moistureByMass(w.mass, dry) }));
  const risky = moist.findIndex((_, i) =>
    dryNotes(moist.slice(0, i + 1)).some((note) => note.code === 'mould-risk'),
  );
  const last = moist.at(-1);
  if (!last || (risky < 0 && last.moisture > 20)) return null;
  const warned = moist.findIndex((_, i) => {
    if (i + 1 < SEEN_BEFORE || (risky >= 0 && i >= risky)) return false;
    const forecast = forecastDrying({ start, weighings: weighings.slice(0, i + 1) });
    return dryNotes(moist.slice(0, i + 1), undefined, forecast).some((note) => note.code === 'mould-ahead');
  });
  return {
    happenedAt: risky < 0 ? null : moist[risky]!.hours,
    warnedAt: warned < 0 ? null : moist[warned]!.hours,
  };
}
