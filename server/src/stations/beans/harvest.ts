import { and, desc, eq, inArray } from 'drizzle-orm';
import { z } from 'zod';
import { HarvestTaken, PickingPut, PickingRecord } from '@wunsch/contract';
import { handler, lineOf, MAKERS } from '../../commands/command.ts';
import { lot, picking } from '../../db/schema/index.ts';
import { notFound, Problem } from '../../http/problem.ts';
import type { App } from '../../http/types.ts';
import { lotReceive } from './handlers.ts';

/** Writing down what was picked in a plot on a day. */
export const harvestPick = handler({
  kind: 'harvest.pick',
  version: 1,
  put: { path: '/api/pickings/:id', summary: 'Note pods picked on a day in a plot', tag: 'beans' },
  body: PickingPut,
  roles: MAKERS,
  creates: true,
  touches: ['harvest'],
  line: lineOf('plot', 'pods', 'on'),
  keepsRead: true,
  async apply({ tx, target, body, by }) {
    await tx.insert(picking).values({ id: target, ...body, by });
  },
  async undo({ tx }, { target }) {
    const [row] = await tx.select().from(picking).where(eq(picking.id, target));
    if (row?.lotId)
      throw new Problem({
        status: 409,
        code: 'in-use',
        detail: 'this picking has been taken in as a lot; take that back first',
      });
    await tx.update(picking).set({ voided: true }).where(eq(picking.id, target));
  },
});

/** Taking pickings in: they become one lot, with the mass that was weighed and what was paid for them. */
export const harvestTakeIn = handler({
  kind: 'harvest.take-in',
  version: 1,
  put: {
    path: '/api/lots/:id/harvest',
    summary: 'Take pickings in as one lot of pods or wet beans',
    tag: 'beans',
  },
  body: HarvestTaken,
  roles: MAKERS,
  creates: true,
  touches: ['harvest', 'lots', 'stock'],
  line: lineOf('code', 'name', 'massMg', 'material'),
  async apply(context) {
    const { tx, target, body } = context;
    const { pickings, ...facts } = body;
    const rows = await tx
      .select()
      .from(picking)
      .where(and(inArray(picking.id, pickings), eq(picking.voided, false)));
    const missing = pickings.find((id) => !rows.some((r) => r.id === id));
    if (missing) throw notFound('picking', missing);
    const taken = rows.find((r) => r.lotId !== null);
    if (taken)
      throw new Problem({
        status: 409,
        code: 'taken-in',
        field: 'pickings',
        detail: `what was picked in ${taken.plot} on ${taken.on} has been taken in already`,
      });
    await lotReceive.apply({ ...context, body: facts });
    await tx.update(picking).set({ lotId: target }).where(inArray(picking.id, pickings));
  },
  async undo(context, original) {
    await lotReceive.undo!(context, original);
    await context.tx.update(picking).set({ lotId: null }).where(eq(picking.lotId, original.target));
  },
});

/** What was picked. */
export function harvestRoutes(app: App): void {
  app.get(
    '/api/pickings',
    {
      config: { cached: true },
      schema: {
        tags: ['beans'],
        summary: 'Pods picked, newest first, and the lots they went into',
        response: { 200: z.array(PickingRecord) },
      },
    },
    async (request) => {
      const rows = await request.store.db
        .select({ picking, lotCode: lot.code })
        .from(picking)
        .leftJoin(lot, eq(lot.id, picking.lotId))
        .where(eq(picking.voided, false))
        .orderBy(desc(picking.on), desc(picking.id));
      return rows.map(({ picking: { voided: _, ...facts }, lotCode }) => ({ ...facts, lotCode }));
    },
  );
}
