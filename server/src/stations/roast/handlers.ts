import { eq } from 'drizzle-orm';
import { ReadingsPut } from '@wunsch/contract';
import { handler, MAKERS } from '../../commands/command.ts';
import { readings } from '../../db/schema/index.ts';
import { Problem } from '../../formats/problem.ts';
import { getStep } from '../../ledger/parcels.ts';
import { packFloats, packMilliseconds } from './series.ts';

/** Taking in a run of temperatures. */
export const readingsAdd = handler({
  kind: 'readings.add',
  body: ReadingsPut,
  roles: MAKERS,
  large: true,
  async apply(context) {
    const { tx, target, body, by, seq } = context;
    const [used] = await tx.select({ id: readings.id }).from(readings).where(eq(readings.id, target));
    if (used)
      throw new Problem({
        status: 409,
        code: 'id-used',
        detail: `the id ${target} already names other readings; make a new id`,
      });
    const step = await getStep(context, body.stepId);
    await tx.insert(readings).values({
      id: target,
      stepId: body.stepId,
      place: body.place,
      startedAt: body.startedAt,
      count: body.seconds.length,
      ms: packMilliseconds(body.seconds),
      celsius: packFloats(body.celsius),
      source: body.source,
      by,
      seq,
    });
    return { batchId: step.batchId };
  },
  async undo({ tx }, { target }) {
    await tx.delete(readings).where(eq(readings.id, target));
  },
});
