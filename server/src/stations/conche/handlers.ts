import { ConcheBegin, MovementPut } from '@wunsch/contract';
import { handler, lineOf, MAKERS } from '../../commands/command.ts';
import { observation } from '../../db/schema/index.ts';
import { Problem } from '../../http/problem.ts';
import { finishStep, unfinishStep, type Output } from '../../ledger/compound.ts';
import { addLine } from '../../ledger/movements.ts';
import { endingStep, keptBackwards, openStep, requireKind, voidStep } from '../../ledger/steps.ts';

type From = NonNullable<typeof ConcheBegin._output.from>;

/** All that is in the grinder. */
const outputOf = ({ movementId, parcelId }: From): Output => ({
  movementId,
  parcelId,
  massMg: null,
  material: 'chocolate',
});

/** A conche begins: set, and filled with the first weight into it or with what is in the grinder. */
export const concheBegin = handler({
  kind: 'conche.begin',
  version: 2,
  upcasters: { 1: keptBackwards },
  put: {
    path: '/api/conches/:id',
    summary: 'Begin a conche, in a machine of its own or with what is in the grinder',
    tag: 'conche',
    body: ConcheBegin,
  },
  body: endingStep(ConcheBegin),
  roles: MAKERS,
  creates: true,
  touches: ['batches', 'stock', 'lots', 'yields', 'runs', 'readings', 'observations'],
  line: lineOf('celsius', 'air'),
  async apply(context) {
    const { tx, target, body, at, by, seq } = context;
    const { batchId, from, celsius, air, sourAim } = body;
    let { machineId } = body;
    if (from) {
      const grind = await requireKind(context, from.stepId, 'grind');
      if (grind.batchId !== batchId)
        throw new Problem({
          status: 422,
          code: 'not-valid',
          field: 'from.stepId',
          detail: 'a conche goes on with a grinding of its own batch',
        });
      machineId = grind.machineId;
      const closing = {
        remainder: null,
        remainderId: from.remainderId,
        handsOnMinutes: null,
        endedAt: body.at,
        backwards: body.backwards,
      };
      await finishStep(context, from.stepId, [outputOf(from)], closing);
    }
    await openStep(context, target, {
      batchId,
      machineId,
      station: 'grind',
      kind: 'conche',
      startedAt: body.at,
      details: sourAim === null ? {} : { sourAim },
    });
    if (from)
      await addLine(
        context,
        from.takenId,
        MovementPut.parse({ stepId: target, direction: 'in', parcelId: from.parcelId, at: body.at }),
      );
    if (body.take) {
      const { movementId, ...take } = body.take;
      await addLine(
        context,
        movementId,
        MovementPut.parse({ ...take, stepId: target, direction: 'in', at: body.at }),
      );
    }
    const data = { kind: 'concheSetting' as const, celsius, air };
    await tx.insert(observation).values({
      id: body.settingId,
      batchId,
      stepId: target,
      kind: data.kind,
      data,
      at: body.at ?? at,
      by,
      seq,
    });
    return { batchId };
  },
  async undo(context, { target, body }) {
    await voidStep(context, target);
    if (body.from) await unfinishStep(context, body.from.stepId, [outputOf(body.from)]);
  },
});
