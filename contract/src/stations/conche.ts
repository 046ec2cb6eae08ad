import { z } from 'zod';
import { AIR_WAYS } from '@wunsch/core/conche';
import { Text } from '../common.ts';

/** What a conche keeps beside its weights. */
export const CONCHE_DETAILS = {
  /** Sourness it is to come to, 0–10. */
  sourAim: z.number().min(0).max(10),
};

/** What is noted at the conche: how it is set, and how sour it tastes. */
export const CONCHE_OBSERVATIONS = [
  z.object({
    kind: z.literal('concheSetting'),
    celsius: z.number().min(20).max(110),
    air: z.enum(AIR_WAYS),
  }),
  z.object({ kind: z.literal('sourness'), score: z.number().min(0).max(10), note: Text(200).default('') }),
] as const;
