import { and, asc, eq, sql } from 'drizzle-orm';
import { z } from 'zod';
import { FirstRun, Person, PersonPut, SessionView, SignIn, WorkshopPut } from '@wunsch/contract';
import { randomBytes } from 'node:crypto';
import { v7 } from 'uuid';
import type { App } from '../http/types.ts';
import { machine, person, workshop } from '../db/schema/index.ts';
import { Problem } from '../http/problem.ts';
import { answer, IdParams, ifMatchOf, write, Answer } from '../http/entries.ts';
import { tokenHash } from '../live/door.ts';
import { starterShelf, workshopExists, type StoredFirstRun } from '../workshop/handlers.ts';
import { hashPassword, verifyPassword } from './password.ts';
import {
  COOKIE,
  fromThisMachine,
  hashToken,
  newToken,
  personOf,
  publicPerson,
  SESSION_SECONDS,
} from './session.ts';

/** Where anyone may knock: who is signed in, signing in, and the first run. */
export function entranceRoutes(app: App): void {
  app.get(
    '/api/session',
    {
      schema: {
        tags: ['access'],
        summary: 'Who is signed in, and the workshop’s settings',
        response: { 200: SessionView },
      },
    },
    async (request) => {
      const nobody = { person: null, workshop: null, demoPeople: [] };
      if (!app.isOpen()) return { state: 'opening' as const, ...nobody };
      const { db } = request.store;
      const [row] = await db.select().from(workshop);
      if (!row) return { state: 'first-run' as const, ...nobody };
      const who = await personOf(db, request.cookies[COOKIE], new Date().toISOString());
      const demoPeople =
        who || !fromThisMachine(request)
          ? []
          : (
              await db
                .select()
                .from(person)
                .where(and(eq(person.demo, true), eq(person.active, true)))
                .orderBy(asc(person.name))
            ).map(publicPerson);
      // A workshop from before a setting was there gets its usual value.
      const settings = WorkshopPut.parse(row.settings);
      return {
        state: who ? ('signed-in' as const) : ('signed-out' as const),
        person: who,
        workshop: { ...settings, version: row.version, createdAt: row.createdAt },
        demoPeople,
      };
    },
  );

  app.post(
    '/api/session',
    {
      schema: { tags: ['access'], summary: 'Sign in', body: SignIn, response: { 200: Person } },
      config: {
        rateLimit: {
          max: 10,
          timeWindow: 60_000,
          hook: 'preHandler',
          allowList: (r) => typeof r.body === 'object' && r.body !== null && 'demoPersonId' in r.body,
        },
      },
    },
    async (request, reply) => {
      const { db, writer } = request.store;
      const { body } = request;
      let who: typeof person.$inferSelect | undefined;
      if ('demoPersonId' in body) {
        if (!fromThisMachine(request))
          throw new Problem({
            status: 403,
            code: 'demo-elsewhere',
            detail: 'demo accounts can be used only on the machine Wunsch runs on',
          });
        [who] = await db
          .select()
          .from(person)
          .where(and(eq(person.id, body.demoPersonId), eq(person.demo, true), eq(person.active, true)));
        if (!who)
          throw new Problem({ status: 404, code: 'not-found', detail: 'there is no such demo account' });
      } else {
        [who] = await db
          .select()
          .from(person)
          .where(and(sql`lower(${person.name}) = lower(${body.name})`, eq(person.active, true)));
        const fits = await verifyPassword(body.password, who?.passwordHash ?? null);
        if (!who || !fits)
          throw new Problem({
            status: 401,
            code: 'wrong-password',
            field: 'password',
            detail: 'name and password do not fit together',
          });
      }
      const { token, hash } = newToken();
      const expiresAt = new Date(Date.now() + SESSION_SECONDS * 1000).toISOString();
      await writer.submit({
        kind: 'session.open',
        target: hash,
        actor: { id: who.id, initials: who.initials, role: who.role },
        body: { personId: who.id, expiresAt },
      });
      reply.setCookie(COOKIE, token, {
        path: '/',
        httpOnly: true,
        sameSite: 'strict',
        secure: request.protocol === 'https',
        maxAge: SESSION_SECONDS,
      });
      return publicPerson(who);
    },
  );

  app.post(
    '/api/first-run',
    {
      schema: {
        tags: ['access'],
        summary: 'Make the workshop; only while there is none',
        body: FirstRun,
        response: { 201: Answer },
      },
    },
    async (request, reply) => {
      const { owner, people, machines, workshop: settings } = request.body;
      const { db, writer } = request.store;
      // What costs nothing is looked at before passwords are hashed.
      const [there] = await db.select({ id: workshop.id }).from(workshop);
      if (there) throw workshopExists();
      const names = [owner, ...people].map((p) => p.name.toLowerCase());
      if (new Set(names).size < names.length)
        throw new Problem({
          status: 422,
          code: 'name-taken',
          field: 'people',
          detail: 'two people have the same name; add an initial',
        });
      const stored: z.input<typeof StoredFirstRun>['people'] = [];
      for (const { password, ...facts } of [{ ...owner, role: 'owner' as const }, ...people])
        stored.push({ ...facts, passwordHash: password ? await hashPassword(password) : null });
      const accepted = await writer.submit({
        kind: 'workshop.setup',
        target: 'workshop',
        actor: { id: owner.id, initials: owner.initials, role: 'owner' },
        body: { workshop: settings, machines, people: stored, ingredients: starterShelf(v7) },
      });
      return answer(reply, 'workshop', accepted);
    },
  );
}

/** Signing out, people, machines and settings. */
export function accessRoutes(app: App): void {
  app.delete(
    '/api/session',
    { schema: { tags: ['access'], summary: 'Sign out' } },
    async (request, reply) => {
      const token = request.cookies[COOKIE];
      if (token) await write(request, 'session.close', hashToken(token), {});
      return reply.clearCookie(COOKIE, { path: '/' }).code(204).send();
    },
  );

  app.put(
    '/api/workshop',
    { schema: { tags: ['access'], summary: 'Change the workshop’s settings (If-Match)', body: WorkshopPut } },
    async (request, reply) =>
      answer(
        reply,
        'workshop',
        await write(request, 'workshop.update', 'workshop', {
          ...request.body,
          ifMatch: ifMatchOf(request),
        }),
      ),
  );

  app.get(
    '/api/people',
    { schema: { tags: ['access'], summary: 'Everyone in the workshop', response: { 200: z.array(Person) } } },
    async (request) =>
      (await request.store.db.select().from(person).orderBy(asc(person.name))).map(publicPerson),
  );

  app.put(
    '/api/people/:id',
    {
      schema: {
        tags: ['access'],
        summary: 'Add a person, or change one (If-Match)',
        params: IdParams,
        body: PersonPut,
      },
    },
    async (request, reply) => {
      const { password, ...facts } = request.body;
      const passwordHash = password ? await hashPassword(password) : null;
      const body = { ...facts, passwordHash, demo: false, ifMatch: ifMatchOf(request) };
      return answer(reply, request.params.id, await write(request, 'person.put', request.params.id, body));
    },
  );

  app.get(
    '/api/machines',
    { schema: { tags: ['access'], summary: 'Machines with their usable charge' } },
    async (request) =>
      (await request.store.db.select().from(machine).orderBy(asc(machine.name))).map(
        ({ tokenHash: hash, ...m }) => ({ ...m, hasToken: hash !== null }),
      ),
  );

  app.post(
    '/api/machines/:id/token',
    {
      schema: {
        tags: ['access'],
        summary: 'Make a device token; it is shown this once',
        params: IdParams,
        response: { 201: z.object({ token: z.string() }) },
      },
    },
    async (request, reply) => {
      const token = randomBytes(18).toString('base64url');
      await write(request, 'machine.token', request.params.id, { tokenHash: tokenHash(token) });
      return reply.code(201).send({ token });
    },
  );
}
