import { asc, eq } from 'drizzle-orm';
import { z } from 'zod';
import { Trial, TrialPut } from '@wunsch/contract';
import { requireMatch } from '../../access/match.ts';
import type { App } from '../../http/types.ts';
import { handler, lineOf, TASTERS, withMatch } from '../../commands/command.ts';
import { trial } from '../../db/schema/index.ts';
import { Problem } from '../../http/problem.ts';

/** Beginning a trial, noting scores, keeping the winner; earlier states stay in the trail. */
export const trialPut = handler({
  kind: 'trial.put',
  version: 1,
  put: {
    path: '/api/trials/:id',
    summary: 'Begin a trial, note its scores, keep its winner (If-Match to change)',
    tag: 'recipe',
    body: TrialPut,
    guarded: true,
  },
  body: withMatch(TrialPut),
  roles: TASTERS,
  touches: ['trials'],
  line: lineOf('name'),
  keepsRead: true,
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
  app.get(
    '/api/trials',
    { schema: { tags, summary: 'Trials, oldest first', response: { 200: z.array(Trial) } } },
    async (request) => {
      const rows = await request.store.db.select().from(trial).orderBy(asc(trial.createdAt));
      return rows.map(({ facts, ...row }) => ({ ...facts, ...row }));
    },
  );
}
