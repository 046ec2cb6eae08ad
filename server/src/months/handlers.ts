import { and, eq } from 'drizzle-orm';
import { z } from 'zod';
import { MonthSign } from '@wunsch/contract';
import { monthBounds } from '@wunsch/core/ledger';
import { handler, lineOf, OWNERS, type Handler } from '../commands/command.ts';
import { monthSign } from '../db/schema/index.ts';
import { notFound, Problem } from '../http/problem.ts';

/** Signing a month off: what it came to is kept, and what changes it afterwards is shown. */
const monthSignOff = handler({
  kind: 'month.sign',
  version: 1,
  put: {
    path: '/api/month-signs/:id',
    summary: 'Sign a month off: its figures are kept as they stand, and later changes are shown beside them',
    tag: 'ledger',
  },
  body: MonthSign,
  roles: OWNERS,
  creates: true,
  touches: ['workshop'],
  line: lineOf('month'),
  async apply({ tx, target, body, at, by, seq }) {
    if (at < monthBounds(body.month, body.timeZone).to)
      throw new Problem({
        status: 409,
        code: 'month-not-over',
        field: 'month',
        detail: `${body.month} is not over yet; it can be signed off from its last day on`,
        params: { month: body.month },
      });
    const [there] = await tx
      .select({ id: monthSign.id })
      .from(monthSign)
      .where(and(eq(monthSign.month, body.month), eq(monthSign.voided, false)));
    if (there)
      throw new Problem({
        status: 409,
        code: 'month-signed',
        detail: `${body.month} is signed off already; open it again first`,
        params: { month: body.month },
      });
    await tx.insert(monthSign).values({ id: target, ...body, at, by, seq });
  },
  async undo({ tx }, { target }) {
    await tx.update(monthSign).set({ voided: true }).where(eq(monthSign.id, target));
  },
});

/** Opening a signed month again. */
const monthReopen = handler({
  kind: 'month.reopen',
  version: 1,
  put: { path: '/api/month-signs/:id/reopening', summary: 'Open a signed month again', tag: 'ledger' },
  body: z.object({ reason: z.string().trim().min(1).max(400) }),
  roles: OWNERS,
  touches: ['workshop'],
  line: lineOf('reason'),
  async apply({ tx, target }) {
    const [found] = await tx
      .select({ id: monthSign.id })
      .from(monthSign)
      .where(and(eq(monthSign.id, target), eq(monthSign.voided, false)));
    if (!found) throw notFound('signed month', target);
    await tx.update(monthSign).set({ voided: true }).where(eq(monthSign.id, target));
  },
  async undo({ tx }, { target }) {
    await tx.update(monthSign).set({ voided: false }).where(eq(monthSign.id, target));
  },
});

/** Kinds of entry about closed months. */
export const monthHandlers: readonly Handler[] = [monthSignOff, monthReopen];
