import { requireNotBelow0 } from '../numerics/index.ts';
import { WORK_KINDS, type WorkKind } from '../ledger/index.ts';
import type { LearnedTime, PlanRoom, PlanStage } from './room.ts';

/** The trade’s usual minutes of a stage: at the start, and per kg that goes through. */
const TRADE: Readonly<Record<PlanStage, { fixed: number; perKg: number }>> = {
  sort: { fixed: 10, perKg: 6 },
  roast: { fixed: 50, perKg: 0 },
  winnow: { fixed: 15, perKg: 5 },
  recipe: { fixed: 30, perKg: 0.5 },
  load: { fixed: 20, perKg: 1 },
  grind: { fixed: 1800, perKg: 0 },
  draw: { fixed: 15, perKg: 1 },
  fill: { fixed: 15, perKg: 0.5 },
  conche: { fixed: 1440, perKg: 0 },
  empty: { fixed: 15, perKg: 1 },
  temper: { fixed: 30, perKg: 3 },
  mould: { fixed: 15, perKg: 5 },
  set: { fixed: 60, perKg: 0 },
  knock: { fixed: 10, perKg: 1.5 },
  wrap: { fixed: 15, perKg: 10 },
  taste: { fixed: 20, perKg: 0 },
};

/** Batches from which the workshop’s own times count. */
export const ENOUGH_BATCHES = 3;

/** How far the trade’s times are off in one workshop or another: 80th percentile over median. */
const TRADE_SPREAD = 1.35;

/** Stages whose length the ledger’s steps tell: each is called as the work is. */
const TOLD: ReadonlySet<PlanStage> = new Set<PlanStage>(WORK_KINDS);

/** How long a stage takes. */
export interface StageTime {
  /** Median, whole minutes. */
  minutes: number;
  /** 80th percentile, whole minutes. */
  minutes80: number;
  /** Batches of the workshop it rests on; 0 for the trade’s time. */
  batches: number;
}

/** The trade’s minutes of a stage for a mass, kg. */
export function tradeMinutes(stage: PlanStage, kg: number): number {
  requireNotBelow0(kg, 'the mass');
  const { fixed, perKg } = TRADE[stage];
  return fixed + perKg * kg;
}

/**
 * How long a stage takes: the trade’s time with the workshop’s own factor, of the machine where it has one of its own.
 *
 * @throws RangeError for a mass below 0
 */
export function stageTime(
  stage: PlanStage,
  kg: number,
  { learned }: Pick<PlanRoom, 'learned'>,
  machineId: string | null = null,
): StageTime {
  const trade = tradeMinutes(stage, kg);
  const own = learned.filter((l) => l.stage === stage);
  const known =
    own.find((l) => machineId !== null && l.machineId === machineId) ?? own.find((l) => l.machineId === null);
  const round = (minutes: number) => Math.max(5, Math.round(minutes / 5) * 5);
  if (!known || known.batches < ENOUGH_BATCHES)
    return { minutes: round(trade), minutes80: round(trade * TRADE_SPREAD), batches: 0 };
  return {
    minutes: round(trade * known.factor),
    minutes80: round(trade * known.factor80),
    batches: known.batches,
  };
}

/** What a finished step took. */
export interface PastTime {
  kind: WorkKind;
  machineId: string | null;
  minutes: number;
  kg: number;
}

/**
 * Factors on the trade’s times by what finished batches took: median and 80th percentile, for each station and for each machine
 * that has made enough. Times of no length, and those a hundred times off, are somebody’s forgotten entry and left out.
 */
export function learnTimes(past: readonly PastTime[]): LearnedTime[] {
  const by = new Map<string, { stage: PlanStage; machineId: string | null; factors: number[] }>();
  for (const { kind: stage, machineId, minutes, kg } of past) {
    if (!TOLD.has(stage) || !(minutes > 0) || !(kg > 0)) continue;
    const factor = minutes / tradeMinutes(stage, kg);
    if (factor < 0.05 || factor > 20) continue;
    for (const id of machineId === null ? [null] : [null, machineId]) {
      const key = `${stage} ${id}`;
      const found = by.get(key) ?? { stage, machineId: id, factors: [] };
      found.factors.push(factor);
      by.set(key, found);
    }
  }
  return [...by.values()]
    .filter(({ factors }) => factors.length >= ENOUGH_BATCHES)
    .map(({ stage, machineId, factors }) => {
      const sorted = [...factors].sort((a, b) => a - b);
      return {
        stage,
        machineId,
        factor: quantile(sorted, 0.5),
        factor80: quantile(sorted, 0.8),
        batches: sorted.length,
      };
    });
}

/** A quantile of sorted values, between neighbours by line. */
function quantile(sorted: readonly number[], q: number): number {
  const at = q * (sorted.length - 1);
  const low = Math.floor(at);
  return sorted[low]! + (at - low) * ((sorted[low + 1] ?? sorted[low]!) - sorted[low]!);
}
