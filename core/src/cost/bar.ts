import { partsInSteps, requireNumbers, requireNotBelow0 } from '../numerics/index.ts';
import { COST_KINDS, totalCost, type CostKind, type Costs } from './flow.ts';

/** What a maker might change. Each is a factor on today’s, 1 for no change. */
export interface CostChange {
  /** Price of beans and other cacao. */
  beans: number;
  /** Hours of work. */
  hours: number;
  /** Bars got out of the same beans: 1.01 is a hundredth more. */
  yield: number;
  /** Mass of a bar. */
  barMass: number;
}

/** No change. */
export const SAME: CostChange = { beans: 1, hours: 1, yield: 1, barMass: 1 };

/**
 * Costs of one bar after a change. Everything but the wrapping goes with the mass of a bar and is shared by more bars where more are got;
 * wrapping is once a bar whatever it weighs.
 *
 * @throws RangeError for a factor that is not finite, or a yield or bar that is not above 0
 */
export function changedBar(bar: Costs, change: CostChange): Costs {
  requireNumbers({ ...change }, 'a change');
  if (!(change.yield > 0) || !(change.barMass > 0))
    throw new RangeError('a yield and a bar are more than nothing');
  const each = change.barMass / change.yield;
  const changed = Object.fromEntries(COST_KINDS.map((k) => [k, bar[k] * each])) as unknown as Costs;
  changed.beans *= change.beans;
  changed.labour *= change.hours;
  changed.packaging = bar.packaging;
  return changed;
}

/**
 * Costs in whole coins (minor units), for wherever the parts stand under what they come to: they add up to it as it is written.
 *
 * @throws RangeError for a cost that is not finite
 * @example inCoins({ ...noCosts(), beans: 57.4, labour: 87.4, energy: 3.4 }) // beans 57, labour 87, energy 4: 148 as the whole
 */
export function inCoins(costs: Costs): Costs {
  const coins = partsInSteps(
    COST_KINDS.map((k) => costs[k]),
    1,
  );
  return Object.fromEntries(COST_KINDS.map((k, i) => [k, coins[i]!])) as unknown as Costs;
}

/** The largest parts of a bar’s cost, largest first. */
export function costDrivers(bar: Costs, most = 3): { kind: CostKind; cost: number }[] {
  return COST_KINDS.map((kind) => ({ kind, cost: bar[kind] }))
    .filter((d) => d.cost > 0)
    .sort((a, b) => b.cost - a.cost)
    .slice(0, most);
}

/** What a bar leaves at a price: in money, and as a share of the price; null where it is given away. */
export function marginOf(bar: Costs, price: number): { money: number; share: number | null } {
  requireNotBelow0(price, 'a price');
  const money = price - totalCost(bar);
  return { money, share: price > 0 ? money / price : null };
}

/**
 * The price that leaves a wanted margin, minor units, rounded up to `step`.
 *
 * @throws RangeError for a margin that is not 0 or more and below 1
 */
export function priceFor(bar: Costs, margin: number, step = 5): number {
  if (!(margin >= 0) || !(margin < 1))
    throw new RangeError('a margin is a share of the price, from 0 to below 1');
  return Math.ceil(totalCost(bar) / (1 - margin) / step - 1e-9) * step;
}
