import type { BatchView, StepRecord } from '@wunsch/contract';
import { costPerBar, type MaterialUse } from '@wunsch/core/cost';
import type { BatchFlow } from '@wunsch/core/ledger';
import type { Bundle } from './bundle.ts';

/** Usual beans ÷ nibs by mass: what nibs and later materials of another batch cost beside their lot's price. */
const BEANS_PER_NIBS = 1 / 0.79;

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
  const leaves = new Set(input.steps.flatMap((s) => (s.details.work === 'leave' ? [s.id] : [])));
  const materials: MaterialUse[] = bundle.movements.flatMap((m) => {
    if (!m.inForce || m.direction !== 'in') return [];
    if (leaves.has(m.stepId)) return [];
    if (m.facts.ingredient)
      return [
        { label: m.facts.ingredient.name, massMg: m.massMg, pricePerKg: m.facts.ingredient.pricePerKg },
      ];
    if (m.facts.madeByBatchId === input.batchId || m.facts.lotPricePerKg === null) return [];
    const factor = m.facts.madeByBatchId ? BEANS_PER_NIBS : 1;
    return [{ label: 'beans', massMg: m.massMg, pricePerKg: m.facts.lotPricePerKg * factor }];
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
