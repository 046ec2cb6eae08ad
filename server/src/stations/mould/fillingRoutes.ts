import { and, asc, desc, eq, gt, inArray, isNull, sql } from 'drizzle-orm';
import { z } from 'zod';
import { FillingLines, FillingRecord, Id, ParcelComposition, readDetails } from '@wunsch/contract';
import { MOST_IN_POT } from '@wunsch/core/mould';
import type { Db } from '../../db/database.ts';
import { batch, lot, movement, parcel, step } from '../../db/schema/index.ts';
import { notFound } from '../../http/problem.ts';
import type { App } from '../../http/types.ts';
import { loadComposition } from '../../views/bowl.ts';

/** Fillings shown: those there is something left of, then the last ones that are used up. */
const LOOK_BACK = 60;

/** Of each parcel of a filling the pots it came out of: parts that were moved, and what came back, are followed to where they were made. */
const MADE_IN = sql`(
  with recursive pot(parcel_id, step_id) as (
    select id, step_id from parcel where material = 'filling'
    union
    select pot.parcel_id, q.step_id from pot
      join step s on s.id = pot.step_id and s.kind in ('part', 'leave')
      join movement m on m.step_id = s.id and m.direction = 'in' and m.replaced_by is null and not m.voided
      join parcel q on q.id = m.parcel_id and q.material = 'filling')
  select parcel_id, step_id from pot)`;

async function loadFillings(db: Db): Promise<FillingRecord[]> {
  const made = await db
    .select({ step, parcel })
    .from(sql`${MADE_IN} pot`)
    .innerJoin(step, and(eq(step.id, sql`pot.step_id`), eq(step.kind, 'prepare'), eq(step.voided, false)))
    .innerJoin(parcel, eq(parcel.id, sql`pot.parcel_id`))
    .orderBy(desc(gt(parcel.remainingMg, 0)), desc(step.endedAt), desc(parcel.id))
    .limit(LOOK_BACK);
  if (made.length === 0) return [];
  const ids = [...new Set(made.map((m) => m.step.id))];
  const lines = await db
    .select({ movement, batchCode: batch.code, lotCode: lot.code })
    .from(movement)
    .leftJoin(parcel, eq(parcel.id, movement.parcelId))
    .leftJoin(batch, eq(batch.id, parcel.batchId))
    .leftJoin(lot, eq(lot.id, parcel.lotId))
    .where(and(inArray(movement.stepId, ids), isNull(movement.replacedBy), eq(movement.voided, false)));
  return made.map((m) => {
    const of = lines.filter((l) => l.movement.stepId === m.step.id);
    const sum = (fits: (l: typeof movement.$inferSelect) => boolean) =>
      of.reduce((total, l) => total + (fits(l.movement) ? l.movement.massMg : 0), 0);
    const { fillingName, waterActivity = null, bestBefore = null } = readDetails(m.step.details);
    return {
      id: m.step.id,
      parcelId: m.parcel.id,
      name: fillingName ?? m.parcel.label,
      madeAt: m.step.endedAt ?? m.step.startedAt,
      by: m.step.by,
      madeMg: sum((l) => l.direction === 'out'),
      leftMg: m.parcel.remainingMg,
      boiledOffMg: sum((l) => l.direction === 'loss' && l.reason === 'boiled off'),
      waterActivity,
      bestBefore,
      onHold: m.parcel.onHold,
      lines: together(of.filter((l) => l.movement.direction === 'in')),
    };
  });
}

interface LineIn {
  movement: typeof movement.$inferSelect;
  batchCode: string | null;
  lotCode: string | null;
}

/** Lines of a pot with the deliveries of one ingredient as one, greatest first. */
function together(lines: readonly LineIn[]): FillingRecord['lines'] {
  const byWhat = new Map<string, FillingRecord['lines'][number]>();
  for (const { movement: m, batchCode, lotCode } of lines) {
    const key = m.ingredientId ?? m.parcelId ?? m.id;
    const there = byWhat.get(key);
    byWhat.set(key, {
      parcelId: m.ingredientId ? null : m.parcelId,
      ingredientId: m.ingredientId,
      material: m.material ?? 'ingredient',
      label: m.label ?? '',
      code: m.ingredientId ? null : (batchCode ?? lotCode),
      massMg: (there?.massMg ?? 0) + m.massMg,
    });
  }
  return [...byWhat.values()].sort((a, b) => b.massMg - a.massMg);
}

const KG = 1_000_000;

/**
 * One filling with all its lines, those that were corrected too.
 *
 * @throws Problem 404
 */
async function loadFillingLines(db: Db, id: string): Promise<FillingLines> {
  const [row] = await db
    .select()
    .from(step)
    .where(and(eq(step.id, id), eq(step.kind, 'prepare'), eq(step.voided, false)));
  if (!row) throw notFound('filling', id);
  const lines = await db
    .select()
    .from(movement)
    .where(eq(movement.stepId, id))
    .orderBy(asc(movement.seq), asc(movement.id));
  return {
    step: { ...row, details: readDetails(row.details) },
    movements: lines.map((m) => ({ ...m, inForce: m.replacedBy === null && !m.voided })),
  };
}

/** Fillings that were made, and what a parcel that may go into one is made of. */
export function fillingRoutes(app: App): void {
  const tags = ['mould'];
  app.get(
    '/api/fillings',
    {
      config: { cached: true },
      schema: {
        tags,
        summary: `The last ${LOOK_BACK} fillings, those on hand before the others: what went in, came out and is left`,
        response: { 200: z.array(FillingRecord) },
      },
    },
    async (request) => loadFillings(request.store.db),
  );
  app.get(
    '/api/fillings/:id',
    {
      schema: {
        tags,
        summary: 'One filling with all its lines, to be corrected',
        params: z.object({ id: Id }),
        response: { 200: FillingLines },
      },
    },
    async (request) => loadFillingLines(request.store.db, request.params.id),
  );
  app.get(
    '/api/compositions',
    {
      schema: {
        tags,
        summary:
          'What a kilogram of each of some parcels is made of, followed back through everything it came from',
        querystring: z.object({
          of: z
            .string()
            .transform((ids) => ids.split(','))
            .pipe(z.array(Id).min(1).max(MOST_IN_POT))
            .describe('ids of parcels with commas between'),
        }),
        response: { 200: z.array(ParcelComposition) },
      },
    },
    async (request) => {
      const { db } = request.store;
      const ids = [...new Set(request.query.of)];
      const there = await db.select({ id: parcel.id }).from(parcel).where(inArray(parcel.id, ids));
      const missing = ids.find((id) => !there.some((p) => p.id === id));
      if (missing) throw notFound('parcel', missing);
      const found: ParcelComposition[] = [];
      for (const id of ids) found.push({ parcelId: id, ...(await loadComposition(db, id, KG)) });
      return found;
    },
  );
}
