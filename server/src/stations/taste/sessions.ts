import { and, asc, eq, sql } from 'drizzle-orm';
import { createHash } from 'node:crypto';
import type { z } from 'zod';
import { StoredSession, TastingSessionKeep, TastingSessionPut, TastingSessionStep } from '@wunsch/contract';
import { setTable } from '@wunsch/core/taste';
import { requireMatch } from '../../access/match.ts';
import { handler, lineOf, MAKERS, withMatch, withSalt, type Context } from '../../commands/command.ts';
import type { Db } from '../../db/database.ts';
import { batch, sessionCard, tastingSession, trial } from '../../db/schema/index.ts';
import { notFound, Problem } from '../../http/problem.ts';
import { readTrial } from '../recipe/index.ts';

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

/** Writes a session’s facts, as its next version. */
export const saveSession = ({ tx }: Pick<Context, 'tx'>, id: string, facts: StoredSession) =>
  tx
    .update(tastingSession)
    .set({ facts, version: sql`${tastingSession.version} + 1` })
    .where(eq(tastingSession.id, id));

/** A sample’s batch and its part of a trial are known here. */
async function requireThere(
  tx: Db,
  { batchId, trial: part }: z.output<typeof TastingSessionPut>['samples'][number],
): Promise<void> {
  if (batchId !== null) {
    const [found] = await tx.select({ id: batch.id }).from(batch).where(eq(batch.id, batchId));
    if (!found) throw notFound('batch', batchId);
  }
  if (part !== null) {
    const [found] = await tx.select({ facts: trial.facts }).from(trial).where(eq(trial.id, part.id));
    if (!found) throw notFound('trial', part.id);
    if (!readTrial(found.facts).parts.some((p) => p.code === part.code))
      throw notFound('part of the trial', part.code);
  }
}

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
    for (const sample of plan.samples) await requireThere(tx, sample);
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
    await saveSession({ tx }, target, StoredSession.parse({ ...plan, number: facts.number }));
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
    await saveSession(context, body.sessionId, { ...facts, ...layTable(facts, body.salt), begunAt: at });
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
    await saveSession(context, body.sessionId, {
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
    await saveSession(context, body.sessionId, { ...facts, keySeen: [...facts.keySeen, { personId, by }] });
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
    await saveSession(context, body.sessionId, { ...facts, openedAt: at, openedBy: by });
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
    await saveSession(context, body.sessionId, { ...facts, keptId: body.sampleId });
  },
  async undo(context, { body }) {
    const { facts } = await loadSession(context.tx, body.sessionId);
    await saveSession(context, body.sessionId, { ...facts, keptId: null });
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

/** Refusal of what is only done between setting the table and opening. */
export function requireTasting(facts: StoredSession): void {
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
