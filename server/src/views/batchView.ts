import { and, asc, eq } from 'drizzle-orm';
import type { BatchView, Lot } from '@wunsch/contract';
import { batch, readings, step, type lot } from '../db/schema/index.ts';
import { notFound } from '../http/problem.ts';
import { loadHours } from '../plan/loadRoom.ts';
import { joinSeries } from '../readings/series.ts';
import { bowlSteps, loadBowl, loadBowls } from './bowl.ts';
import { assemble } from './assemble.ts';
import { loadImpressions } from './impressions.ts';
import { loadBriefs, loadBundle, loadNotes } from './bundle.ts';
import type { Store } from '../store/store.ts';
import { readSheet } from './stored.ts';

/** Points of a series sent to a page: no more than it has pixels. */
const SERIES_POINTS = 600;

/** A lot row with what is left of it. */
export function lotRecord(row: typeof lot.$inferSelect, remainingMg: number | null): Lot {
  const { voided: _, stepId: __, createdAt: ___, ...facts } = row;
  return { ...facts, sheet: readSheet(facts.sheet), remainingMg: remainingMg ?? 0 };
}

/** Everything about one batch, in six queries beside the sign-in's, one more while it is ground. */
export async function batchView(
  { db, yields, runs }: Pick<Store, 'db' | 'yields' | 'runs'>,
  id: string,
  now: number,
): Promise<BatchView> {
  const [found] = await loadBriefs(db, eq(batch.id, id), 1);
  if (!found) throw notFound('batch', id);
  const { brief, settings } = found;
  const bundle = await loadBundle(db, [id], { withLineage: true });
  const { observations, tastings } = await loadNotes(db, id);
  const deliveries = await db
    .select({
      stepId: readings.stepId,
      place: readings.place,
      probe: readings.probe,
      startedAt: readings.startedAt,
      ms: readings.ms,
      celsius: readings.celsius,
      seq: readings.seq,
    })
    .from(readings)
    .innerJoin(step, eq(step.id, readings.stepId))
    .where(and(eq(step.batchId, id), eq(readings.voided, false)))
    .orderBy(asc(readings.startedAt), asc(readings.id));
  const impressions = ((await loadImpressions(db, [id])).get(id) ?? []).filter((c) => c.session !== null);
  const past = await yields.load([brief.lotId]);
  const learned = await runs.load();
  const isGrinding = bundle.steps.some((s) => s.kind === 'grind' && s.status === 'open');
  const drawn = assemble({
    batch: brief,
    lotMaterial: found.lot.material,
    recipe: found.recipe,
    settings,
    bundle,
    observations,
    isTasted: tastings.length + impressions.length > 0,
    past,
    learned,
    now,
    ...(isGrinding && { timeZone: (await loadHours(db)).timeZone }),
    withBand: true,
  });
  const inside = bundle.movements.filter((m) => m.inForce && m.direction === 'in');
  const origins = [
    ...new Set(
      inside.flatMap((m) =>
        m.facts.parcelOrigins.length > 0
          ? m.facts.parcelOrigins
          : m.facts.originName
            ? [m.facts.originName]
            : [],
      ),
    ),
  ];
  const allergens = [
    ...new Set(inside.flatMap((m) => [...(m.facts.ingredient?.allergens ?? []), ...m.facts.parcelAllergens])),
  ].sort();
  const { disagreement } = drawn;
  const bowl = bundle.graph ? await loadBowl(db, bundle.graph, bowlSteps(bundle.steps)) : null;
  const bowls =
    bundle.graph && bowl ? await loadBowls(db, bundle.graph, { steps: bundle.steps, whole: bowl }) : [];
  return {
    batch: brief,
    lot: lotRecord(found.lot, found.lotRemaining),
    recipe: found.recipe,
    steps: bundle.steps.map(({ machineName: _, ...s }) => s),
    movements: bundle.movements.map(({ facts: _, batchId: __, ...m }) => m),
    observations,
    parcels: [...bundle.parcels.values()],
    series: joinSeries(deliveries, SERIES_POINTS),
    tastings,
    impressions,
    flow: drawn.flow,
    next: drawn.next,
    grind: drawn.grind,
    conche: drawn.conche,
    origins: origins.length > 0 ? origins : [brief.lotName],
    allergens,
    bowl: bowl?.lines ?? [],
    bowlUnknown: bowl?.unknown ?? [],
    ...(bowls.length > 0 && { bowls }),
    disagreement: disagreement && {
      chiSquare: disagreement.result.chiSquare,
      degreesOfFreedom: disagreement.result.degreesOfFreedom,
      pValue: disagreement.result.pValue,
      disagrees: disagreement.result.disagrees,
      likeliestStepId: disagreement.likeliestStepId,
      likeliestStation: bundle.steps.find((s) => s.id === disagreement.likeliestStepId)!.station,
      suspects: disagreement.suspects.map(({ entry, shortByMg }) => ({
        movementId: entry.movementId,
        label: entry.label,
        massMg: entry.massMg,
        shortByMg,
      })),
    },
    yields: past
      .filter((y) => y.lotId === brief.lotId)
      .map((y) => ({
        station: y.station,
        batchId: y.batchId,
        batchCode: y.batchCode,
        value: y.value,
      })),
    lastSeq: found.lastSeq,
  };
}
