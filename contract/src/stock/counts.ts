import { z } from 'zod';
import { Id, Text } from '../common.ts';

/** Why a count came out different. */
export const COUNT_REASONS = [
  'miscounted',
  'broken',
  'eaten',
  'stolen',
  'dried out',
  'mislaid',
  'found',
  'other',
] as const;

/** Taking stock of a place: what was found of each parcel, against what the books said when it was counted. */
export const StockCount = z.object({
  place: Text(80).default(''),
  lines: z
    .array(
      z
        .object({
          parcelId: Id,
          /** What the books said; where that has changed since, the count is refused. */
          expectedMg: z.int().nonnegative(),
          expectedCount: z.int().nonnegative().nullable().default(null),
          /** What was found: pieces of what is counted, mass of what is not. */
          foundMg: z.int().nonnegative().max(100_000_000_000).nullable().default(null),
          foundCount: z.int().nonnegative().max(10_000_000).nullable().default(null),
          reason: z.enum(COUNT_REASONS).nullable().default(null),
          stepId: Id,
          takenId: Id,
          lossId: Id,
        })
        .refine((l) => (l.foundMg === null) !== (l.foundCount === null), {
          path: ['foundCount'],
          message: 'say what was found: pieces of what is counted, or the weight of what is not',
        }),
    )
    .min(1)
    .max(500),
  note: Text(400).default(''),
});
/** See {@link StockCount}. */
export type StockCount = z.input<typeof StockCount>;
