import { inArray } from 'drizzle-orm';
import { ObservationPut, StepFinish } from '@wunsch/contract';
import { handler, lineOf, MAKERS } from '../commands/command.ts';
import { observation } from '../db/schema/index.ts';
import { finishStep, unfinishStep, type NamedLoss } from './compound.ts';
import { addObservation } from './observations.ts';
import { endingStep, keptBackwards } from './steps.ts';

type Body = typeof StepFinish._output;

const lossesOf = ({ lost }: Body): NamedLoss[] => lost.map((l) => ({ ...l, source: 'weighed' }));

/** A step ends with all that comes of it and what was seen as it ended, in one act. */
export const stepFinish = handler({
  kind: 'step.finish',
  version: 2,
  upcasters: { 1: keptBackwards },
  put: {
    path: '/api/steps/:id/finished',
    summary: 'End a step in one act: what comes of it, losses that were weighed, what was seen',
    tag: 'ledger',
    body: StepFinish,
  },
  body: endingStep(StepFinish),
  roles: MAKERS,
  touches: ['batches', 'stock', 'lots', 'yields', 'runs', 'readings', 'observations', 'timers'],
  line: ({ made: [first] }) => (first ? lineOf('material', 'massMg', 'count')(first) : {}),
  async apply(context) {
    const { target, body } = context;
    const { batchId } = await finishStep(context, target, body.made, body, lossesOf(body));
    // A timer is for what follows, and of the batch.
    for (const { id, data, at } of body.notes)
      await addObservation(
        context,
        id,
        ObservationPut.parse({ ...(data.kind === 'timer' ? { batchId } : { stepId: target }), data, at }),
      );
    return { batchId };
  },
  async undo(context, { target, body }) {
    const ids = body.notes.map((n) => n.id);
    if (ids.length > 0)
      await context.tx.update(observation).set({ voided: true }).where(inArray(observation.id, ids));
    await unfinishStep(context, target, [...body.made, ...body.lost]);
  },
});
