import { and, eq } from 'drizzle-orm';
import { MovementPut } from '@wunsch/contract';
import type { Context } from '../commands/command.ts';
import { movement } from '../db/schema/index.ts';
import { addLine, voidMovement } from './movements.ts';
import { inForce } from './parcels.ts';
import { closeStep, reopenStep, type Closing, type StepRow } from './steps.ts';

/** One output of a step, as an act that ends it names them. */
export interface Output {
  movementId: string;
  parcelId: string;
  material: string;
  massMg: number | null;
  count?: number | null;
  source?: 'weighed' | 'estimated' | 'counted';
  place?: string;
}

/** A named loss of such an act. */
export interface NamedLoss {
  movementId: string;
  massMg: number;
  reason: string;
  source?: 'weighed' | 'estimated';
}

/** Weighs out everything that came of a step and closes it, in one act: all of it stands, or nothing does. */
export async function finishStep(
  context: Context,
  stepId: string,
  outputs: readonly Output[],
  closing: Closing,
  losses: readonly NamedLoss[] = [],
): Promise<StepRow> {
  // What takes the rest comes last, when the weighed ones are out.
  const inOrder = [...outputs].sort((a, b) => Number(a.massMg === null) - Number(b.massMg === null));
  for (const { movementId, ...line } of inOrder)
    await addLine(context, movementId, MovementPut.parse({ ...line, stepId, direction: 'out' }));
  for (const { movementId, ...loss } of losses)
    await addLine(
      context,
      movementId,
      MovementPut.parse({ source: 'estimated', ...loss, stepId, direction: 'loss' }),
    );
  return closeStep(context, stepId, closing);
}

/** Takes such an act back: the step is open again, and what it gave is in it. */
export async function unfinishStep(
  context: Context,
  stepId: string,
  outputs: readonly { movementId: string }[],
): Promise<void> {
  await reopenStep(context, stepId);
  for (const { movementId } of outputs) {
    const [line] = await context.tx
      .select()
      .from(movement)
      .where(and(eq(movement.id, movementId), inForce));
    if (line) await voidMovement(context, line);
  }
}
