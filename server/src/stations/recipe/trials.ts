import { asc, eq } from 'drizzle-orm';
import { z } from 'zod';
import { Trial, TrialPut } from '@wunsch/contract';
import { requireMatch } from '../../access/handlers.ts';
import type { App } from '../../app.ts';
import { handler, MAKERS } from '../../commands/command.ts';
import { trial } from '../../db/schema/index.ts';
import { Problem } from '../../formats/problem.ts';
import { Answer, answer, IdParams, ifMatchOf, write } from '../../routes.ts';

/** Beginning a trial, noting scores, keeping the winner; earlier states stay in the trail. */
export const trialPut = handler({
  kind: 'trial.put',
  body: TrialPut.extend({ ifMatch: z.int().nullable().default(null) }),
  roles: [...MAKERS, 'taster'],
  async apply({ tx, target, at, body: { ifMatch, ...facts } }) {
    const codes = facts.arms.map((a) => a.code);
    if (new Set(codes).size < codes.length)
      throw new Problem({
        status: 422,
        code: 'same-code',
        field: 'arms',
        detail: 'every part of a trial needs a code of its own',
      });
    if (facts.kept !== null && !codes.includes(facts.kept))
      throw new Problem({
        status: 422,
        code: 'unknown-arm',
        field: 'kept',
        detail: `no part of the trial has the code ${facts.kept}`,
      });
    const [old] = await tx.select().from(trial).where(eq(trial.id, target));
    if (!old) {
      await tx.insert(trial).values({ id: target, facts, createdAt: at });
      return;
    }
    requireMatch(ifMatch, old.version, 'trial');
    await tx
      .update(trial)
      .set({ facts, version: old.version + 1 })
      .where(eq(trial.id, target));
  },
});

/** Trials. */
export function trialRoutes(app: App): void {
  const tags = ['recipe'];
  app.put(
    '/api/trials/:id',
    {
      schema: {
        tags,
        summary: 'Begin a trial, note its scores, keep its winner (If-Match to change)',
        params: IdParams,
        body: TrialPut,
        response: { 200: Answer, 201: Answer },
      },
    },
    async (request, reply) => {
      const body = { ...request.body, ifMatch: ifMatchOf(request) };
      return answer(
        reply,
        request.params.id,
        await write(app, request, 'trial.put', request.params.id, body),
      );
    },
  );
  app.get(
    '/api/trials',
    { schema: { tags, summary: 'Trials, oldest first', response: { 200: z.array(Trial) } } },
    async () => {
      const rows = await app.store().db.select().from(trial).orderBy(asc(trial.createdAt));
      return rows.map(({ facts, ...row }) => ({ ...facts, ...row }));
    },
  );
}
