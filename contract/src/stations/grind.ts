import { z } from 'zod';

/** What a grind keeps beside its weights. */
export const GRIND_DETAILS = {
  aimUm: z.number().min(8).max(200),
  sugarSchool: z.enum(['early', 'late']),
};

/** What is noted at the grinder: a grit reading, and stretches in which it stood. */
export const GRIND_OBSERVATIONS = [
  z.object({
    kind: z.literal('grit'),
    method: z.enum(['micrometer', 'grindometer', 'tongue']),
    /** Micrometer reading or grindometer's dense band, µm. */
    um: z.number().positive().max(3000).nullable().default(null),
    /** Grindometer's last scratch, µm. */
    scratchUm: z.number().positive().max(3000).nullable().default(null),
    tongue: z.enum(['none', 'hint', 'gritty']).nullable().default(null),
  }),
  z.object({ kind: z.literal('pause') }),
  z.object({ kind: z.literal('resume') }),
] as const;
