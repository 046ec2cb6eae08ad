import { and, eq, ne, sql } from 'drizzle-orm';
import { z } from 'zod';
import { PersonPut } from '@wunsch/contract';
import { handler, lineOf, OWNERS } from '../commands/command.ts';
import { person, session } from '../db/schema/index.ts';
import { notFound, Problem } from '../http/problem.ts';
import { requireMatch } from './match.ts';

/** A person as the journal keeps them: the password only as its hash. */
export const StoredPerson = PersonPut.omit({ password: true }).extend({
  passwordHash: z.string().nullable(),
  demo: z.boolean().default(false),
  ifMatch: z.int().nullable().default(null),
});

/** Adding a person or changing one. */
export const personPut = handler({
  kind: 'person.put',
  version: 1,
  body: StoredPerson,
  roles: OWNERS,
  touches: ['people', 'sessions'],
  line: lineOf('name'),
  async apply({ tx, target, body }) {
    const { ifMatch, passwordHash, ...facts } = body;
    const [same] = await tx
      .select({ id: person.id })
      .from(person)
      .where(and(sql`lower(${person.name}) = lower(${body.name})`, ne(person.id, target)));
    if (same)
      throw new Problem({
        status: 409,
        code: 'name-taken',
        field: 'name',
        detail: `there is already a person called ${body.name}`,
      });
    const [old] = await tx.select().from(person).where(eq(person.id, target));
    if (!old) {
      await tx.insert(person).values({ id: target, ...facts, passwordHash });
      return;
    }
    requireMatch(ifMatch, old.version, 'person');
    if (old.role === 'owner' && (facts.role !== 'owner' || !facts.active)) {
      const owners = await tx
        .select({ id: person.id })
        .from(person)
        .where(and(eq(person.role, 'owner'), eq(person.active, true), ne(person.id, target)));
      if (owners.length === 0)
        throw new Problem({
          status: 409,
          code: 'last-owner',
          field: 'role',
          detail: 'a workshop needs at least one active owner; make another person owner first',
        });
    }
    await tx
      .update(person)
      .set({ ...facts, passwordHash: passwordHash ?? old.passwordHash, version: old.version + 1 })
      .where(eq(person.id, target));
    if (!facts.active || passwordHash) await tx.delete(session).where(eq(session.personId, target));
  },
});

/** Opening a session; the target is the hash of its token. */
export const sessionOpen = handler({
  kind: 'session.open',
  version: 1,
  touches: ['sessions'],
  keepsRead: true,
  body: z.object({ personId: z.uuid(), expiresAt: z.string(), device: z.string().max(120).default('') }),
  async apply({ tx, target, at, body }) {
    const [who] = await tx.select({ id: person.id }).from(person).where(eq(person.id, body.personId));
    if (!who) throw notFound('person', body.personId);
    await tx.delete(session).where(sql`${session.expiresAt} < ${at}`);
    await tx.insert(session).values({ tokenHash: target, createdAt: at, ...body });
  },
});

/** Ending a session. */
export const sessionClose = handler({
  kind: 'session.close',
  version: 1,
  touches: ['sessions'],
  keepsRead: true,
  body: z.object({}),
  async apply({ tx, target }) {
    await tx.delete(session).where(eq(session.tokenHash, target));
  },
});

/** Changing one's own password: every other sign-in of that person ends. */
export const passwordChange = handler({
  kind: 'person.password',
  version: 1,
  touches: ['people', 'sessions'],
  keepsRead: true,
  body: z.object({
    passwordHash: z.string(),
    /** Hash of the token of the sign-in that stays. */
    keep: z.string(),
  }),
  async apply({ tx, target, personId, body }) {
    const [who] = await tx.select().from(person).where(eq(person.id, target));
    if (!who) throw notFound('person', target);
    if (personId !== target)
      throw new Problem({
        status: 403,
        code: 'role',
        detail: 'a password is changed by the person it belongs to; an owner may set a new one instead',
      });
    await tx
      .update(person)
      .set({ passwordHash: body.passwordHash, version: who.version + 1 })
      .where(eq(person.id, target));
    await tx.delete(session).where(and(eq(session.personId, target), ne(session.tokenHash, body.keep)));
  },
});
