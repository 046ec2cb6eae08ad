import { and, eq, gt } from 'drizzle-orm';
import { createHash, randomBytes } from 'node:crypto';
import type { FastifyRequest } from 'fastify';
import type { Person } from '@wunsch/contract';
import type { Db } from '../db/database.ts';
import { person, session } from '../db/schema/index.ts';

/** Name of the sign-in cookie. */
export const COOKIE = 'wunsch';

/** How long a sign-in lasts, s: a month, since hands are sticky. */
export const SESSION_SECONDS = 30 * 86_400;

/** A fresh token for the cookie and the hash it is kept under. */
export function newToken(): { token: string; hash: string } {
  const token = randomBytes(32).toString('base64url');
  return { token, hash: hashToken(token) };
}

/** The hash under which a cookie's token is kept. */
export function hashToken(token: string): string {
  return createHash('sha256').update(token).digest('hex');
}

/** The person a cookie belongs to, if it is still good. */
export async function personOf(db: Db, token: string | undefined, now: string): Promise<Person | null> {
  if (!token) return null;
  const [found] = await db
    .select({ person })
    .from(session)
    .innerJoin(person, eq(person.id, session.personId))
    .where(and(eq(session.tokenHash, hashToken(token)), gt(session.expiresAt, now), eq(person.active, true)));
  return found ? publicPerson(found.person) : null;
}

/** A person without the password. */
export function publicPerson({ passwordHash: _, ...facts }: typeof person.$inferSelect): Person {
  return facts;
}

const LOOPBACK = new Set(['127.0.0.1', '::1', '::ffff:127.0.0.1']);
const LOCAL_HOST = /^(localhost|127\.0\.0\.1|\[::1\])(:\d+)?$/;

/** What a proxy adds for whom it asks: then the request comes from elsewhere, whatever its last hop. */
const PASSED_ON = ['x-forwarded-for', 'x-real-ip', 'forwarded', 'via'];

/** Whether a request comes from this very machine, under a name of this machine (so no other site’s page can ask). */
export function fromThisMachine(request: FastifyRequest): boolean {
  return (
    PASSED_ON.every((name) => request.headers[name] === undefined) &&
    LOOPBACK.has(request.socket.remoteAddress ?? '127.0.0.1') &&
    LOCAL_HOST.test(request.headers.host ?? '')
  );
}
