import { eq } from 'drizzle-orm';
import { z } from 'zod';
import { TableLook } from '@wunsch/contract';
import { handler, lineOf, TASTERS } from '../commands/command.ts';
import { tableLook } from '../db/schema/index.ts';
import { notFound } from '../http/problem.ts';

/** Keeping a way of looking at a table under a name, for everyone. */
export const lookKept = handler({
  kind: 'look.keep',
  version: 1,
  put: {
    path: '/api/table-looks/:id',
    summary: 'Keep a way of looking at a table under a name',
    tag: 'stock',
  },
  body: TableLook,
  roles: TASTERS,
  creates: true,
  touches: ['looks'],
  line: lineOf('name', 'table'),
  keepsRead: true,
  async apply({ tx, target, body, at, by }) {
    await tx.insert(tableLook).values({ id: target, ...body, at, by });
  },
  async undo({ tx }, { target }) {
    await tx.update(tableLook).set({ voided: true }).where(eq(tableLook.id, target));
  },
});

/** Forgetting one again. */
export const lookForgotten = handler({
  kind: 'look.forget',
  version: 1,
  put: {
    path: '/api/table-looks/:id/forgotten',
    summary: 'Forget a kept way of looking at a table',
    tag: 'stock',
  },
  body: z.object({}),
  roles: TASTERS,
  touches: ['looks'],
  keepsRead: true,
  async apply({ tx, target }) {
    const [row] = await tx.select().from(tableLook).where(eq(tableLook.id, target));
    if (!row || row.voided) throw notFound('kept look', target);
    await tx.update(tableLook).set({ voided: true }).where(eq(tableLook.id, target));
  },
  async undo({ tx }, { target }) {
    await tx.update(tableLook).set({ voided: false }).where(eq(tableLook.id, target));
  },
});
