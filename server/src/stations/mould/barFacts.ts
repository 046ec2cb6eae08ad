import { and, asc, eq, inArray, isNull } from 'drizzle-orm';
import { readDetails, type StepDetails } from '@wunsch/contract';
import type { BarFacts, MakerFacts } from '@wunsch/core/label';
import { reachBack, type LineageGraph } from '@wunsch/core/ledger';
import { chocolateShare } from '@wunsch/core/mould';
import type { Db } from '../../db/database.ts';
import { batch, movement, parcel, step } from '../../db/schema/index.ts';
import { notFound, Problem } from '../../http/problem.ts';
import { loadMade } from '../../views/made.ts';
import { loadCarriedOver } from './carriedOver.ts';
import { loadSettings } from '../../views/settings.ts';

/** Bars with what a label can say of them. */
export interface LabelledBars {
  bar: BarFacts;
  maker: MakerFacts;
  /** How many were made. */
  count: number;
  batchId: string | null;
}

/** Bars this near their fill, as a share, are of that fill: boxes share out whole milligrams. */
const SAME_FILL = 0.002;

/**
 * A parcel of bars as its label tells it: from the weights it was really made with, through rework and mixed batches.
 *
 * @throws Problem 404 where there is no such parcel, 409 where it holds no counted bars, blocks or pieces
 */
export async function loadBars(
  db: Db,
  parcelId: string,
  pageUrl: (batchId: string) => string,
): Promise<LabelledBars> {
  const [row] = await db
    .select({ parcel, step, batchCode: batch.code })
    .from(parcel)
    .innerJoin(step, eq(step.id, parcel.stepId))
    .leftJoin(batch, eq(batch.id, parcel.batchId))
    .where(eq(parcel.id, parcelId));
  if (!row) throw notFound('parcel', parcelId);
  const moved = await db
    .select()
    .from(movement)
    .where(eq(movement.parcelId, parcelId))
    .orderBy(asc(movement.seq), asc(movement.id));
  const out = moved.find((m) => m.direction === 'out' && !m.voided && m.replacedBy === null);
  if (!out || out.count === null || out.count < 1)
    throw new Problem({
      status: 409,
      code: 'not-counted',
      detail: 'a label is made for counted bars, blocks or pieces; this parcel holds none',
    });
  const { graph, ...made } = await loadMade(db, parcelId);
  const settings = await loadSettings(db);
  // Bars that were only wrapped are what the moulding made of them.
  const moulded = row.step.kind === 'mould' ? row.step : await mouldingBehind(db, graph, parcelId);
  const { shells, fillMg, waterActivity = null, ...details } = readDetails(moulded?.details);
  const shellPercent = moulded && shells ? await shellShare(db, moulded.id, shells) : null;
  const inIt = [
    ...made.broughtAllergens,
    ...made.lines.flatMap((l) => (l.massMg > 0 ? l.ingredient.allergens : [])),
  ];
  return {
    count: out.count,
    batchId: row.parcel.batchId,
    maker: {
      name: settings.name,
      address: settings.address,
      cacaoSchool: settings.cacaoSchool,
      traces: settings.traces,
    },
    bar: {
      ...made,
      carriedOver: await loadCarriedOver(db, { graph, parcelId, inIt }),
      netMg: netOf(out.massMg / out.count, fillMg),
      code: details.barCode ?? row.batchCode ?? '',
      bestBefore: details.bestBefore ?? null,
      ownName: details.labelName ?? '',
      shellPercent,
      waterActivity,
      pageUrl: pageUrl(row.parcel.batchId ?? ''),
    },
  };
}

/** Chocolate of filled pieces, %: as they were weighed; as they were planned where their filling came in some other way. */
async function shellShare(db: Db, stepId: string, plan: NonNullable<StepDetails['shells']>): Promise<number> {
  const lines = await db
    .select()
    .from(movement)
    .where(and(eq(movement.stepId, stepId), eq(movement.voided, false), isNull(movement.replacedBy)));
  const sum = (of: (m: (typeof lines)[number]) => boolean) =>
    lines.reduce((total, m) => total + (of(m) ? m.massMg : 0), 0);
  const fillingMg = sum((m) => m.direction === 'in' && (m.ingredientId !== null || m.material === 'filling'));
  const madeMg = sum((m) => m.direction === 'out' && m.material === 'bars');
  return fillingMg > 0 && fillingMg < madeMg
    ? chocolateShare({ madeMg, fillingMg })
    : (100 * (plan.shellMg + plan.capMg)) / (plan.shellMg + plan.fillingMg + plan.capMg);
}

/** Net mass of a bar: what its moulds were filled to, where that is what it weighs; else the mean of what was weighed, rounded down. */
function netOf(meanMg: number, fillMg: number | undefined): number {
  return fillMg && Math.abs(fillMg - meanMg) <= fillMg * SAME_FILL ? fillMg : Math.max(1, Math.floor(meanMg));
}

/** The moulding that made wrapped bars. */
async function mouldingBehind(
  db: Db,
  graph: LineageGraph,
  parcelId: string,
): Promise<typeof step.$inferSelect | undefined> {
  const stepIds = [...reachBack(graph, [parcelId]).stepIds];
  const rows = stepIds.length > 0 ? await db.select().from(step).where(inArray(step.id, stepIds)) : [];
  return rows
    .filter((s) => s.kind === 'mould')
    .sort((a, b) => b.startedAt.localeCompare(a.startedAt) || b.id.localeCompare(a.id))[0];
}
