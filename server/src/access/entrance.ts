import { and, asc, eq, sql } from 'drizzle-orm';
import Bowser from 'bowser';
import { z } from 'zod';
import { FirstRun, Person, SessionView, SignIn, WorkshopPut } from '@wunsch/contract';
import { v7 } from 'uuid';
import type { FastifyRequest } from 'fastify';
import type { App } from '../http/types.ts';
import { person, workshop } from '../db/schema/index.ts';
import { Problem } from '../http/problem.ts';
import { answer, Answer } from '../http/entries.ts';
import { starterShelf, workshopExists, type StoredFirstRun } from '../workshop/handlers.ts';
import { requireUncommon } from './commonPasswords.ts';
import { isFirstRunCode } from './firstRunCode.ts';
import { hashPassword, verifyPassword } from './password.ts';
import { COOKIE, fromThisMachine, newToken, personOf, publicPerson, SESSION_SECONDS } from './session.ts';
import type { Tries } from './tries.ts';

/** What the entrance has to know. */
export interface EntranceOptions {
  /** Wrong passwords of late. */
  tries: Tries;
  /** The code a first run must bring; null where only this machine can reach the server. */
  firstRunCode: string | null;
}

/** Most knocks of one address in a minute: each costs a password's hash. */
const KNOCKS = { max: 60, timeWindow: 60_000 };

/** Most first runs of one address in a minute. */
const FIRST_RUNS = { max: 6, timeWindow: 60_000 };

/** Where anyone may knock: who is signed in, signing in, and the first run. */
export function entranceRoutes(app: App, { tries, firstRunCode }: EntranceOptions): void {
  app.get(
    '/api/session',
    {
      schema: {
        tags: ['access'],
        summary: 'Who is signed in, and the workshop’s settings; its name alone for a stranger',
        response: { 200: SessionView },
      },
    },
    async (request) => {
      const nobody = { person: null, workshop: null, greeting: null, demoPeople: [] };
      if (!app.isOpen()) return { state: 'opening' as const, ...nobody, needsCode: false };
      const { db } = request.store;
      const [row] = await db.select().from(workshop);
      if (!row) return { state: 'first-run' as const, ...nobody, needsCode: firstRunCode !== null };
      // A workshop from before a setting was there gets its usual value.
      const settings = WorkshopPut.parse(row.settings);
      const who = await personOf(db, request.cookies[COOKIE], new Date().toISOString());
      const open = {
        ...nobody,
        needsCode: false,
        greeting: { name: settings.name, language: settings.language },
      };
      if (who)
        return {
          ...open,
          state: 'signed-in' as const,
          person: who,
          workshop: { ...settings, version: row.version, createdAt: row.createdAt },
        };
      const demoPeople = fromThisMachine(request)
        ? await db
            .select()
            .from(person)
            .where(and(eq(person.demo, true), eq(person.active, true)))
            .orderBy(asc(person.name))
        : [];
      return { ...open, state: 'signed-out' as const, demoPeople: demoPeople.map(publicPerson) };
    },
  );

  app.post(
    '/api/session',
    {
      schema: { tags: ['access'], summary: 'Sign in', body: SignIn, response: { 200: Person } },
      config: { rateLimit: { ...KNOCKS, allowList: (request: FastifyRequest) => fromThisMachine(request) } },
    },
    async (request, reply) => {
      const { body } = request;
      const who =
        'demoPersonId' in body
          ? await demoPersonOf(request, body.demoPersonId)
          : await personBy(request, body, tries);
      const { token, hash } = newToken();
      const expiresAt = new Date(Date.now() + SESSION_SECONDS * 1000).toISOString();
      await request.store.writer.submit({
        kind: 'session.open',
        target: hash,
        actor: { id: who.id, initials: who.initials, role: who.role },
        body: { personId: who.id, expiresAt, device: deviceOf(request.headers['user-agent']) },
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
        summary:
          'Make the workshop; only while there is none, and with the printed code where others could come first',
        body: FirstRun,
        response: { 201: Answer },
      },
      config: {
        rateLimit: { ...FIRST_RUNS, allowList: (request: FastifyRequest) => fromThisMachine(request) },
      },
    },
    async (request, reply) => {
      const { owner, people, machines, workshop: settings, code } = request.body;
      const { db, writer } = request.store;
      // What costs nothing is looked at before passwords are hashed.
      const [there] = await db.select({ id: workshop.id }).from(workshop);
      if (there) throw workshopExists();
      if (firstRunCode !== null && !isFirstRunCode(code, firstRunCode))
        throw new Problem({
          status: 403,
          code: 'first-run-code',
          field: 'code',
          detail: 'the first run needs the code that is printed in the terminal where Wunsch was started',
        });
      const names = [owner, ...people].map((p) => p.name.toLowerCase());
      if (new Set(names).size < names.length)
        throw new Problem({
          status: 422,
          code: 'name-taken',
          field: 'people',
          detail: 'two people have the same name; add an initial',
        });
      if (firstRunCode !== null)
        for (const { name, password, field } of [
          { ...owner, field: 'owner.password' },
          ...people.map((p, i) => ({ ...p, field: `people.${i}.password` })),
        ])
          if (password) await requireUncommon(password, name, field);
      const stored: z.input<typeof StoredFirstRun>['people'] = [];
      for (const { password, ...facts } of [{ ...owner, role: 'owner' as const }, ...people])
        stored.push({ ...facts, passwordHash: password ? await hashPassword(password) : null });
      const accepted = await writer.submit({
        kind: 'workshop.setup',
        target: 'workshop',
        actor: { id: owner.id, initials: owner.initials, role: 'owner' },
        body: {
          workshop: settings,
          machines,
          people: stored,
          ingredients: starterShelf(v7, settings.currency),
        },
      });
      return answer(reply, 'workshop', accepted);
    },
  );
}

type Known = typeof person.$inferSelect;

async function demoPersonOf(request: FastifyRequest, id: string): Promise<Known> {
  if (!fromThisMachine(request))
    throw new Problem({
      status: 403,
      code: 'demo-elsewhere',
      detail: 'demo accounts can be used only on the machine Wunsch runs on',
    });
  const [who] = await request.store.db
    .select()
    .from(person)
    .where(and(eq(person.id, id), eq(person.demo, true), eq(person.active, true)));
  if (!who) throw new Problem({ status: 404, code: 'not-found', detail: 'there is no such demo account' });
  return who;
}

async function personBy(
  request: FastifyRequest,
  { name, password }: { name: string; password: string },
  tries: Tries,
): Promise<Known> {
  const seconds = tries.wait(name, request.ip);
  if (seconds > 0) throw tooManyTries(seconds);
  // A try counts as wrong until it has been found right, so that many at once are no way around.
  tries.wrong(name, request.ip);
  const [who] = await request.store.db
    .select()
    .from(person)
    .where(and(sql`lower(${person.name}) = lower(${name})`, eq(person.active, true)));
  const fits = await verifyPassword(password, who?.passwordHash ?? null);
  if (!who || !fits) {
    request.log.warn({ name, from: request.ip }, 'wrong password');
    throw new Problem({
      status: 401,
      code: 'wrong-password',
      field: 'password',
      detail: 'name and password do not fit together',
    });
  }
  tries.right(name, request.ip);
  return who;
}

/** 429: this name has been tried in vain too often from there. */
export function tooManyTries(seconds: number): Problem {
  const after = seconds < 120 ? `${seconds} s` : `${Math.ceil(seconds / 60)} min`;
  return new Problem({
    status: 429,
    code: 'too-many-tries',
    detail: `too many wrong passwords for this name from here; wait ${after}`,
    params: { after },
  });
}

/** Browser and system of a device, as far as it says. */
function deviceOf(agent: string | undefined): string {
  if (!agent) return '';
  const { browser, os } = Bowser.parse(agent.slice(0, 500));
  return [browser.name, os.name]
    .filter((part) => part)
    .join(', ')
    .slice(0, 120);
}
