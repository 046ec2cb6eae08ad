import { asc, eq } from 'drizzle-orm';
import { z } from 'zod';
import {
  LabelDesignPut,
  LabelDesignRecord,
  LabelDesignSchema,
  MouldPut,
  MouldRecord,
} from '@wunsch/contract';
import { STARTER_DESIGNS } from '@wunsch/core/label';
import { requireMatch } from '../../access/match.ts';
import { handler, lineOf, MAKERS, withMatch } from '../../commands/command.ts';
import { labelDesign, mouldForm } from '../../db/schema/index.ts';
import type { App } from '../../http/types.ts';
import type { Db } from '../../db/database.ts';

/** Adding or changing a kind of mould. */
export const mouldPut = handler({
  kind: 'mould.put',
  version: 1,
  put: {
    path: '/api/moulds/:id',
    summary: 'Add a kind of mould, or change one (If-Match)',
    tag: 'mould',
    body: MouldPut,
    guarded: true,
  },
  body: withMatch(MouldPut),
  roles: MAKERS,
  touches: ['moulds'],
  line: lineOf('name', 'count'),
  async apply({ tx, target, body: { ifMatch, ...facts } }) {
    const [old] = await tx.select().from(mouldForm).where(eq(mouldForm.id, target));
    if (!old) {
      await tx.insert(mouldForm).values({ id: target, ...facts });
      return;
    }
    requireMatch(ifMatch, old.version, 'mould');
    await tx
      .update(mouldForm)
      .set({ ...facts, version: old.version + 1 })
      .where(eq(mouldForm.id, target));
  },
});

/** Keeping a design of labels under a name, or changing one. */
export const labelDesignPut = handler({
  kind: 'label.design',
  version: 1,
  put: {
    path: '/api/label-designs/:id',
    summary: 'Keep a design of labels, or change one (If-Match)',
    tag: 'mould',
    body: LabelDesignPut,
    guarded: true,
  },
  body: withMatch(LabelDesignPut),
  roles: MAKERS,
  touches: ['moulds'],
  line: lineOf('name'),
  async apply({ tx, target, body: { ifMatch, ...facts } }) {
    const [old] = await tx.select().from(labelDesign).where(eq(labelDesign.id, target));
    if (!old) {
      await tx.insert(labelDesign).values({ id: target, ...facts });
      return;
    }
    requireMatch(ifMatch, old.version, 'design');
    await tx
      .update(labelDesign)
      .set({ ...facts, version: old.version + 1 })
      .where(eq(labelDesign.id, target));
  },
});

/** The workshop's own designs that can be understood, then those to begin with. */
export async function loadDesigns(db: Db): Promise<LabelDesignRecord[]> {
  const rows = await db.select().from(labelDesign).orderBy(asc(labelDesign.name), asc(labelDesign.id));
  return [
    ...rows.flatMap(({ design, ...row }) => {
      const read = LabelDesignSchema.safeParse(design);
      return read.success ? [{ ...row, design: read.data }] : [];
    }),
    ...Object.entries(STARTER_DESIGNS).map(([key, design]) => ({
      id: key,
      name: key,
      design: LabelDesignSchema.parse(design),
      active: true,
      version: 0,
    })),
  ];
}

/** Moulds and designs. */
export function mouldRoutes(app: App): void {
  const tags = ['mould'];
  app.get(
    '/api/moulds',
    {
      config: { cached: true },
      schema: { tags, summary: 'Kinds of moulds, in order of name', response: { 200: z.array(MouldRecord) } },
    },
    async (request) =>
      request.store.db.select().from(mouldForm).orderBy(asc(mouldForm.name), asc(mouldForm.id)),
  );
  app.get(
    '/api/label-designs',
    {
      config: { cached: true },
      schema: {
        tags,
        summary: 'Designs of labels: the workshop’s own, then those to begin with',
        response: { 200: z.array(LabelDesignRecord) },
      },
    },
    async (request) => loadDesigns(request.store.db),
  );
}
