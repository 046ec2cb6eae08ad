import { eq } from 'drizzle-orm';
import { UndoPut } from '@wunsch/contract';
import { readBody } from '../commands/body.ts';
import { handler, lineOf, TASTERS, type Handler } from '../commands/command.ts';
import { trail } from '../db/schema/index.ts';
import { notFound, Problem } from '../http/problem.ts';

/** Undoing one's own entry. The entry stays in the trail, marked as taken back. */
export function undoHandler(others: readonly Handler[]): Handler {
  const byKind = new Map<string, Handler>(others.map((h) => [h.kind, h]));
  return handler({
    kind: 'undo',
    version: 1,
    put: { path: '/api/undos/:id', summary: 'Take one’s own entry back', tag: 'ledger' },
    body: UndoPut,
    roles: TASTERS,
    creates: true,
    // What it touches is what the entry it takes back had touched.
    touches: [],
    line: lineOf('seq'),
    async apply(context) {
      const { tx, body, personId, seq } = context;
      const [entry] = await tx.select().from(trail).where(eq(trail.seq, body.seq));
      if (!entry) throw notFound('entry', String(body.seq));
      if (entry.personId !== personId)
        throw new Problem({
          status: 403,
          code: 'not-yours',
          detail: `this entry was made by ${entry.by}; correct it instead`,
        });
      if (entry.undoneBy !== null)
        throw new Problem({
          status: 409,
          code: 'already-undone',
          detail: 'this entry has been taken back already',
        });
      const of = byKind.get(entry.kind);
      if (!of?.undo)
        throw new Problem({ status: 409, code: 'not-undoable', detail: `a ${entry.kind} cannot be undone` });
      const old = { seq: entry.seq, target: entry.target, at: entry.at };
      const original = of.large ? {} : readBody(of, entry.version, entry.body, old);
      await of.undo(context as never, {
        target: entry.target,
        body: original as never,
        batchId: entry.batchId,
        seq: entry.seq,
      });
      await tx.update(trail).set({ undoneBy: seq }).where(eq(trail.seq, entry.seq));
      const touches = entry.touches.length > 0 ? entry.touches : of.touches;
      return { batchId: entry.batchId, touches };
    },
  });
}
