import type { FastifyReply } from 'fastify';
import { z } from 'zod';

/** Languages papers are written in. */
export const LanguageQuery = z.object({ language: z.enum(['en', 'de']).default('en') });

/** Answers with a PDF, shown in the browser under this name. */
export function sendPdf(reply: FastifyReply, name: string, bytes: Uint8Array): FastifyReply {
  return reply
    .type('application/pdf')
    .header('content-disposition', `inline; filename="${name}.pdf"`)
    .send(Buffer.from(bytes));
}
