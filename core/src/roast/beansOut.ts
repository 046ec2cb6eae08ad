import { requireFinite } from '../numerics/index.ts';

/** A hand that notes the beans out may be so late, or a clock so far off, s. */
const SLACK = 5;

/** What is noted when the beans come out. */
export const BEANS_OUT = 'beans-out';

/**
 * Readings up to when the beans came out: a probe left in the empty drum, or taken along to the cooling tray, tells nothing of their roast.
 *
 * @param readings seconds since the step began
 * @param events of the step, ISO instants; the last that notes the beans out counts, and without one all readings stand
 * @param startedAt ISO instant of second 0
 * @throws RangeError for instants that are none
 */
export function untilBeansOut<R extends { seconds: number }>(
  readings: readonly R[],
  events: readonly { name: string; at: string }[],
  startedAt: string,
): R[] {
  const out = events.findLast((e) => e.name === BEANS_OUT);
  if (!out) return [...readings];
  const end = (Date.parse(out.at) - Date.parse(startedAt)) / 1000 + SLACK;
  requireFinite(end, 'when the beans came out');
  const within = readings.filter((r) => r.seconds <= end);
  // A log that lies after it as a whole was kept by another clock, and stays.
  return within.length > 0 ? within : [...readings];
}
