import type { WorkKind } from '../ledger/index.ts';
import type { NextAction } from './nextAction.ts';
import { PLAN_STAGES, type PlannedStep, type PlanStage } from './room.ts';

/**
 * The stage of a plan a batch has come to, by what it needs next and what work of it is under way. What is poured in one go (a mould’s pouring,
 * setting and knocking out) counts as not begun until it is over.
 */
export function stageAt(next: Pick<NextAction, 'code' | 'station'>, running: WorkKind | null): PlanStage {
  if (next.station === 'beans') return 'sort';
  if (next.station !== 'grind') return next.station;
  if (running === 'grind' || running === 'conche') return running;
  return next.code === 'conche' ? 'fill' : 'load';
}

/** A batch that may have been begun since a plan was made. */
export interface BegunBatch {
  id: string;
  code: string;
  recipeId: string | null;
  lotId: string;
  /** ISO instant. */
  startedAt: string;
}

/** A batch as it stands, for the steps a plan had for it. */
export interface FollowedBatch extends BegunBatch {
  /** Stage it has come to; null where it is finished. */
  stage: PlanStage | null;
}

/**
 * Steps of a plan with the batches that have been begun since: the first batch begun after the plan from the same recipe and lot is the one
 * it had called `new:…:1`, and so on.
 *
 * @param keptAt ISO instant from which the plan is in force
 */
export function followBatches(
  steps: readonly PlannedStep[],
  batches: readonly BegunBatch[],
  keptAt: string,
): PlannedStep[] {
  const known = new Set(steps.flatMap((s) => s.batchId ?? []));
  const begun = batches
    .filter((b) => b.startedAt >= keptAt && !known.has(b.id))
    .sort((a, b) => a.startedAt.localeCompare(b.startedAt));
  const planned = [
    ...new Map(steps.filter((s) => s.batchId === null).map((s) => [s.batch, s])).values(),
  ].sort((a, b) => a.batch.localeCompare(b.batch, 'en', { numeric: true }));
  const became = new Map<string, BegunBatch>();
  for (const batch of begun) {
    const as = planned.find(
      (p) => !became.has(p.batch) && p.lotId === batch.lotId && (batch.recipeId ?? p.recipeId) === p.recipeId,
    );
    if (as) became.set(as.batch, batch);
  }
  // Those that are still to come are counted anew.
  const renamed = new Map<string, string>();
  const counts = new Map<string, number>();
  for (const { batch } of planned) {
    if (became.has(batch)) continue;
    const kind = batch.slice(0, batch.lastIndexOf(':'));
    const n = (counts.get(kind) ?? 0) + 1;
    counts.set(kind, n);
    renamed.set(batch, `${kind}:${n}`);
  }
  return steps.map((s) => {
    const batch = became.get(s.batch);
    const as = batch?.id ?? renamed.get(s.batch) ?? s.batch;
    if (as === s.batch) return s;
    return {
      ...s,
      key: `${as}${s.key.slice(s.batch.length)}`,
      batch: as,
      ...(batch && { batchId: batch.id, code: batch.code }),
    };
  });
}

/** What is still to be done of a plan: what the batches’ own entries have passed is ticked off by that. */
export function stillToDo(
  steps: readonly PlannedStep[],
  batches: readonly FollowedBatch[],
  keptAt: string,
): PlannedStep[] {
  const by = new Map(batches.map((b) => [b.id, b]));
  return followBatches(steps, batches, keptAt).filter((s) => {
    if (s.batchId === null) return true;
    const batch = by.get(s.batchId);
    // A batch nobody knows any more was finished or given up.
    if (!batch || batch.stage === null) return s.stage === 'taste' && batch !== undefined;
    return PLAN_STAGES.indexOf(s.stage) >= PLAN_STAGES.indexOf(batch.stage);
  });
}
