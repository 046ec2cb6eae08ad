import { z } from 'zod';
import { Text } from '../common.ts';

const side = z.number().positive().max(20);

/** What is noted of a pest hold: its plan, a probe in the core, and moths in the traps. */
export const HOLD_OBSERVATIONS = [
  z.object({
    kind: z.literal('hold'),
    method: z.enum(['freezing', 'heat']),
    /** Sides of the stack as it stands, m; the shortest way in decides. */
    sides: z.tuple([side, side, side]),
    startC: z.number().min(-30).max(60),
    airC: z.number().min(-40).max(80),
    coreC: z.number().min(-40).max(80),
    days: z.number().min(0).max(60),
  }),
  z.object({ kind: z.literal('holdProbe'), celsius: z.number().min(-60).max(100) }),
  z.object({
    kind: z.literal('traps'),
    count: z.int().min(0).max(100_000),
    traps: z.int().min(1).max(1000),
    place: Text(80).default(''),
  }),
] as const;
