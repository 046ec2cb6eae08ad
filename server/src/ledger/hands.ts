import { eq, inArray } from 'drizzle-orm';
import { StepHands } from '@wunsch/contract';
import { saidBefore } from '../commands/before.ts';
import { handler, MAKERS, type Context } from '../commands/command.ts';
import { person, step } from '../db/schema/index.ts';
import { notFound } from '../http/problem.ts';
import { getStep } from './parcels.ts';

/** Who was at a step, where that is not whoever entered it. */
export const stepHands = handler({
  kind: 'step.hands',
  version: 1,
  put: { path: '/api/steps/:id/hands', summary: 'Say who was at a step', tag: 'ledger' },
  body: StepHands,
  roles: MAKERS,
  touches: ['batches', 'yields'],
  async apply(context) {
    const row = await getStep(context, context.target);
    await setHands(context, row.id, await initialsOf(context, context.body.personIds));
    return { batchId: row.batchId };
  },
  async undo(context, { target, seq }) {
    const before = StepHands.safeParse(await saidBefore(context, { kind: 'step.hands', target, seq: seq! }));
    await setHands(context, target, before.success ? await initialsOf(context, before.data.personIds) : null);
  },
});

const setHands = ({ tx }: Context, id: string, hands: string[] | null) =>
  tx.update(step).set({ hands }).where(eq(step.id, id));

/** Initials in the order in which people were named. @throws Problem 404 for somebody who is not of the workshop */
async function initialsOf({ tx }: Context, ids: readonly string[]): Promise<string[]> {
  const people = await tx
    .select({ id: person.id, initials: person.initials })
    .from(person)
    .where(inArray(person.id, [...ids]));
  return ids.map((id) => {
    const found = people.find((p) => p.id === id);
    if (!found) throw notFound('person', id);
    return found.initials;
  });
}
