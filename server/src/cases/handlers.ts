import { and, eq, sql } from 'drizzle-orm';
import { z } from 'zod';
import { CaseClose, CaseOpen, CaseUpdate, CauseEstimatePut, ReminderPut } from '@wunsch/contract';
import { requireMatch } from '../access/match.ts';
import { handler, lineOf, MAKERS, OWNERS, TASTERS, withMatch, type Handler } from '../commands/command.ts';
import type { Db } from '../db/database.ts';
import { batch, causeEstimate, faultCase, reminder } from '../db/schema/index.ts';
import { notFound, Problem } from '../http/problem.ts';

/** A case as it is journalled: one that came in by a bar's public page says so. */
const StoredOpen = CaseOpen.extend({ from: z.enum(['maker', 'customer', 'public']).default('maker') });

async function requireBatch(tx: Db, batchId: string | null): Promise<void> {
  if (batchId === null) return;
  const [there] = await tx.select({ id: batch.id }).from(batch).where(eq(batch.id, batchId));
  if (!there) throw notFound('batch', batchId);
}

async function caseOf(tx: Db, id: string): Promise<typeof faultCase.$inferSelect> {
  const [found] = await tx
    .select()
    .from(faultCase)
    .where(and(eq(faultCase.id, id), eq(faultCase.voided, false)));
  if (!found) throw notFound('case', id);
  return found;
}

/** Opening a case of a bar that is not as it should be. */
export const caseOpen = handler({
  kind: 'case.open',
  version: 1,
  put: {
    path: '/api/cases/:id',
    summary: 'Open a case: a fault found in the workshop, or a customer’s complaint',
    tag: 'cases',
    body: CaseOpen,
  },
  body: StoredOpen,
  roles: TASTERS,
  creates: true,
  touches: ['cases'],
  line: lineOf('code', 'from', 'signs'),
  async apply({ tx, target, body, at, by }) {
    const { from, ...facts } = body;
    await requireBatch(tx, facts.batchId);
    const [{ last } = { last: 0 }] = await tx
      .select({ last: sql<number>`coalesce(max(${faultCase.number}), 0)::int` })
      .from(faultCase);
    await tx
      .insert(faultCase)
      .values({ id: target, number: last + 1, origin: from, batchId: facts.batchId, facts, at, by });
    return { batchId: facts.batchId };
  },
  async undo({ tx }, { target }) {
    await tx.update(faultCase).set({ voided: true }).where(eq(faultCase.id, target));
  },
});

/** Changing what is known of a case. */
export const caseUpdate = handler({
  kind: 'case.update',
  version: 1,
  put: {
    path: '/api/cases/:id/facts',
    summary: 'Change what is known of a case',
    tag: 'cases',
    body: CaseUpdate,
    guarded: true,
  },
  body: withMatch(CaseUpdate),
  roles: MAKERS,
  touches: ['cases'],
  line: lineOf('code', 'signs'),
  async apply({ tx, target, body: { ifMatch, ...facts } }) {
    const old = await caseOf(tx, target);
    requireMatch(ifMatch, old.version, 'case');
    await requireBatch(tx, facts.batchId);
    await tx
      .update(faultCase)
      .set({ facts, batchId: facts.batchId, version: old.version + 1 })
      .where(eq(faultCase.id, target));
    return { batchId: facts.batchId };
  },
});

/** Closing a case with its cause and what is done about it, and a reminder for next time where one is wanted. */
export const caseClose = handler({
  kind: 'case.close',
  version: 1,
  put: {
    path: '/api/cases/:id/closing',
    summary: 'Close a case with its cause and what is done about it',
    tag: 'cases',
  },
  body: CaseClose,
  roles: MAKERS,
  touches: ['cases'],
  line: lineOf('cause', 'action'),
  async apply({ tx, target, body, at, by }) {
    const { reminder: next, ...closing } = body;
    const old = await caseOf(tx, target);
    if (old.closing !== null)
      throw new Problem({
        status: 409,
        code: 'case-closed',
        detail: `case ${old.number} was closed by ${old.closedBy}; take that back to close it otherwise`,
      });
    await tx
      .update(faultCase)
      .set({ closing, closedAt: at, closedBy: by, version: old.version + 1 })
      .where(eq(faultCase.id, target));
    if (next) await tx.insert(reminder).values({ ...next, caseId: target, at, by });
    return { batchId: old.batchId };
  },
  async undo({ tx }, { target, body }) {
    await tx
      .update(faultCase)
      .set({ closing: null, closedAt: null, closedBy: null, version: sql`${faultCase.version} + 1` })
      .where(eq(faultCase.id, target));
    if (body.reminder)
      await tx.update(reminder).set({ voided: true }).where(eq(reminder.id, body.reminder.id));
  },
});

/** Reminding a station of something. */
export const reminderSet = handler({
  kind: 'reminder.set',
  version: 1,
  put: { path: '/api/reminders/:id', summary: 'Remind a station of something', tag: 'cases' },
  body: ReminderPut,
  roles: MAKERS,
  creates: true,
  touches: ['cases'],
  line: lineOf('station', 'text'),
  async apply({ tx, target, body, at, by }) {
    await tx.insert(reminder).values({ id: target, ...body, at, by });
  },
  async undo({ tx }, { target }) {
    await tx.update(reminder).set({ voided: true }).where(eq(reminder.id, target));
  },
});

/** A reminder has been heeded and is not needed any more. */
export const reminderDone = handler({
  kind: 'reminder.done',
  version: 1,
  put: { path: '/api/reminders/:id/done', summary: 'A reminder is not needed any more', tag: 'cases' },
  body: z.object({}),
  roles: MAKERS,
  touches: ['cases'],
  async apply({ tx, target, at, by }) {
    const [found] = await tx
      .select()
      .from(reminder)
      .where(and(eq(reminder.id, target), eq(reminder.voided, false)));
    if (!found) throw notFound('reminder', target);
    await tx.update(reminder).set({ doneAt: at, doneBy: by }).where(eq(reminder.id, target));
  },
  async undo({ tx }, { target }) {
    await tx.update(reminder).set({ doneAt: null, doneBy: null }).where(eq(reminder.id, target));
  },
});

/** What the workshop thinks of a cause instead of what is written. */
export const causeEstimated = handler({
  kind: 'cause.estimate',
  version: 1,
  put: {
    path: '/api/cause-estimates/:id',
    summary:
      'Say how common a cause of faults is here and how it shows, or go back to what is written (null)',
    tag: 'cases',
  },
  body: CauseEstimatePut,
  roles: OWNERS,
  creates: true,
  touches: ['cases'],
  line: lineOf('cause'),
  keepsRead: true,
  async apply({ tx, target, seq, body, at, by }) {
    await tx.insert(causeEstimate).values({ id: target, seq, ...body, at, by });
  },
  async undo({ tx }, { target }) {
    await tx.update(causeEstimate).set({ voided: true }).where(eq(causeEstimate.id, target));
  },
});

/** Kinds of entries about faults, complaints and what is learned from them. */
export const caseHandlers: readonly Handler[] = [
  caseOpen,
  caseUpdate,
  caseClose,
  reminderSet,
  reminderDone,
  causeEstimated,
];
