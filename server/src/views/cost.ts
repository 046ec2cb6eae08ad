import type { BatchView, StepRecord } from '@wunsch/contract';
import { costPerBar, type MaterialUse } from '@wunsch/core/cost';
import { isWork, type BatchFlow } from '@wunsch/core/ledger';
import type { Bundle } from './bundle.ts';

/** What a batch has cost: bought material by the ledger's masses, labour by the minutes noted, packaging by the bar. */
export function batchCost(input: {
  batchId: string;
  bundle: Bundle;
  steps: readonly StepRecord[];
  flow: BatchFlow;
  labourRate: number;
  packagingPerBar: number;
}): BatchView['cost'] {
  const { bundle, flow } = input;
  const work = new Set(input.steps.flatMap((s) => (isWork(s.kind) ? [s.id] : [])));
  const materials: MaterialUse[] = bundle.movements.flatMap((m) => {
    if (!m.inForce || m.direction !== 'in' || !work.has(m.stepId)) return [];
    const { ingredient, madeByBatchId, parcelCostPerKg, lotPricePerKg } = m.facts;
    if (ingredient)
      return [
        { label: ingredient.name, massMg: m.massMg, pricePerKg: m.pricePerKg ?? ingredient.pricePerKg },
      ];
    if (madeByBatchId === input.batchId) return [];
    const pricePerKg = madeByBatchId ? parcelCostPerKg : lotPricePerKg;
    return pricePerKg === null ? [] : [{ label: 'beans', massMg: m.massMg, pricePerKg }];
  });
  const labourMinutes = input.steps.reduce((sum, s) => sum + (s.handsOnMinutes ?? 0), 0);
  const forecast = flow.barsExpected !== null && flow.barsExpected.high > flow.bars;
  const bars = forecast ? Math.round((flow.barsExpected!.low + flow.barsExpected!.high) / 2) : flow.bars;
  const cost = costPerBar({
    materials,
    labourMinutes,
    labourRate: input.labourRate,
    perBar: input.packagingPerBar,
    other: input.steps
      .filter((s) => s.details.fetched)
      .map((s) => ({ label: 'by-products', cost: -s.details.fetched! })),
    bars,
  });
  return { ...cost, bars, forecast, labourMinutes };
}
