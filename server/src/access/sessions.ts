import { and, desc, eq, gt } from 'drizzle-orm';
import { z } from 'zod';
import { PasswordChange, SessionsView } from '@wunsch/contract';
import type { App } from '../http/types.ts';
import { person, session } from '../db/schema/index.ts';
import { write } from '../http/entries.ts';
import { notFound, Problem } from '../http/problem.ts';
import { tooManyTries } from './entrance.ts';
import { requireUncommon, type PasswordGuard } from './commonPasswords.ts';
import { hashPassword, verifyPassword } from './password.ts';
import { COOKIE, hashToken } from './session.ts';
import type { Tries } from './tries.ts';

const SessionParams = z.object({ id: z.string().regex(/^[0-9a-f]{64}$/, 'the id of a session') });

/** Signing out, who is signed in where, ending that, and one's own password: always of the workshop people belong to. */
export function sessionRoutes(app: App, tries: Tries, { isExposed }: PasswordGuard): void {
  app.delete(
    '/api/session',
    { schema: { tags: ['access'], summary: 'Sign out' } },
    async (request, reply) => {
      const token = request.cookies[COOKIE];
      if (token) await write(request, 'session.close', hashToken(token), {}, request.home);
      return reply.clearCookie(COOKIE, { path: '/' }).code(204).send();
    },
  );

  app.get(
    '/api/sessions',
    {
      schema: {
        tags: ['access'],
        summary: 'Who is signed in on which device: everyone for owners, otherwise oneself',
        response: { 200: SessionsView },
      },
    },
    async (request) => {
      const me = request.person!;
      const isOwner = me.role === 'owner';
      const rows = await request.home.db
        .select({ session, name: person.name })
        .from(session)
        .innerJoin(person, eq(person.id, session.personId))
        .where(
          and(
            gt(session.expiresAt, new Date().toISOString()),
            isOwner ? undefined : eq(session.personId, me.id),
          ),
        )
        .orderBy(desc(session.createdAt));
      const mine = hashToken(request.cookies[COOKIE]!);
      return {
        open: rows.map(({ session: s, name }) => ({
          id: s.tokenHash,
          person: name,
          device: s.device,
          createdAt: s.createdAt,
          expiresAt: s.expiresAt,
          current: s.tokenHash === mine,
        })),
        wrong: isOwner ? tries.list().map((t) => ({ ...t, at: new Date(t.at).toISOString() })) : [],
      };
    },
  );

  app.delete(
    '/api/sessions/:id',
    {
      schema: {
        tags: ['access'],
        summary: 'End a sign-in: anyone’s for owners, otherwise one’s own',
        params: SessionParams,
      },
    },
    async (request, reply) => {
      const me = request.person!;
      const { id } = request.params;
      const [found] = await request.home.db
        .select({ personId: session.personId })
        .from(session)
        .where(eq(session.tokenHash, id));
      if (!found || (me.role !== 'owner' && found.personId !== me.id)) throw notFound('session', id);
      await write(request, 'session.close', id, {}, request.home);
      return reply.code(204).send();
    },
  );

  app.post(
    '/api/password',
    {
      schema: {
        tags: ['access'],
        summary: 'Change one’s own password; every other sign-in of that person ends',
        body: PasswordChange,
      },
    },
    async (request, reply) => {
      const me = request.person!;
      const { current, next } = request.body;
      const seconds = tries.wait(me.name, request.ip);
      if (seconds > 0) throw tooManyTries(seconds);
      tries.wrong(me.name, request.ip);
      const [who] = await request.home.db.select().from(person).where(eq(person.id, me.id));
      if (!(await verifyPassword(current, who?.passwordHash ?? null)))
        throw new Problem({
          status: 422,
          code: 'wrong-password',
          field: 'current',
          detail: 'this is not the password so far',
        });
      tries.right(me.name, request.ip);
      if (isExposed) await requireUncommon(next, me.name, 'next');
      const entry = {
        passwordHash: await hashPassword(next),
        keep: hashToken(request.cookies[COOKIE]!),
      };
      await write(request, 'person.password', me.id, entry, request.home);
      return reply.code(204).send();
    },
  );
}
