import { eq } from 'drizzle-orm';
import { z } from 'zod';
import { Trial, TrialKey, type Person } from '@wunsch/contract';
import { trial } from '../../db/schema/index.ts';
import { IdParams } from '../../http/entries.ts';
import { notFound, Problem } from '../../http/problem.ts';
import type { App } from '../../http/types.ts';
import { byAge, readTrial } from './trials.ts';

/** A trial as one person may see it: before it is opened nothing tells what a part is, or what others thought of it. */
function seenBy(
  me: Person,
  { id, facts: stored, createdAt }: typeof trial.$inferSelect,
): z.input<typeof Trial> {
  const facts = readTrial(stored);
  const isOpen = facts.openedAt !== null;
  return {
    id,
    name: facts.name,
    factor: facts.factor,
    createdAt,
    openedAt: facts.openedAt,
    openedBy: facts.openedBy,
    tasters: [...new Set(facts.scores.map((s) => s.by))],
    pourers: facts.keySeen.map((k) => k.by),
    iPour: facts.keySeen.some((k) => k.personId === me.id),
    mine: facts.scores.filter((s) => s.personId === me.id).flatMap((s) => s.marks),
    parts: facts.parts
      .map((p) => ({
        code: p.code,
        label: isOpen ? p.label : null,
        recipeId: isOpen ? p.recipeId : null,
        batchId: isOpen ? p.batchId : null,
        parcelId: isOpen ? p.parcelId : null,
        massMg: isOpen ? p.massMg : null,
        scores: isOpen
          ? facts.scores.flatMap((s) =>
              s.marks.filter((m) => m.code === p.code).map(({ score, note }) => ({ by: s.by, score, note })),
            )
          : [],
      }))
      .sort((a, b) => a.code.localeCompare(b.code)),
    kept: facts.kept,
  };
}

/** Trials as whoever asks may see them, and the key for whoever pours. */
export function trialRoutes(app: App): void {
  const tags = ['recipe'];
  app.get(
    '/api/trials',
    {
      schema: {
        tags,
        summary: 'Trials, oldest first; what a part is, and others’ scores, only once it is open',
        response: { 200: z.array(Trial) },
      },
    },
    async (request) => {
      const rows = await request.store.db.select().from(trial).orderBy(byAge);
      return rows.map((row) => seenBy(request.person!, row));
    },
  );

  app.get(
    '/api/trials/:id/key',
    {
      schema: {
        tags,
        summary:
          'Which code is which part: for those who have asked for the key to pour, and for all once it is open',
        params: IdParams,
        response: { 200: TrialKey },
      },
    },
    async (request) => {
      const { id } = request.params;
      const [row] = await request.store.db.select().from(trial).where(eq(trial.id, id));
      if (!row) throw notFound('trial', id);
      const { openedAt, keySeen, parts } = readTrial(row.facts);
      if (openedAt === null && !keySeen.some((k) => k.personId === request.person!.id))
        throw new Problem({
          status: 403,
          code: 'blind',
          detail: 'ask for the key first; whoever has seen it does not taste this trial',
        });
      return parts.map(({ code, label, massMg }) => ({ code, label, massMg }));
    },
  );
}
