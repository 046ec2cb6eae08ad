import { and, eq } from 'drizzle-orm';
import { ImportPut } from '@wunsch/contract';
import { handler, lineOf, MAKERS, type Context, type Handler } from '../commands/command.ts';
import { asRefusal } from '../commands/refusal.ts';
import { importRun } from '../db/schema/index.ts';
import type { Brought } from '../db/schema/imports.ts';
import { refreshStatistics } from '../db/statistics.ts';
import { notFound, Problem } from '../http/problem.ts';
import { takeBatches } from './oldBatches.ts';
import { takeAllBack } from './takeBack.ts';
import { takeLot, takeSale, takeTasting, type TakeOver } from './takeOver.ts';

/** Largest table over the door, bytes. */
const LARGEST = 2 * 1024 * 1024;

const TAKE = { lots: takeLot, sales: takeSale, tastings: takeTasting };

/** So many rows after which the database is asked what has grown: it plans by what it knows of its tables. */
const COUNT_AFTER = 50;

/** A refusal that says which row of the file it is about. */
function ofRow(error: unknown, row: number): unknown {
  const refusal = asRefusal(error);
  if (!(refusal instanceof Problem)) return refusal;
  const { status, code, message: detail, field, params } = refusal;
  return new Problem({
    status,
    code: 'import-row',
    ...(field && { field: `rows.${row}.${field}` }),
    detail: `row ${row}: ${detail}`,
    params: { ...params, row, why: detail, because: code },
  });
}

/** Takes rows over one by one, each after those before it. */
async function takeRows(
  context: Context,
  of: keyof typeof TAKE,
  rows: readonly { row: number }[],
): Promise<Brought[]> {
  const take = TAKE[of] as TakeOver<{ row: number }>;
  const brought: Brought[] = [];
  for (const [i, row] of rows.entries()) {
    if (i % COUNT_AFTER === COUNT_AFTER - 1) await refreshStatistics(context.tx);
    try {
      brought.push(...(await take(context, row)));
    } catch (error) {
      throw ofRow(error, row.row);
    }
  }
  return brought;
}

/** Taking over an old table of lots, batches, sales or tastings: every row, or none. */
export const importAdd = handler({
  kind: 'import.add',
  version: 1,
  put: {
    path: '/api/imports/:id',
    summary: 'Take over an old table of lots, batches, sales or tastings; every row stands, or none does',
    tag: 'files',
    bodyLimit: LARGEST,
  },
  body: ImportPut,
  roles: MAKERS,
  creates: true,
  // What it brought is kept in a table of its own; the rows need not stand in the trail as well.
  large: true,
  touches: ['imports', 'lots', 'batches', 'stock', 'yields', 'runs', 'tastings', 'plan'],
  line: lineOf('file', 'of'),
  async apply(context) {
    const { tx, target, body, at, by, seq } = context;
    const brought =
      body.of === 'batches'
        ? await takeBatches(context, body.rows, ofRow)
        : await takeRows(context, body.of, body.rows);
    await tx
      .insert(importRun)
      .values({ id: target, of: body.of, file: body.file, rows: body.rows.length, brought, at, by, seq });
  },
  async undo(context, { target }) {
    const { tx } = context;
    const [run] = await tx
      .select()
      .from(importRun)
      .where(and(eq(importRun.id, target), eq(importRun.voided, false)));
    if (!run) throw notFound('import', target);
    await takeAllBack(context, run.brought, run.seq);
    await tx.update(importRun).set({ voided: true }).where(eq(importRun.id, target));
  },
});

/** Kinds of entry that take over what was kept elsewhere. */
export const importHandlers: readonly Handler[] = [importAdd];
