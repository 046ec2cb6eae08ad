import { and, asc, eq, sql } from 'drizzle-orm';
import { createHash } from 'node:crypto';
import {
  GuestSeat,
  SessionCardPut,
  StoredSession,
  TastingSessionKeep,
  TastingSessionPut,
  TastingSessionStep,
} from '@wunsch/contract';
import { setTable } from '@wunsch/core/taste';
import { requireMatch } from '../../access/match.ts';
import {
  handler,
  lineOf,
  MAKERS,
  TASTERS,
  withMatch,
  withSalt,
  type Context,
} from '../../commands/command.ts';
import type { Db } from '../../db/database.ts';
import { batch, person, sessionCard, tastingSession } from '../../db/schema/index.ts';
import { notFound, Problem } from '../../http/problem.ts';

/** A stored session with its id. */
export interface LoadedSession {
  id: string;
  version: number;
  createdAt: string;
  facts: StoredSession;
}

/**
 * A session by its id.
 *
 * @throws Problem 404 where there is none
 */
export async function loadSession(tx: Db, id: string): Promise<LoadedSession> {
  const [row] = await tx.select().from(tastingSession).where(eq(tastingSession.id, id));
  if (!row) throw notFound('session', id);
  return { ...row, facts: StoredSession.parse(row.facts) };
}

/** All sessions that can be understood, the newest first. */
export async function loadSessions(db: Db): Promise<LoadedSession[]> {
  const rows = await db
    .select()
    .from(tastingSession)
    .orderBy(sql`${tastingSession.createdAt} desc`, asc(tastingSession.id));
  return rows.flatMap((row) => {
    const read = StoredSession.safeParse(row.facts);
    return read.success ? [{ ...row, facts: read.data }] : [];
  });
}

/** Where a session stands. */
export function statusOf({ begunAt, openedAt }: StoredSession): 'planned' | 'tasting' | 'opened' {
  return openedAt !== null ? 'opened' : begunAt !== null ? 'tasting' : 'planned';
}

/** The forced choice a session serves, if it serves one. */
export function choiceOf(facts: StoredSession): StoredSession['test'] | null {
  return facts.question === 'different' ? facts.test : null;
}

const save = ({ tx }: Pick<Context, 'tx'>, id: string, facts: StoredSession) =>
  tx
    .update(tastingSession)
    .set({ facts, version: sql`${tastingSession.version} + 1` })
    .where(eq(tastingSession.id, id));

/** Planning a session, or changing its plan until it begins. */
export const sessionPlan = handler({
  kind: 'panel.plan',
  version: 1,
  put: {
    path: '/api/tasting-sessions/:id',
    summary: 'Plan a tasting session, or change the plan before it begins (If-Match)',
    tag: 'taste',
    body: TastingSessionPut,
    guarded: true,
  },
  body: withMatch(TastingSessionPut),
  roles: MAKERS,
  touches: ['panels'],
  line: lineOf('title'),
  keepsRead: true,
  async apply({ tx, target, at, body: { ifMatch, ...plan } }) {
    for (const { batchId } of plan.samples) {
      if (batchId === null) continue;
      const [found] = await tx.select({ id: batch.id }).from(batch).where(eq(batch.id, batchId));
      if (!found) throw notFound('batch', batchId);
    }
    const [old] = await tx.select().from(tastingSession).where(eq(tastingSession.id, target));
    if (!old) {
      const [{ count } = { count: 0 }] = await tx
        .select({ count: sql<number>`count(*)::int` })
        .from(tastingSession);
      const facts = StoredSession.parse({ ...plan, number: count + 1 });
      await tx.insert(tastingSession).values({ id: target, facts, createdAt: at });
      return;
    }
    requireMatch(ifMatch, old.version, 'session');
    const facts = StoredSession.parse(old.facts);
    requirePlanned(facts);
    await save({ tx }, target, StoredSession.parse({ ...plan, number: facts.number }));
  },
});

/** A number from a salt, the same whenever the journal is replayed. */
const seedOf = (salt: string) => createHash('sha256').update(salt).digest().readUInt32BE(0);

/** Letters and digits nobody confuses on a screen across the table. */
const PLAIN = 'ACDEFHJKLMNPRTUVWXY34679';

/** Six letters a guest types. */
function joinCodeFrom(salt: string): string {
  const bytes = createHash('sha256').update(`join ${salt}`).digest();
  return [...bytes.subarray(0, 6)].map((b) => PLAIN[b % PLAIN.length]).join('');
}

/** What a table of a plan is laid with: who meets what, in which order, under which code; the same again for the same salt. */
export function layTable(
  facts: StoredSession,
  salt: string,
): Pick<StoredSession, 'glasses' | 'flights' | 'joinCode'> {
  const { glasses, flights } = setTable({
    choice: choiceOf(facts),
    samples: facts.samples.length,
    seats: facts.seats.length,
    rounds: facts.rounds,
    flight: facts.flight,
    seed: seedOf(salt),
  });
  return {
    glasses: glasses.map(({ seat, ...glass }) => ({ ...glass, seatId: facts.seats[seat]!.id })),
    flights,
    joinCode: joinCodeFrom(salt),
  };
}

/** Beginning: the table is set. Codes and orders are drawn here, and told to nobody who tastes. */
export const sessionBegin = handler({
  kind: 'panel.begin',
  version: 1,
  put: {
    path: '/api/tasting-session-beginnings/:id',
    summary: 'Set the table: the server draws codes and serving orders',
    tag: 'taste',
    body: TastingSessionStep,
    salted: true,
  },
  body: withSalt(TastingSessionStep),
  roles: MAKERS,
  touches: ['panels'],
  keepsRead: true,
  async apply(context) {
    const { body, at } = context;
    const { facts } = await loadSession(context.tx, body.sessionId);
    requirePlanned(facts);
    await save(context, body.sessionId, { ...facts, ...layTable(facts, body.salt), begunAt: at });
  },
  async undo(context, { body }) {
    const { facts } = await loadSession(context.tx, body.sessionId);
    requireTasting(facts);
    const [card] = await context.tx
      .select({ id: sessionCard.id })
      .from(sessionCard)
      .where(and(eq(sessionCard.sessionId, body.sessionId), eq(sessionCard.voided, false)))
      .limit(1);
    if (card)
      throw new Problem({
        status: 409,
        code: 'tasted',
        detail: 'somebody has tasted already; take back those cards first',
      });
    await save(context, body.sessionId, {
      ...facts,
      seats: facts.seats.map((s) => (s.tokenHash === null ? s : { ...s, tokenHash: null, name: '' })),
      glasses: [],
      flights: [],
      joinCode: null,
      keySeen: [],
      begunAt: null,
    });
  },
});

/** A guest sits down. Made by the guests' own door only. */
export const sessionJoin = handler({
  kind: 'panel.join',
  version: 1,
  body: GuestSeat,
  touches: ['panels'],
  line: lineOf('name'),
  keepsRead: true,
  async apply(context) {
    const { body } = context;
    const { facts } = await loadSession(context.tx, body.sessionId);
    requireTasting(facts);
    const seat = facts.seats.find((s) => s.id === body.seatId);
    if (!seat) throw notFound('seat', body.seatId);
    if (seat.personId !== null || seat.tokenHash !== null)
      throw new Problem({ status: 409, code: 'seat-taken', detail: 'somebody sits there already' });
    await save(context, body.sessionId, {
      ...facts,
      seats: facts.seats.map((s) =>
        s.id === body.seatId ? { ...s, name: body.name, tokenHash: body.tokenHash } : s,
      ),
    });
  },
});

/** One card: a first impression, or a further word of somebody who went back, which is kept apart. */
export const sessionCardPut = handler({
  kind: 'panel.card',
  version: 1,
  put: {
    path: '/api/session-cards/:id',
    summary: 'One person’s card of one sample of a session',
    tag: 'taste',
  },
  body: SessionCardPut,
  roles: TASTERS,
  creates: true,
  touches: ['panels'],
  keepsRead: true,
  async apply(context) {
    const { tx, target, body, at, by, personId, seq } = context;
    const { facts } = await loadSession(tx, body.sessionId);
    requireTasting(facts);
    const seat = facts.seats.find((s) => s.id === body.seatId);
    if (!seat) throw notFound('seat', body.seatId);
    // Whose seat it is; a guest's card comes through the guests' door, which knows the seat by the phone.
    if (!body.fromPaper && seat.personId !== personId)
      throw new Problem({
        status: 403,
        code: 'other-seat',
        field: 'seatId',
        detail: 'this is somebody else’s seat; what they wrote on paper is typed in as such',
      });
    if (body.fromPaper && personId !== null) {
      const [typist] = await tx.select({ role: person.role }).from(person).where(eq(person.id, personId));
      if (!typist || !MAKERS.includes(typist.role))
        throw new Problem({
          status: 403,
          code: 'role',
          field: 'fromPaper',
          detail: `typing in from paper needs one of the roles ${MAKERS.join(', ')}`,
          params: { roles: [...MAKERS] },
        });
    }
    if (seat.personId !== null && facts.keySeen.some((k) => k.personId === seat.personId))
      throw new Problem({
        status: 409,
        code: 'not-blind',
        detail: 'whoever has seen which code is which does not taste; let others taste this one',
      });
    const served = facts.glasses.filter((g) => g.seatId === body.seatId && g.round === body.round);
    requireServed(facts, served, body);
    await tx.insert(sessionCard).values({
      id: target,
      sessionId: body.sessionId,
      seatId: body.seatId,
      round: body.round,
      place: body.place,
      card: body.card,
      fromPaper: body.fromPaper,
      by: seat.personId === personId ? by : seat.name || by,
      at: body.at ?? at,
      seq,
    });
  },
  async undo({ tx }, { target, body }) {
    requireTasting((await loadSession(tx, body.sessionId)).facts);
    await tx.update(sessionCard).set({ voided: true }).where(eq(sessionCard.id, target));
  },
});

/** A card must be of the kind the session asks, for something that was served there. */
function requireServed(
  facts: StoredSession,
  served: StoredSession['glasses'],
  { place, round, card }: { place: number; round: number; card: { form: string; code?: string } },
): void {
  const choice = choiceOf(facts);
  const wrong = (field: string, detail: string) =>
    new Problem({ status: 422, code: 'not-served', field, detail });
  if (served.length === 0)
    throw wrong('round', `nothing is served in round ${round}; this session has ${facts.rounds}`);
  if ((card.form === 'choice') !== (choice !== null))
    throw wrong(
      'card.form',
      choice ? 'this session asks for a choice' : 'this session asks for a card of each sample',
    );
  if (choice === null) {
    if (!served.some((g) => g.place === place))
      throw wrong('place', `place ${place} is not served; there are ${served.length}`);
    return;
  }
  if (place !== 1) throw wrong('place', 'a choice is one card a round, at place 1');
  const offered = served.filter((g) => choice === 'triangle' || g.place > 1);
  if (!offered.some((g) => g.code === card.code))
    throw wrong('card.code', `choose one of ${offered.map((g) => g.code).join(', ')}`);
}

/** Looking at the key before it is opened, to pour: noted, and whoever has seen it tastes no more. */
export const sessionKey = handler({
  kind: 'panel.key',
  version: 1,
  put: {
    path: '/api/tasting-session-keys/:id',
    summary: 'Ask for the key of a session, to pour; whoever has it does not taste',
    tag: 'taste',
  },
  body: TastingSessionStep,
  roles: MAKERS,
  touches: ['panels'],
  keepsRead: true,
  async apply(context) {
    const { body, by, personId } = context;
    const { facts } = await loadSession(context.tx, body.sessionId);
    if (statusOf(facts) === 'planned') throw notBegun();
    if (facts.keySeen.some((k) => k.personId === personId)) return;
    await save(context, body.sessionId, { ...facts, keySeen: [...facts.keySeen, { personId, by }] });
  },
});

/** Opening: from now on everyone sees everything, and no card is added any more. */
export const sessionOpen = handler({
  kind: 'panel.open',
  version: 1,
  put: {
    path: '/api/tasting-session-openings/:id',
    summary: 'Open a session: all results together',
    tag: 'taste',
  },
  body: TastingSessionStep,
  roles: MAKERS,
  touches: ['panels'],
  keepsRead: true,
  async apply(context) {
    const { body, at, by } = context;
    const { facts } = await loadSession(context.tx, body.sessionId);
    requireTasting(facts);
    await save(context, body.sessionId, { ...facts, openedAt: at, openedBy: by });
  },
});

/** Keeping a sample once everything is known; taken back by undo. */
export const sessionKeep = handler({
  kind: 'panel.keep',
  version: 1,
  put: {
    path: '/api/tasting-session-keeps/:id',
    summary: 'Keep a sample of an opened session: what the workshop goes on with',
    tag: 'taste',
  },
  body: TastingSessionKeep,
  roles: MAKERS,
  touches: ['panels'],
  keepsRead: true,
  async apply(context) {
    const { body } = context;
    const { facts } = await loadSession(context.tx, body.sessionId);
    if (statusOf(facts) !== 'opened')
      throw new Problem({
        status: 409,
        code: 'not-open',
        detail: 'open the session first, then keep a sample of it',
      });
    if (facts.keptId !== null)
      throw new Problem({
        status: 409,
        code: 'kept-already',
        detail: 'a sample of this session has been kept; take that back first',
      });
    if (!facts.samples.some((s) => s.id === body.sampleId)) throw notFound('sample', body.sampleId);
    await save(context, body.sessionId, { ...facts, keptId: body.sampleId });
  },
  async undo(context, { body }) {
    const { facts } = await loadSession(context.tx, body.sessionId);
    await save(context, body.sessionId, { ...facts, keptId: null });
  },
});

function requirePlanned(facts: StoredSession): void {
  if (statusOf(facts) !== 'planned')
    throw new Problem({
      status: 409,
      code: 'begun',
      detail: 'the table is set already; its plan no longer changes',
    });
}

function requireTasting(facts: StoredSession): void {
  const status = statusOf(facts);
  if (status === 'planned') throw notBegun();
  if (status === 'opened')
    throw new Problem({
      status: 409,
      code: 'opened',
      detail: 'this session has been opened; what is said now is not blind',
    });
}

/** Refusal of what needs a table that is set. */
export function notBegun(): Problem {
  return new Problem({
    status: 409,
    code: 'not-begun',
    detail: 'set the table first; codes are drawn then',
  });
}
