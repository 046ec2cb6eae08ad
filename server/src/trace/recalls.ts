import { desc, eq, sql } from 'drizzle-orm';
import { RecallKeep, RecallRecord } from '@wunsch/contract';
import { handler, lineOf, MAKERS } from '../commands/command.ts';
import { recall } from '../db/schema/index.ts';
import type { Db } from '../db/database.ts';
import { holdParcels, unholdParcels } from '../stock/moves.ts';
import { traceView } from './view.ts';

/** What of a kept recall is stored as one. */
const StoredRecall = RecallRecord.omit({ id: true, number: true, at: true, by: true });

/**
 * Keeping a recall, for practice or in earnest: its figures as they are at this moment, how long they took to find, and, where wished,
 * everything of it that is here set aside. One act, one undo.
 */
export const recallKeep = handler({
  kind: 'recall.keep',
  version: 1,
  put: {
    path: '/api/recalls/:id',
    summary: 'Keep a recall as a record, and set aside what is here',
    tag: 'trace',
  },
  body: RecallKeep,
  roles: MAKERS,
  creates: true,
  touches: ['recalls', 'stock', 'batches'],
  line: lineOf('reason', 'isPractice', 'setAside'),
  async apply(context) {
    const { tx, target, body, at, by } = context;
    const { isPractice, reason, setAside, ...query } = body;
    const view = await traceView(tx, { ...query, way: 'forward' });
    const [{ last } = { last: 0 }] = await tx
      .select({ last: sql<number>`coalesce(max(${recall.number}), 0)::int` })
      .from(recall);
    const facts: typeof StoredRecall._output = {
      of: query.of,
      ofId: query.id,
      name: view.name,
      isPractice,
      reason,
      setAside,
      tookMs: view.tookMs,
      figures: view.recall!,
    };
    await tx.insert(recall).values({ id: target, number: last + 1, facts, at, by });
    if (setAside && view.recall!.toSetAside.length > 0)
      await holdParcels(context, {
        holdId: target,
        parcelIds: view.recall!.toSetAside,
        onHold: true,
        reason,
      });
  },
  async undo(context, { target }) {
    await unholdParcels(context, target);
    await context.tx.update(recall).set({ voided: true }).where(eq(recall.id, target));
  },
});

/** Recalls that were kept and can be understood, newest first. */
export async function loadRecalls(db: Db, id?: string): Promise<RecallRecord[]> {
  const rows = await db
    .select()
    .from(recall)
    .where(id ? sql`${recall.id} = ${id} and not ${recall.voided}` : eq(recall.voided, false))
    .orderBy(desc(recall.at), desc(recall.number));
  return rows.flatMap((row) => {
    const facts = StoredRecall.safeParse(row.facts);
    return facts.success ? [{ ...facts.data, id: row.id, number: row.number, at: row.at, by: row.by }] : [];
  });
}
