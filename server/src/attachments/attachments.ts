import { and, asc, eq, type SQL } from 'drizzle-orm';
import { z } from 'zod';
import { Attachment, Id } from '@wunsch/contract';
import type { App } from '../http/types.ts';
import { handler, TASTERS } from '../commands/command.ts';
import type { Db } from '../db/database.ts';
import { attachment, batch, faultCase, lot, step } from '../db/schema/index.ts';
import { notFound, Problem } from '../http/problem.ts';
import { IdParams } from '../http/entries.ts';

/** Largest file taken, bytes. Pages make photographs smaller before they send them. */
const LARGEST = 6 * 1024 * 1024;

/** Types taken, and how a file of each begins; text has no such mark. */
const BEGINNINGS: Readonly<Record<string, (head: Buffer) => boolean>> = {
  'image/jpeg': (h) => h[0] === 0xff && h[1] === 0xd8 && h[2] === 0xff,
  'image/png': (h) => h.subarray(0, 8).equals(Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a])),
  'image/webp': (h) => h.subarray(0, 4).toString() === 'RIFF' && h.subarray(8, 12).toString() === 'WEBP',
  'application/pdf': (h) => h.subarray(0, 5).toString() === '%PDF-',
};

const AttachmentPut = z.object({
  lotId: Id.nullable().default(null),
  batchId: Id.nullable().default(null),
  /** The step it shows; its batch keeps it. */
  stepId: Id.nullable().default(null),
  caseId: Id.nullable().default(null),
  name: z.string().trim().min(1).max(160),
  type: z.enum(['image/jpeg', 'image/png', 'image/webp', 'application/pdf']),
  content: z.base64().max(Math.ceil((LARGEST * 4) / 3) + 4),
});

/** Keeping a photograph or document with a lot or a batch. */
export const attachmentAdd = handler({
  kind: 'attachment.add',
  version: 1,
  put: {
    path: '/api/attachments/:id',
    summary: 'Keep a photograph or document (base64; JPEG, PNG, WebP or PDF up to 6 MB)',
    tag: 'attachments',
    bodyLimit: LARGEST + LARGEST / 2,
  },
  body: AttachmentPut,
  roles: TASTERS,
  large: true,
  creates: true,
  touches: ['attachments', 'cases'],
  keepsRead: true,
  async apply({ tx, target, body, at, by }) {
    await requireThere(tx, body);
    const content = Buffer.from(body.content, 'base64');
    if (!BEGINNINGS[body.type]!(content.subarray(0, 16)))
      throw new Problem({
        status: 422,
        code: 'not-that-type',
        field: 'type',
        detail: `the file does not begin as ${body.type} does; a JPEG, PNG, WebP or PDF is taken`,
      });
    const { lotId, stepId, caseId, name, type } = body;
    const batchId = stepId === null ? body.batchId : await batchOfStep(tx, stepId);
    await tx.insert(attachment).values({
      id: target,
      lotId,
      batchId,
      stepId,
      caseId,
      name,
      type,
      size: content.length,
      content,
      at,
      by,
    });
    return { batchId };
  },
  async undo({ tx }, { target }) {
    await tx.update(attachment).set({ voided: true }).where(eq(attachment.id, target));
  },
});

/** @throws Problem 404 where the lot, batch or case it is kept with is not there */
async function requireThere(
  tx: Db,
  of: { lotId: string | null; batchId: string | null; caseId: string | null },
): Promise<void> {
  if (of.caseId) {
    const [there] = await tx.select({ id: faultCase.id }).from(faultCase).where(eq(faultCase.id, of.caseId));
    if (!there) throw notFound('case', of.caseId);
  }
  if (of.lotId) {
    const [there] = await tx.select({ id: lot.id }).from(lot).where(eq(lot.id, of.lotId));
    if (!there) throw notFound('lot', of.lotId);
  }
  if (of.batchId) {
    const [there] = await tx.select({ id: batch.id }).from(batch).where(eq(batch.id, of.batchId));
    if (!there) throw notFound('batch', of.batchId);
  }
}

/** The batch of a step. @throws Problem 404 where there is no such step */
async function batchOfStep(tx: Db, stepId: string): Promise<string | null> {
  const [found] = await tx
    .select({ batchId: step.batchId })
    .from(step)
    .where(and(eq(step.id, stepId), eq(step.voided, false)));
  if (!found) throw notFound('step', stepId);
  return found.batchId;
}

const columns = {
  id: attachment.id,
  lotId: attachment.lotId,
  batchId: attachment.batchId,
  stepId: attachment.stepId,
  name: attachment.name,
  type: attachment.type,
  size: attachment.size,
  at: attachment.at,
  by: attachment.by,
};

/** What is kept with a lot or batch, without the files themselves. */
export function loadAttachments(db: Db, where: SQL | undefined): Promise<Attachment[]> {
  return db
    .select(columns)
    .from(attachment)
    .where(and(where, eq(attachment.voided, false)))
    .orderBy(asc(attachment.at));
}

/** Photographs and documents. */
export function attachmentRoutes(app: App): void {
  const tags = ['attachments'];
  app.get(
    '/api/attachments',
    {
      schema: {
        tags,
        summary: 'What is kept with a batch or a lot',
        querystring: z.object({ batchId: Id.optional(), lotId: Id.optional() }),
        response: { 200: z.array(Attachment) },
      },
    },
    async (request) => {
      const { batchId, lotId } = request.query;
      return loadAttachments(
        request.store.db,
        and(
          batchId ? eq(attachment.batchId, batchId) : undefined,
          lotId ? eq(attachment.lotId, lotId) : undefined,
        ),
      );
    },
  );
  app.get(
    '/api/attachments/:id/file',
    { schema: { tags, summary: 'The file itself', params: IdParams } },
    async (request, reply) => {
      const [found] = await request.store.db
        .select()
        .from(attachment)
        .where(and(eq(attachment.id, request.params.id), eq(attachment.voided, false)));
      if (!found) throw notFound('attachment', request.params.id);
      const name = encodeURIComponent(found.name);
      return reply
        .type(found.type)
        .header('content-disposition', `inline; filename*=UTF-8''${name}`)
        .header('cache-control', 'private, max-age=31536000, immutable')
        .header('x-content-type-options', 'nosniff')
        .send(Buffer.from(found.content));
    },
  );
}
