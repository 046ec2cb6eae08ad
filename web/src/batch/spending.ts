import type { BatchSpending, BatchView, UsualWork } from '@wunsch/contract';
import { barIf, wearToCome, workToCome, type Costs } from '@wunsch/core/cost';
import { useRead } from '../shell/door.tsx';

/** What has been spent on a batch so far; undefined while it is read. */
export const useSpending = (batchId: string): BatchSpending | undefined =>
  useRead<BatchSpending>(`/api/batches/${batchId}/cost`).data;

/** What work at each station usually comes to; undefined while it is read. */
export const useUsualWork = (): UsualWork | undefined => useRead<UsualWork>('/api/usual-work').data;

/** What a bar of a batch costs, or will if as many come as are reckoned with. Money in minor units. */
export interface BarCost {
  bar: Costs;
  bars: number;
  /** What it costs if the most and the fewest come; null where they are made already. */
  range: { low: Costs; high: Costs } | null;
  /** What hands and machines still come to of one bar, which is in it; null where no earlier batch says what that is. */
  toCome: number | null;
}

/** Kinds of cost that are spent station by station. */
const TO_COME = ['labour', 'energy', 'machines'] as const;

/** What a bar of a batch costs; null while no bars are in sight. */
export function barCostOf(
  spending: BatchSpending,
  { flow, batch }: Pick<BatchView, 'flow' | 'batch'>,
  work?: UsualWork,
): BarCost | null {
  const ahead = flow.barsExpected;
  if (!ahead || ahead.high <= flow.bars)
    return spending.bar && { bar: spending.bar, bars: spending.bars, range: null, toCome: null };
  const shares = { toCome: workToCome(flow), wear: wearToCome(flow) };
  const of = (bars: number) =>
    barIf(spending, { bars, barMg: batch.barMg, ...shares }, { ...spending.usual, ...work });
  const [low, high] = [Math.floor(ahead.low), Math.ceil(ahead.high)];
  const bars = Math.round((ahead.low + ahead.high) / 2);
  if (bars < 1) return null;
  const bar = of(bars);
  return {
    bar,
    bars,
    range: low >= 1 ? { low: of(high), high: of(low) } : null,
    toCome:
      work && work.batches > 0
        ? TO_COME.reduce((sum, kind) => sum + bar[kind] - spending.spent[kind] / bars, 0)
        : null,
  };
}
