import { requireFinite, requireNotBelow0, requireWhole } from '../numerics/index.ts';
/** A material that went into a batch. */
export interface MaterialUse {
  label: string;
  massMg: number;
  /** Minor units per kg, freight included. */
  pricePerKg: number;
}

/** What a batch has cost so far. Money in minor units; labour in minutes. */
export interface CostInput {
  materials: readonly MaterialUse[];
  labourMinutes: number;
  /** Minor units per hour of work. */
  labourRate: number;
  /** Packaging and mould costs per bar, minor units. */
  perBar: number;
  bars: number;
  /** Other costs of the batch, such as energy. */
  other?: readonly { label: string; cost: number }[];
}

/** Cost of a bar and its parts. */
export interface BarCost {
  /** For the whole batch. */
  total: number;
  /** Minor units per bar, not rounded; null while there are no bars to share it. */
  perBar: number | null;
  /** Parts per batch, largest first. */
  parts: { label: string; cost: number }[];
}

/**
 * Cost of a batch and of one of its bars: materials by mass and price, labour by the minute, packaging by
 * the bar. Lines with the same label are added up. Nothing is rounded before it is shown.
 */
export function costPerBar(input: CostInput): BarCost {
  for (const m of input.materials) {
    requireNotBelow0(m.massMg, `the mass of ${m.label}`);
    requireFinite(m.pricePerKg, `the price of ${m.label}`);
  }
  requireNotBelow0(input.labourMinutes, 'the minutes of work');
  requireNotBelow0(input.labourRate, 'the wage');
  requireNotBelow0(input.perBar, 'the packaging of a bar');
  requireWhole(input.bars, 'the number of bars');
  for (const o of input.other ?? []) requireFinite(o.cost, `the cost of ${o.label}`);
  const parts = new Map<string, number>();
  const add = (label: string, cost: number) => cost !== 0 && parts.set(label, (parts.get(label) ?? 0) + cost);
  for (const m of input.materials) add(m.label, (m.massMg / 1e6) * m.pricePerKg);
  add('labour', (input.labourMinutes / 60) * input.labourRate);
  add('packaging', input.perBar * input.bars);
  for (const o of input.other ?? []) add(o.label, o.cost);
  const total = [...parts.values()].reduce((sum, c) => sum + c, 0);
  return {
    total,
    perBar: input.bars > 0 ? total / input.bars : null,
    parts: [...parts].map(([label, cost]) => ({ label, cost })).sort((a, b) => b.cost - a.cost),
  };
}

/**
 * What a machine's price comes to for each kg it makes, minor units: (price − resale) ÷ kg in its life.
 *
 * @throws RangeError for a life not above 0 kg
 */
export function writeOffPerKg({
  price,
  resale,
  lifeKg,
}: {
  price: number;
  resale: number;
  lifeKg: number;
}): number {
  requireNotBelow0(price, 'the price');
  requireNotBelow0(resale, 'the resale');
  requireFinite(lifeKg, 'the life of a machine');
  if (!(lifeKg > 0)) throw new RangeError('a machine makes more than 0 kg in its life');
  return Math.max(0, price - resale) / lifeKg;
}
