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
  const wrapped = wrappingOf(bundle, input.steps);
  const labourMinutes = input.steps.reduce((sum, s) => sum + (s.handsOnMinutes ?? 0), 0);
  const forecast = flow.barsExpected !== null && flow.barsExpected.high > flow.bars;
  const bars = forecast ? Math.round((flow.barsExpected!.low + flow.barsExpected!.high) / 2) : flow.bars;
  const perBar =
    bars > 0 ? (input.packagingPerBar * Math.max(0, bars - wrapped.bars) + wrapped.cost) / bars : 0;
  const cost = costPerBar({
    materials,
    labourMinutes,
    labourRate: input.labourRate,
    perBar,
    other: input.steps
      .filter((s) => s.details.fetched)
      .map((s) => ({ label: 'by-products', cost: -s.details.fetched! })),
    bars,
  });
  return { ...cost, bars, forecast, labourMinutes };
}

/** Bars that were wrapped, and what the wrapping they took off the stock cost; the others are reckoned at the workshop's usual. */
function wrappingOf(bundle: Bundle, steps: readonly StepRecord[]): { bars: number; cost: number } {
  const wraps = new Set(steps.flatMap((s) => (s.kind === 'wrap' ? [s.id] : [])));
  const wrapping = { bars: 0, cost: 0 };
  for (const m of bundle.movements) {
    if (!m.inForce || !wraps.has(m.stepId)) continue;
    if (m.direction === 'out' && m.material === 'bars') wrapping.bars += m.count ?? 0;
    if (m.direction === 'in' && m.material === 'packaging')
      wrapping.cost += (m.massMg / 1e6) * (m.pricePerKg ?? m.facts.parcelCostPerKg ?? 0);
  }
  return wrapping;
}
