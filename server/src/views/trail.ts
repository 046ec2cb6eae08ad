import { and, desc, eq, inArray, isNull, notInArray } from 'drizzle-orm';
import { z } from 'zod';
import { TrailItem } from '@wunsch/contract';
import { readBody } from '../commands/body.ts';
import type { Handler } from '../commands/command.ts';
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

/** The trail: who did what. */
export function trailRoutes(app: App, handlers: readonly Handler[]): void {
  const byKind = new Map(handlers.map((h) => [h.kind, h]));
  // Signing in and streams of readings are no lines anybody looks for.
  const silent = handlers.filter((h) => h.stream || h.touches.includes('sessions')).map((h) => h.kind);
  const own = silent.filter((kind) => !kind.startsWith('person'));
  const TrailQuery = z.object({
    batchId: z.uuid().optional(),
    /** Only what this person can take back. */
    mine: z.stringbool().optional(),
    kinds: z.string().max(400).optional(),
    limit: z.coerce.number().int().min(1).max(500).default(60),
  });
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
      const { batchId, mine, kinds, limit } = request.query;
      const where = and(
        batchId ? eq(trail.batchId, batchId) : undefined,
        mine
          ? and(eq(trail.personId, request.person!.id), eq(trail.undoable, true), isNull(trail.undoneBy))
          : undefined,
        kinds ? inArray(trail.kind, kinds.split(',')) : undefined,
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
