import { and, eq, ilike, inArray, isNull, sql } from 'drizzle-orm';
import type { TraceQuery } from '@wunsch/contract';
import type { Db } from '../db/database.ts';
import { alike } from '../db/raw.ts';
import { batch, ingredient, lot, machine, parcel, person, step, supply } from '../db/schema/index.ts';
import { notFound, Problem } from '../http/problem.ts';
import type { Seeds } from './loadGraph.ts';

/** Where a trace begins, found and named. */
export interface Roots extends Seeds {
  name: string;
  detail: string;
}

/** Most runs of a machine or a person one trace follows. */
const MOST_RUNS = 2000;

const none = { parcelIds: [], stepIds: [], ingredientIds: [] };

/**
 * Finds what a trace begins at.
 *
 * @throws Problem 404 with what would be right
 */
export async function findRoots(db: Db, query: TraceQuery): Promise<Roots> {
  const { of, id } = query;
  switch (of) {
    case 'lot': {
      const [row] = await db.select().from(lot).where(eq(lot.id, id));
      if (!row) throw notFound('lot', id);
      return {
        ...none,
        parcelIds: [row.parcelId],
        name: [row.code, row.harvest].filter(Boolean).join(' '),
        detail: row.name,
      };
    }
    case 'parcel': {
      const [row] = await db
        .select({ parcel, code: batch.code })
        .from(parcel)
        .leftJoin(batch, eq(batch.id, parcel.batchId))
        .where(eq(parcel.id, id));
      if (!row) throw notFound('parcel', id);
      return {
        ...none,
        parcelIds: [id],
        name: [row.code, row.parcel.label].filter(Boolean).join(' · ') || row.parcel.material,
        detail: row.parcel.material,
      };
    }
    case 'batch': {
      const [row] = await db.select().from(batch).where(eq(batch.id, id));
      if (!row) throw notFound('batch', id);
      return { ...none, stepIds: await stepsOf(db, eq(step.batchId, id)), name: row.code, detail: '' };
    }
    case 'supply': {
      const [row] = await db.select().from(supply).where(eq(supply.id, id));
      if (!row) throw notFound('delivery', id);
      return {
        ...none,
        parcelIds: [row.parcelId],
        name: row.name,
        detail: [row.supplier, row.supplierLot].filter(Boolean).join(' '),
      };
    }
    case 'ingredient': {
      const [row] = await db.select().from(ingredient).where(eq(ingredient.id, id));
      if (!row) throw notFound('ingredient', id);
      const deliveries = await db
        .select({ parcelId: supply.parcelId })
        .from(supply)
        .where(eq(supply.ingredientId, id));
      return {
        ...none,
        parcelIds: deliveries.map((d) => d.parcelId),
        ingredientIds: [id],
        name: row.name,
        detail: '',
      };
    }
    case 'machine': {
      const [row] = await db.select().from(machine).where(eq(machine.id, id));
      if (!row) throw notFound('machine', id);
      return {
        ...none,
        stepIds: await runsOf(db, eq(step.machineId, id), query),
        name: row.name,
        detail: '',
      };
    }
    case 'person': {
      const [row] = await db
        .select({ name: person.name })
        .from(person)
        .where(eq(person.initials, id))
        .limit(1);
      const stepIds = await runsOf(db, sql`${id} = any(coalesce(${step.hands}, array[${step.by}]))`, query);
      if (!row && stepIds.length === 0)
        throw new Problem({
          status: 404,
          code: 'not-found',
          field: 'id',
          detail: `nobody here signs with ${id}; a person is named by the initials their entries carry`,
        });
      return { ...none, stepIds, name: row?.name ?? id, detail: id };
    }
    case 'code':
      return rootsOfCode(db, id.trim());
  }
}

const stepsOf = async (db: Db, where: ReturnType<typeof eq>): Promise<string[]> =>
  (
    await db
      .select({ id: step.id })
      .from(step)
      .where(and(where, eq(step.voided, false)))
  ).map((s) => s.id);

/** Work of a machine or a person in a time; all there was where none is named. */
async function runsOf(
  db: Db,
  where: ReturnType<typeof eq>,
  { from, to }: Pick<TraceQuery, 'from' | 'to'>,
): Promise<string[]> {
  const rows = await db
    .select({ id: step.id })
    .from(step)
    .where(
      and(
        where,
        eq(step.voided, false),
        from ? sql`coalesce(${step.endedAt}, now()) >= ${from}` : undefined,
        to ? sql`${step.startedAt} <= ${to}` : undefined,
      ),
    )
    .orderBy(sql`${step.startedAt} desc`)
    .limit(MOST_RUNS + 1);
  if (rows.length > MOST_RUNS)
    throw new Problem({
      status: 422,
      code: 'too-much',
      field: 'from',
      detail: `more than ${MOST_RUNS} runs; say from when to when`,
    });
  return rows.map((r) => r.id);
}

/** A code off a label: of bars as printed, of a batch, a lot or a delivery, or the name of a box. */
async function rootsOfCode(db: Db, code: string): Promise<Roots> {
  const exact = alike(code);
  const bars = await db
    .select({ id: step.id, code: batch.code })
    .from(step)
    .leftJoin(batch, eq(batch.id, step.batchId))
    .where(
      and(
        eq(step.station, 'mould'),
        eq(step.voided, false),
        sql`${step.details} ->> 'barCode' ilike ${exact}`,
      ),
    );
  if (bars.length > 0) {
    const made = await db
      .select({ id: parcel.id })
      .from(parcel)
      .where(
        and(
          inArray(
            parcel.stepId,
            bars.map((b) => b.id),
          ),
          inArray(parcel.material, ['bars', 'blocks']),
        ),
      );
    return { ...none, parcelIds: made.map((p) => p.id), name: code, detail: bars[0]!.code ?? '' };
  }
  const [ofBatch] = await db.select().from(batch).where(ilike(batch.code, exact)).limit(1);
  if (ofBatch) return findRoots(db, { of: 'batch', id: ofBatch.id });
  const [ofLot] = await db
    .select()
    .from(lot)
    .where(and(ilike(lot.code, exact), eq(lot.voided, false)))
    .limit(1);
  if (ofLot) return findRoots(db, { of: 'lot', id: ofLot.id });
  const [ofSupply] = await db.select().from(supply).where(ilike(supply.supplierLot, exact)).limit(1);
  if (ofSupply) return findRoots(db, { of: 'supply', id: ofSupply.id });
  const [box] = await db
    .select({ id: parcel.id })
    .from(parcel)
    .where(and(ilike(parcel.label, exact), isNull(parcel.lotId)))
    .limit(1);
  if (box) return findRoots(db, { of: 'parcel', id: box.id });
  throw new Problem({
    status: 404,
    code: 'not-found',
    field: 'id',
    detail: `nothing here carries the code ${code}; it is the code of bars, a batch, a lot, a delivery or a box`,
  });
}
