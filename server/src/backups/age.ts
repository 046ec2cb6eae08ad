/** A backup in the folder, and when it was made, epoch ms. */
export interface Kept {
  name: string;
  at: number;
}

const DAY = 86_400_000;

/** How far back backups are kept close together, and for how long at all, days. */
export const KEEP = { daily: 14, weekly: 70, monthly: 1100 };

/** The stretch of time of which one backup is kept: its day, then its week, then its month of 30 days; null beyond all. */
function stretchOf(at: number, now: number): string | null {
  const age = (now - at) / DAY;
  if (age > KEEP.monthly) return null;
  if (age > KEEP.weekly) return `month ${Math.floor(at / (30 * DAY))}`;
  if (age > KEEP.daily) return `week ${Math.floor(at / (7 * DAY))}`;
  return `day ${Math.floor(at / DAY)}`;
}

/**
 * Backups that may go: of each day of the last two weeks, each week of the last ten, and each month of the last three years the newest stays.
 * The newest of all is never among them, nor one that seems to come from the future.
 */
export function tooMany(backups: readonly Kept[], now: number): Kept[] {
  const newestFirst = [...backups].sort((a, b) => b.at - a.at);
  const taken = new Set<string>();
  return newestFirst.filter(({ at }, i) => {
    const stretch = stretchOf(at, now);
    const isFirst = stretch !== null && !taken.has(stretch);
    if (stretch !== null) taken.add(stretch);
    return i > 0 && at <= now && !isFirst;
  });
}
