import { z } from 'zod';
import { LARGEST_MASS_MG, MassMg, Text } from '../common.ts';

/** What a winnowing keeps beside its weights. */
export const WINNOW_DETAILS = {
  passes: z.int().positive().max(50),
  setting: Text(80),
};

/** What is noted at the winnower: a sample picked over by hand, and a pass. */
export const WINNOW_OBSERVATIONS = [
  z.object({
    kind: z.literal('picked'),
    /** Husk picked out of nibs, or nib picked out of husk. */
    of: z.enum(['husk', 'nib']),
    foundMg: z.int().min(0).max(LARGEST_MASS_MG),
    sampleMg: MassMg,
    pieces: z.int().min(1).max(100_000).nullable().default(null),
  }),
  z.object({
    kind: z.literal('pass'),
    /** Air setting as the maker counts it: gate, fan or dial. */
    setting: z.number().positive().max(1000).nullable().default(null),
    minutes: z.number().min(0).max(10_000).nullable().default(null),
    note: Text(200).default(''),
  }),
] as const;
