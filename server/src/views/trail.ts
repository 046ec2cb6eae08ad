import { and, desc, eq, gte, inArray, isNull, lt, notInArray, sql } from 'drizzle-orm';
import { z } from 'zod';
import { Instant, TrailItem } from '@wunsch/contract';
import { readBody } from '../commands/body.ts';
import type { Handler } from '../commands/command.ts';
import { anywhere } from '../db/raw.ts';
import { trail } from '../db/schema/index.ts';
import type { App } from '../http/types.ts';

/** What a line of the trail says of an entry: the parts its kind declares, read in the shape of today. */
function summaryOf(handler: Handler | undefined, row: typeof trail.$inferSelect): Record<string, unknown> {
  if (!handler?.line || row.body === null) return {};
  try {
    return handler.line(readBody(handler, row.version, row.body, row) as never);
  } catch {
    // An entry of another release still has its line: who, when and what kind.
    return {};
  }
}

/** Entries that change what was said before: corrections, whatever was changed from a version, and what was taken back. */
const CHANGES = sql`(${trail.undoneBy} is not null or ${trail.body} ->> 'replaces' is not null
  or ${trail.body} ->> 'ifMatch' is not null or ${trail.kind} in ('movement.correct', 'undo'))`;

/** Entries of batches whose code holds some letters; a per cent sign or an underscore stands for itself. */
function ofBatchNamed(letters: string) {
  const pattern = anywhere(letters);
  return sql`${trail.batchId} in (select b.id from batch b where b.code ilike ${pattern})`;
}

/** The trail: who did what. */
export function trailRoutes(app: App, handlers: readonly Handler[]): void {
  const byKind = new Map<string, Handler>(handlers.map((h) => [h.kind, h]));
  // Signing in and streams of readings are no lines anybody looks for.
  const silent = handlers.filter((h) => h.stream || h.touches.includes('sessions')).map((h) => h.kind);
  const own = silent.filter((kind) => !kind.startsWith('person'));
  const TrailQuery = z.object({
    batchId: z.uuid().optional(),
    /** Only what this person can take back. */
    mine: z.stringbool().optional(),
    kinds: z.string().max(400).optional(),
    by: z.string().min(1).max(12).optional().describe('initials of who did it'),
    from: Instant.optional().describe('not before this instant'),
    to: Instant.optional().describe('before this instant'),
    changes: z.stringbool().optional().describe('only corrections, changes and what was taken back'),
    batch: z.string().trim().min(1).max(60).optional().describe('letters of the code of its batch'),
    before: z.coerce.number().int().positive().optional().describe('older than this entry'),
    limit: z.coerce.number().int().min(1).max(500).default(60),
  });
  app.get(
    '/api/trail-kinds',
    {
      schema: {
        tags: ['ledger'],
        summary: 'Kinds of entry that have been made here',
        response: { 200: z.array(z.string()) },
      },
    },
    async (request) => {
      const rows = await request.store.db
        .selectDistinct({ kind: trail.kind })
        .from(trail)
        .where(notInArray(trail.kind, own));
      return rows.map((r) => r.kind).sort();
    },
  );
  app.get(
    '/api/trail',
    {
      schema: {
        tags: ['ledger'],
        summary: 'Who did what, newest first',
        querystring: TrailQuery,
        response: { 200: z.array(TrailItem) },
      },
    },
    async (request) => {
      const { batchId, mine, kinds, by, from, to, changes, batch, before, limit } = request.query;
      const where = and(
        batchId ? eq(trail.batchId, batchId) : undefined,
        mine
          ? and(eq(trail.personId, request.person!.id), eq(trail.undoable, true), isNull(trail.undoneBy))
          : undefined,
        kinds ? inArray(trail.kind, kinds.split(',')) : undefined,
        by ? eq(trail.by, by) : undefined,
        from ? gte(trail.at, from) : undefined,
        to ? lt(trail.at, to) : undefined,
        changes ? CHANGES : undefined,
        batch ? ofBatchNamed(batch) : undefined,
        before ? lt(trail.seq, before) : undefined,
        notInArray(trail.kind, own),
      );
      const rows = await request.store.db
        .select()
        .from(trail)
        .where(where)
        .orderBy(desc(trail.seq))
        .limit(limit);
      return rows.map((row) => ({
        seq: row.seq,
        kind: row.kind,
        target: row.target,
        batchId: row.batchId,
        personId: row.personId,
        by: row.by,
        at: row.at,
        undone: row.undoneBy !== null,
        undoable: row.undoable && row.undoneBy === null && row.personId === request.person!.id,
        summary: summaryOf(byKind.get(row.kind), row),
      }));
    },
  );
}
