import { asc, eq, isNull } from 'drizzle-orm';
import { z } from 'zod';
import { SetAsideEntry } from '@wunsch/contract';
import { handler, OWNERS } from '../commands/command.ts';
import { setAside } from '../db/schema/index.ts';
import { notFound, Problem } from '../http/problem.ts';
import type { App } from '../http/types.ts';

/** The owner has read of an entry that could not be applied, and puts it away. It stays in the journal. */
export const setAsideSeen = handler({
  kind: 'set-aside.seen',
  version: 1,
  put: {
    path: '/api/set-aside/:id/seen',
    summary: 'Put away an entry that could not be applied',
    tag: 'workshop',
  },
  body: z.object({ seq: z.int().positive().max(Number.MAX_SAFE_INTEGER) }),
  roles: OWNERS,
  touches: ['set-aside'],
  keepsRead: true,
  async apply({ tx, at, body }) {
    const [row] = await tx
      .update(setAside)
      .set({ seenAt: at })
      .where(eq(setAside.seq, body.seq))
      .returning({ seq: setAside.seq });
    if (!row) throw notFound('entry set aside', String(body.seq));
  },
});

/** Entries that could not be applied, for the owner. */
export function setAsideRoutes(app: App): void {
  app.get(
    '/api/set-aside',
    {
      schema: {
        tags: ['workshop'],
        summary: 'Entries that could not be applied and were set aside, with the reason (owner)',
        response: { 200: z.array(SetAsideEntry) },
      },
    },
    async (request) => {
      if (!OWNERS.includes(request.person!.role))
        throw new Problem({ status: 403, code: 'role', detail: 'this is for the owner' });
      const rows = await request.store.db
        .select()
        .from(setAside)
        .where(isNull(setAside.seenAt))
        .orderBy(asc(setAside.seq))
        .limit(200);
      return rows.map(({ seenAt: _, version: __, ...row }) => row);
    },
  );
}
