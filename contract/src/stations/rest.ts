import { z } from 'zod';
import { Id, Text } from '../common.ts';

/** What is noted of resting blocks. */
export const REST_OBSERVATIONS = [
  z.object({
    kind: z.literal('retaste'),
    /** The resting parcel that was tasted. */
    parcelId: Id,
    liking: z.number().min(0).max(10).nullable().default(null),
    sourness: z.number().min(0).max(10).nullable().default(null),
    note: Text(400).default(''),
  }),
] as const;
