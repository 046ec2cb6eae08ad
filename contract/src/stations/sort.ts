import { z } from 'zod';
import { CUT_CLASSES } from '@wunsch/core/sort';
import { Text } from '../common.ts';

/** Sorting has no details of its own. */
export const SORT_DETAILS = {};

/** What is noted when beans are looked at: a cut test, and single beans weighed. */
export const SORT_OBSERVATIONS = [
  z.object({
    kind: z.literal('cutTest'),
    counts: z.record(z.enum(CUT_CLASSES), z.int().min(0).max(300)),
    note: Text(400).default(''),
  }),
  z.object({ kind: z.literal('beanCount'), grams: z.array(z.number().positive().max(20)).min(1).max(300) }),
] as const;
