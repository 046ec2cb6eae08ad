import type { FastifyReply, FastifyRequest } from 'fastify';
import { and, eq } from 'drizzle-orm';
import { randomBytes } from 'node:crypto';
import { z } from 'zod';
import { Id, MADE_AGO, OLDEST_ENTRY, Topic } from '@wunsch/contract';
import type { Handler } from '../commands/command.ts';
import type { App } from './types.ts';
import type { Accepted } from '../commands/writer.ts';
import { trail } from '../db/schema/index.ts';
import type { Store } from '../store/store.ts';
import { Problem } from './problem.ts';

/** Path parameters of a resource. */
export const IdParams = z.object({ id: Id });

/** The answer to every accepted entry: its id, its number in the trail, and what it touched. */
export const Answer = z.object({
  id: z.string(),
  seq: z.int(),
  repeated: z.boolean(),
  touches: z.array(Topic),
  batchId: z.string().nullable(),
});

/**
 * When an entry was made that is sent only now; nothing where it is made now. In a practice time goes at another pace, and nothing waits there.
 *
 * @throws Problem 400 for an age that is none
 */
function madeAt(request: FastifyRequest, store: Store): string | undefined {
  const said = request.headers[MADE_AGO];
  if (said === undefined || store !== request.home) return undefined;
  const ago = /^\d+(\.\d+)?$/.test(String(said)) ? Number(said) : Number.NaN;
  if (!(ago <= OLDEST_ENTRY))
    throw new Problem({
      status: 400,
      code: 'not-valid',
      field: MADE_AGO,
      detail: `${MADE_AGO} says how many seconds ago an entry was made, from 0 to ${OLDEST_ENTRY}`,
    });
  return new Date(store.now() - 1000 * ago).toISOString();
}

/** Sends an entry of the signed-in person through the one door for writing. */
export function write(
  request: FastifyRequest,
  kind: string,
  target: string,
  body: unknown,
  store: Store = request.store,
): Promise<Accepted> {
  const who = request.person;
  const at = madeAt(request, store);
  return store.writer.submit({
    ...(at !== undefined && { at }),
    kind,
    target,
    body,
    actor: who && { id: who.id, initials: who.initials, role: who.role },
  });
}

/** 201 for a new entry, 200 for one that had been accepted before. */
export function answer(reply: FastifyReply, id: string, accepted: Accepted): FastifyReply {
  return reply.code(accepted.repeated ? 200 : 201).send({ id, ...accepted });
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

/** A salt for an entry: the one it was journalled with where it is sent again, else one of chance. */
async function saltOf(store: Store, kind: string, id: string): Promise<string> {
  const [before] = await store.db
    .select({ body: trail.body })
    .from(trail)
    .where(and(eq(trail.kind, kind), eq(trail.target, id)))
    .limit(1);
  const known = (before?.body as { salt?: unknown } | null | undefined)?.salt;
  return typeof known === 'string' ? known : randomBytes(24).toString('base64url');
}

/** Registers the HTTP door of a kind of entry, where it has one: an idempotent PUT with an id made by the client. */
export function putEntry(app: App, { kind, put, body }: Handler): void {
  if (!put) return;
  app.put(
    put.path,
    {
      schema: {
        tags: [put.tag],
        summary: put.summary,
        params: IdParams,
        body: put.body ?? body,
        response: { 200: Answer, 201: Answer },
      },
      ...(put.bodyLimit && { bodyLimit: put.bodyLimit }),
    },
    async (request, reply) => {
      const { id } = request.params as { id: string };
      const sent = {
        ...(request.body as object),
        ...(put.guarded && { ifMatch: ifMatchOf(request) }),
        ...(put.salted && { salt: await saltOf(request.store, kind, id) }),
      };
      return answer(reply, id, await write(request, kind, id, sent));
    },
  );
}
