import {
  BY_PRODUCTS,
  isWork,
  type LineageGraph,
  type LineageLine,
  type LineageParcel,
  type StepKind,
} from '../ledger/index.ts';
import { requireNotBelow0 } from '../numerics/index.ts';

/** Kinds of cost, in the order in which they arise. `credit` is what by-products fetched, below zero. */
export const COST_KINDS = [
  'beans',
  'ingredients',
  'labour',
  'energy',
  'machines',
  'overhead',
  'packaging',
  'credit',
] as const;

/** One kind of cost. */
export type CostKind = (typeof COST_KINDS)[number];

/** Minor units by kind. */
export type Costs = Record<CostKind, number>;

/** What a step itself costs, beside what goes into it. */
export interface StepWork {
  kind: StepKind;
  /** Minutes of hands-on work. */
  minutes: number;
  /** Hours its machine ran, and what it draws, W; 0 where nobody has said. */
  machineHours: number;
  watts: number;
  /** Written off of its machine for each kg that goes in, minor units. */
  writeOffPerKg: number;
  /** What its by-products have fetched, minor units. */
  fetched: number;
}

/** What work and space cost. Money in minor units. */
export interface CostRates {
  /** An hour of work. */
  labourRate: number;
  /** A kWh. */
  energyPrice: number;
  /** Rent, insurance and the rest, for each kg of bars and blocks made. */
  overheadPerKg: number;
  /** How several wanted outputs of one step share its cost. */
  joint: 'mass' | 'value';
  /** What a kg of a material is worth, for sharing by value; materials that are not here count 1. */
  valuePerKg?: Readonly<Record<string, number>>;
}

/** Costs of nothing. */
export const noCosts = (): Costs => Object.fromEntries(COST_KINDS.map((k) => [k, 0])) as unknown as Costs;

/** Adds `part` of some costs to others. */
export function addCosts(to: Costs, costs: Costs, part = 1): void {
  for (const kind of COST_KINDS) to[kind] += costs[kind] * part;
}

/** Sum over all kinds. */
export const totalCost = (costs: Costs): number => COST_KINDS.reduce((sum, k) => sum + costs[k], 0);

/** What each parcel has cost, and what each step takes on itself. */
export interface CostFlow {
  /** Costs of a mg of each parcel, by its id. */
  unit: Map<string, Costs>;
  /** What each step adds: work, energy, machine, overhead, less by-products. */
  own: Map<string, Costs>;
  /** What went into each step and what it added, which its wanted outputs carry on. */
  spent: Map<string, Costs>;
}

/** Whether a line is something that came out and carries cost. */
export const isWanted = (line: LineageLine): boolean =>
  line.direction === 'out' &&
  (!line.material || !BY_PRODUCTS.has(line.material) || line.material === 'rework');

/** What went into a step, mg. */
export const massIn = (lines: readonly LineageLine[]): number =>
  lines.reduce((sum, l) => sum + (l.direction === 'in' ? l.massMg : 0), 0);

/** Minor units that may still move in a round when a ring is taken for settled, and most rounds. */
const SETTLED = 1e-9;
const MOST_ROUNDS = 1000;

/**
 * Costs along the ledger: what arrives costs what was paid for it; a step’s wanted outputs share what went into it and what it cost itself, by
 * mass or by value; by-products carry nothing, and what they fetched is taken off; what is drained back is worth what the rest is. Losses make
 * the rest dearer. What was poured back into what it was drawn from costs what the whole of it costs. Of a step that is still open, what has come
 * out carries its share of the mass, and the rest stays in the machine.
 *
 * @throws RangeError for rates below 0 or not finite
 */
export function costFlow(
  graph: LineageGraph,
  works: ReadonlyMap<string, StepWork>,
  rates: CostRates,
): CostFlow {
  requireNotBelow0(rates.labourRate, 'the wage');
  requireNotBelow0(rates.energyPrice, 'the price of a kWh');
  requireNotBelow0(rates.overheadPerKg, 'the overheads of a kg');
  const unit = new Map<string, Costs>();
  const own = new Map<string, Costs>();
  const spent = new Map<string, Costs>();
  const open = new Set<string>();
  let isRing = false;
  const valueOf = (line: LineageLine) => rates.valuePerKg?.[line.material ?? ''];
  // By value only where each of them has one: with one unknown, a share of nothing or of everything would come out.
  const worthAmong = (wanted: readonly LineageLine[]) => {
    const isByValue = rates.joint === 'value' && wanted.every((l) => (valueOf(l) ?? 0) > 0);
    return (line: LineageLine) => (isByValue ? line.massMg * valueOf(line)! : line.massMg);
  };

  const costsOfStep = (stepId: string): Costs => {
    const sum = noCosts();
    const lines = graph.lines.get(stepId) ?? [];
    let [inMg, madeMg] = [0, 0];
    for (const line of lines) {
      if (line.direction === 'in') {
        inMg += line.massMg;
        if (line.parcelId) addCosts(sum, ofParcel(line.parcelId), line.massMg);
        else sum.ingredients += (line.massMg / 1e6) * (line.pricePerKg ?? 0);
      } else if (line.material === 'bars' || line.material === 'blocks') madeMg += line.massMg;
    }
    const work = works.get(stepId);
    const mine = noCosts();
    if (work) {
      mine.labour = (work.minutes / 60) * rates.labourRate;
      mine.energy = (work.machineHours * work.watts * rates.energyPrice) / 1000;
      mine.machines = (inMg / 1e6) * work.writeOffPerKg;
      if (isWork(work.kind)) mine.overhead = (madeMg / 1e6) * rates.overheadPerKg;
      mine.credit = -work.fetched;
    }
    addCosts(sum, mine);
    own.set(stepId, mine);
    return sum;
  };

  const ofStep = (stepId: string): Costs => {
    const known = spent.get(stepId);
    if (known) return known;
    if (open.has(stepId)) {
      isRing = true;
      return noCosts();
    }
    open.add(stepId);
    const sum = costsOfStep(stepId);
    open.delete(stepId);
    spent.set(stepId, sum);
    return sum;
  };

  const costsOfParcel = (id: string, parcel: LineageParcel): Costs => {
    const costs = noCosts();
    if (parcel.pricePerKg !== null) {
      const kind =
        parcel.material === 'packaging'
          ? 'packaging'
          : parcel.material === 'ingredient'
            ? 'ingredients'
            : 'beans';
      costs[kind] = parcel.pricePerKg / 1e6;
      return costs;
    }
    if (BY_PRODUCTS.has(parcel.material) && parcel.material !== 'rework') return costs;
    const all = ofStep(parcel.stepId);
    const lines = graph.lines.get(parcel.stepId) ?? [];
    if (graph.leaves?.has(parcel.stepId)) {
      const inMg = massIn(lines);
      if (inMg > 0) addCosts(costs, all, 1 / inMg);
      return costs;
    }
    const wanted = lines.filter(isWanted);
    const isOpen = graph.open?.has(parcel.stepId) ?? false;
    // What the rest of an open step is worth beside it, only its mass can tell.
    const worth = isOpen ? (line: LineageLine) => line.massMg : worthAmong(wanted);
    const whole = wanted.reduce((sum, l) => sum + worth(l), 0);
    const over = isOpen ? Math.max(whole, massIn(lines)) : whole;
    const line = wanted.find((l) => l.parcelId === id);
    if (line && over > 0) addCosts(costs, all, worth(line) / line.massMg / over);
    return costs;
  };

  const ofParcel = (id: string): Costs => {
    const known = unit.get(id);
    if (known) return known;
    const parcel = graph.parcels.get(id);
    if (!parcel) return noCosts();
    const costs = costsOfParcel(id, parcel);
    unit.set(id, costs);
    return costs;
  };

  for (const id of graph.parcels.keys()) ofParcel(id);
  for (const id of graph.lines.keys()) ofStep(id);
  // Poured back into what it was drawn from, it costs what the pot costs: let the ring agree with itself.
  for (let round = 0, moved = isRing ? Infinity : 0; moved > SETTLED && round < MOST_ROUNDS; round += 1) {
    moved = 0;
    for (const id of unit.keys()) unit.set(id, costsOfParcel(id, graph.parcels.get(id)!));
    for (const [id, before] of spent) {
      const next = costsOfStep(id);
      for (const kind of COST_KINDS) moved = Math.max(moved, Math.abs(next[kind] - before[kind]));
      spent.set(id, next);
    }
  }
  return { unit, own, spent };
}
