import { z } from 'zod';
import { LARGEST_MASS_MG, MassMg, Text } from '../common.ts';

/** What is noted of wet beans: a look at the heap, and a weighing while they dry. */
export const FERMENT_OBSERVATIONS = [
  z.object({
    kind: z.literal('ferment'),
    celsius: z.number().min(0).max(70).nullable().default(null),
    ambientC: z.number().min(-20).max(60).nullable().default(null),
    turned: z.boolean().default(false),
    drainedMg: z.int().min(0).max(LARGEST_MASS_MG).nullable().default(null),
    smell: Text(200).default(''),
    cutLook: Text(200).default(''),
  }),
  z.object({
    kind: z.literal('drying'),
    massMg: MassMg,
    /** Wet basis, %, where a meter was at hand; the first one with it is where the arithmetic starts. */
    moisture: z.number().min(0).max(90).nullable().default(null),
    note: Text(200).default(''),
  }),
] as const;
