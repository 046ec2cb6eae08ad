import { z } from 'zod';
import { Id, Instant, Place, Probe, Text } from './common.ts';

/** Longest run of one entry, s either way: what 32-bit milliseconds hold, rounded down (23 days). */
export const LONGEST_RUN_S = 2_000_000;

const seconds = z.number().min(-LONGEST_RUN_S).max(LONGEST_RUN_S);

/** A run of temperatures of one probe on one step. Times are seconds from `startedAt`; they need not be in order. */
export const ReadingsPut = z
  .object({
    stepId: Id,
    place: Place,
    probe: Probe.default(''),
    startedAt: Instant,
    seconds: z.array(seconds).min(1).max(200_000),
    celsius: z.array(z.number().min(-100).max(600)).min(1).max(200_000),
    source: Text(60).default('hand'),
  })
  .refine((r) => r.seconds.length === r.celsius.length, {
    path: ['celsius'],
    message: 'as many temperatures as times are needed',
  });
/** See {@link ReadingsPut}. */
export type ReadingsPut = z.input<typeof ReadingsPut>;

/** Readings as boards send them, several probes together; kept in the journal at once and in the store soon after. */
export const ReadingsStream = z.object({
  stepId: Id,
  place: Place,
  probe: Probe,
  source: Text(60),
  startedAt: Instant,
  seconds: z.array(seconds).min(1).max(10_000),
  celsius: z.array(z.number().min(-100).max(600)).min(1).max(10_000),
});
/** See {@link ReadingsStream}. */
export type ReadingsStream = z.infer<typeof ReadingsStream>;
