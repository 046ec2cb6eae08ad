import type { FastifyReply, FastifyRequest } from 'fastify';
import { z } from 'zod';
import { Id } from '@wunsch/contract';
import type { App } from './app.ts';
import type { Accepted } from './commands/writer.ts';
import { Problem } from './formats/problem.ts';

/** Path parameters of a resource. */
export const IdParams = z.object({ id: Id });

/** The answer to every accepted entry: its id and its number in the trail. */
export const Answer = z.object({ id: z.string(), seq: z.int(), repeated: z.boolean() });

/** Sends an entry of the signed-in person through the one door for writing. */
export function write(
  app: App,
  request: FastifyRequest,
  kind: string,
  target: string,
  body: unknown,
): Promise<Accepted> {
  const who = request.person;
  return app.store().writer.submit({
    kind,
    target,
    body,
    actor: who && { id: who.id, initials: who.initials, role: who.role },
  });
}

/** 201 for a new entry, 200 for one that had been accepted before. */
export function answer(reply: FastifyReply, id: string, { seq, repeated }: Accepted): FastifyReply {
  return reply.code(repeated ? 200 : 201).send({ id, seq, repeated });
}

/** The version a change was made from, or null when the request names none. */
export function ifMatchOf(request: FastifyRequest): number | null {
  const header = request.headers['if-match'];
  if (header === undefined) return null;
  const match = /^(?:W\/)?"?(\d+)"?$/.exec(header);
  if (!match)
    throw new Problem({
      status: 400,
      code: 'bad-if-match',
      field: 'If-Match',
      detail: `If-Match must be a version like "3", not ${header}`,
    });
  return Number(match[1]);
}
