import { requireFinite, requireNumbers } from '../numerics/index.ts';
/** A stretch of time in epoch milliseconds; `to` is null while it lasts. */
export interface Pause {
  from: number;
  to: number | null;
}

/** Grinding hours between two instants (epoch ms), with pauses and power cuts left out. Overlapping pauses count once. */
export function grindingHours(from: number, to: number, pauses: readonly Pause[] = []): number {
  requireFinite(from, 'the start');
  requireFinite(to, 'the end');
  requireNumbers(pauses, 'a pause');
  let paused = 0;
  let reached = from;
  for (const pause of [...pauses].sort((a, b) => a.from - b.from)) {
    const start = Math.max(pause.from, reached);
    const end = Math.min(pause.to ?? to, to);
    if (end > start) {
      paused += end - start;
      reached = end;
    }
  }
  return Math.max(0, to - from - paused) / 3_600_000;
}
