import { z } from 'zod';
import { Id, Text } from '../common.ts';

const side = z.number().positive().max(20);

/** How a stack is held. */
const HOLD_PLAN = {
  method: z.enum(['freezing', 'heat']),
  /** Sides of the stack as it stands, m; the shortest way in decides. */
  sides: z.tuple([side, side, side]),
  startC: z.number().min(-30).max(60),
  airC: z.number().min(-40).max(80),
  coreC: z.number().min(-40).max(80),
  days: z.number().min(0).max(60),
};

/** What is noted of a pest hold: its plan, a probe in the core, and moths in the traps. */
export const HOLD_OBSERVATIONS = [
  z.object({ kind: z.literal('hold'), ...HOLD_PLAN }),
  z.object({ kind: z.literal('holdProbe'), celsius: z.number().min(-60).max(100) }),
  z.object({
    kind: z.literal('traps'),
    count: z.int().min(0).max(100_000),
    traps: z.int().min(1).max(1000),
    place: Text(80).default(''),
  }),
] as const;

/** A pest hold begins: its plan is noted and the lot is held. One act, one entry, one undo. The target is the plan's note. */
export const HoldBegin = z.object({
  lotId: Id,
  ...HOLD_PLAN,
  /** Why it is held, where it was not yet. */
  reason: Text(200).default(''),
  /** Whether it was on hold already, as whoever begins it saw it: taking it back then leaves it there. */
  wasOnHold: z.boolean(),
});
/** See {@link HoldBegin}. */
export type HoldBegin = z.input<typeof HoldBegin>;
