import { and, desc, eq, isNull } from 'drizzle-orm';
import {
  CaseClose,
  CaseUpdate,
  readFacts,
  type CaseBrief,
  type CaseView,
  type Reminder,
} from '@wunsch/contract';
import { STATIONS, type Station } from '@wunsch/core/ledger';
import type { Db } from '../db/database.ts';
import { attachment, batch, faultCase, recipe, reminder } from '../db/schema/index.ts';
import { notFound } from '../http/problem.ts';
import type { Store } from '../store/store.ts';
import { traceView } from '../trace/view.ts';
import { faultsOf } from './faults.ts';
import { loadMadeNow } from '../stations/recipe/index.ts';

const rows = (db: Db) =>
  db
    .select({
      row: faultCase,
      batchCode: batch.code,
      lotId: batch.lotId,
      recipeId: batch.recipeId,
      recipeName: recipe.name,
    })
    .from(faultCase)
    .leftJoin(batch, eq(batch.id, faultCase.batchId))
    .leftJoin(recipe, eq(recipe.id, batch.recipeId));

type Row = Awaited<ReturnType<typeof rows>>[number];

const factsOf = (row: Row['row']) => readFacts(CaseUpdate, row.facts, CaseUpdate.parse({}));

function closingOf(row: Row['row']): CaseView['closing'] {
  const read = CaseClose.safeParse(row.closing);
  if (!read.success || row.closedAt === null) return null;
  const { reminder: _, ...closing } = read.data;
  return { ...closing, at: row.closedAt, by: row.closedBy ?? '' };
}

function briefOf({ row, batchCode, recipeName }: Row): CaseBrief {
  const facts = factsOf(row);
  return {
    id: row.id,
    number: row.number,
    at: row.at,
    by: row.by,
    from: row.origin,
    code: facts.code,
    batchId: row.batchId,
    batchCode,
    recipeName,
    signs: facts.signs,
    text: facts.text,
    closedAt: row.closedAt,
    cause: closingOf(row)?.cause ?? null,
  };
}

/** Cases, newest first; only those of a batch where one is named. */
export async function loadCases(db: Db, batchId?: string): Promise<CaseBrief[]> {
  const found = await rows(db)
    .where(and(eq(faultCase.voided, false), batchId ? eq(faultCase.batchId, batchId) : undefined))
    .orderBy(desc(faultCase.number));
  return found.map(briefOf);
}

/**
 * A case with what the record says, how the causes rank, and where its sister bars are.
 *
 * @throws Problem 404 where there is no such case
 */
export async function caseView(
  store: Pick<Store, 'db' | 'yields' | 'runs' | 'now'>,
  id: string,
): Promise<CaseView> {
  const { db } = store;
  const [found] = await rows(db).where(and(eq(faultCase.id, id), eq(faultCase.voided, false)));
  if (!found) throw notFound('case', id);
  const facts = factsOf(found.row);
  const { batchId } = found.row;
  const photographs = await db
    .select({ id: attachment.id, name: attachment.name })
    .from(attachment)
    .where(and(eq(attachment.caseId, id), eq(attachment.voided, false)));
  const trace = batchId === null ? null : await traceView(db, { of: 'batch', id: batchId, way: 'forward' });
  const recall = trace?.recall ?? null;
  return {
    ...facts,
    ...briefOf(found),
    version: found.row.version,
    lotId: found.lotId,
    recipeId: found.recipeId,
    closing: closingOf(found.row),
    faults: await faultsOf(store, batchId, facts),
    sisters: recall && {
      bars: recall.bars,
      here: recall.here.filter((h) => h.count !== null),
      customers: recall.customers,
      nameless: recall.nameless,
    },
    photographs,
  };
}

/** What stations are still to be reminded of. */
export async function loadReminders(db: Db): Promise<Reminder[]> {
  const found = await db
    .select({ row: reminder, caseNumber: faultCase.number })
    .from(reminder)
    .leftJoin(faultCase, eq(faultCase.id, reminder.caseId))
    .where(and(eq(reminder.voided, false), isNull(reminder.doneAt)))
    .orderBy(desc(reminder.at));
  const madeNow = await loadMadeNow(db);
  return found.flatMap(({ row, caseNumber }) =>
    STATIONS.includes(row.station as Station)
      ? [
          {
            id: row.id,
            station: row.station as Station,
            text: row.text,
            lotId: row.lotId,
            recipeId: row.recipeId,
            recipeIds: row.recipeId === null ? [] : madeNow.versionsOf(row.recipeId),
            caseId: row.caseId,
            caseNumber,
            at: row.at,
            by: row.by,
          },
        ]
      : [],
  );
}
