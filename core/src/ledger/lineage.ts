import { BY_PRODUCTS, type Material } from './stations.ts';

/** A parcel in a lineage. */
export interface LineageParcel {
  id: string;
  /** The step that made it, or brought it in. */
  stepId: string;
  material: Material;
  /** The lot or delivery it arrived as; null for what was made here. */
  lotId: string | null;
  lotName: string | null;
  batchId: string | null;
  /** Minor units per kg paid for it on arrival; null for what was made here. */
  pricePerKg: number | null;
  /** Whether a price of 0 is what it cost, and not one that nobody knows. */
  isFree?: boolean;
  /** Allergens declared on arrival. */
  allergens: readonly string[];
}

/** A line of a step in a lineage, in force. */
export interface LineageLine {
  stepId: string;
  direction: 'in' | 'out';
  parcelId: string | null;
  massMg: number;
  material: Material | null;
  ingredientId: string | null;
  /** Minor units per kg of what was weighed in without a parcel. */
  pricePerKg: number | null;
  /** Allergens of an ingredient weighed in. */
  allergens: readonly string[];
}

/** Parcels and steps that hang together through what went in and came out. */
export interface LineageGraph {
  parcels: ReadonlyMap<string, LineageParcel>;
  /** Lines by step. */
  lines: ReadonlyMap<string, readonly LineageLine[]>;
  /** Steps by which material leaves: what comes back of it costs what it had cost, and does not carry the rest. */
  leaves?: ReadonlySet<string>;
  /** Steps that are still open: what has not come out yet is in the machine, and what has carries its own share only. */
  open?: ReadonlySet<string>;
}

/** Everything some parcels were made from, or went into; themselves included. */
export interface Reach {
  parcelIds: Set<string>;
  stepIds: Set<string>;
}

/** Follows parcels back to everything they were made from, through rework and mixed lots, any depth. */
export function reachBack(graph: LineageGraph, parcelIds: readonly string[]): Reach {
  const reach: Reach = { parcelIds: new Set(), stepIds: new Set() };
  const open = [...parcelIds];
  while (open.length > 0) {
    const id = open.pop()!;
    const parcel = graph.parcels.get(id);
    if (!parcel || reach.parcelIds.has(id)) continue;
    reach.parcelIds.add(id);
    if (reach.stepIds.has(parcel.stepId)) continue;
    reach.stepIds.add(parcel.stepId);
    for (const line of graph.lines.get(parcel.stepId) ?? [])
      if (line.direction === 'in' && line.parcelId) open.push(line.parcelId);
  }
  return reach;
}

/** Follows parcels forward to everything made with any of them, any depth. */
export function reachForward(graph: LineageGraph, parcelIds: readonly string[]): Reach {
  const users = new Map<string, string[]>();
  for (const [stepId, lines] of graph.lines)
    for (const line of lines)
      if (line.direction === 'in' && line.parcelId)
        users.set(line.parcelId, [...(users.get(line.parcelId) ?? []), stepId]);
  const reach: Reach = { parcelIds: new Set(), stepIds: new Set() };
  const open = [...parcelIds];
  while (open.length > 0) {
    const id = open.pop()!;
    if (reach.parcelIds.has(id)) continue;
    reach.parcelIds.add(id);
    for (const stepId of users.get(id) ?? []) {
      if (reach.stepIds.has(stepId)) continue;
      reach.stepIds.add(stepId);
      for (const line of graph.lines.get(stepId) ?? [])
        if (line.direction === 'out' && line.parcelId) open.push(line.parcelId);
    }
  }
  return reach;
}

/** Allergens in a parcel: of every ingredient and delivery anywhere behind it, sorted. */
export function allergensBehind(graph: LineageGraph, parcelIds: readonly string[]): string[] {
  const reach = reachBack(graph, parcelIds);
  const found = new Set<string>();
  for (const id of reach.parcelIds) graph.parcels.get(id)?.allergens.forEach((a) => found.add(a));
  for (const stepId of reach.stepIds)
    for (const line of graph.lines.get(stepId) ?? [])
      if (line.direction === 'in') line.allergens.forEach((a) => found.add(a));
  return [...found].sort();
}

/** Materials whose lot is an origin of cacao. */
const CACAO: ReadonlySet<Material> = new Set<Material>([
  'pods',
  'wet beans',
  'dry beans',
  'sorted beans',
  'roasted beans',
  'nibs',
  'liquor',
  'chocolate',
  'couverture',
  'cocoa butter',
  'cocoa powder',
]);

/** Lots whose cacao is in some parcels: id and name, in order of name. */
export function originsBehind(
  graph: LineageGraph,
  parcelIds: readonly string[],
): { lotId: string; name: string }[] {
  const origins = new Map<string, string>();
  for (const id of reachBack(graph, parcelIds).parcelIds) {
    const parcel = graph.parcels.get(id)!;
    if (parcel.lotId && CACAO.has(parcel.material)) origins.set(parcel.lotId, parcel.lotName ?? '');
  }
  return [...origins]
    .map(([lotId, name]) => ({ lotId, name }))
    .sort((a, b) => a.name.localeCompare(b.name) || a.lotId.localeCompare(b.lotId));
}

/** Costs that depend on each other in a ring are settled when none moves by more than this share in a round. */
const SETTLED = 1e-12;
const MOST_ROUNDS = 1000;

/**
 * What a parcel's material has cost per kg, minor units: the price it arrived at, or the weighted average of what its step took
 * in over what was wanted of it. By-products carry nothing. What was poured back into what it was drawn from costs what the whole of it costs.
 */
export function unitCost(graph: LineageGraph, parcelId: string): number {
  return unitCosts(graph, [parcelId]).get(parcelId)!;
}

/** What the material of many parcels has cost per kg, minor units, by their ids; each way back is gone once. See {@link unitCost}. */
export function unitCosts(graph: LineageGraph, parcelIds: readonly string[]): Map<string, number> {
  const known = new Map<string, number>();
  const open = new Set<string>();
  let isRing = false;
  const valueOf = (parcel: LineageParcel): number =>
    parcel.pricePerKg ??
    (BY_PRODUCTS.has(parcel.material) && parcel.material !== 'rework' ? 0 : made(parcel));
  const cost = (id: string): number => {
    const kept = known.get(id);
    if (kept !== undefined) return kept;
    const parcel = graph.parcels.get(id);
    if (!parcel) return 0;
    if (open.has(id)) {
      isRing = true;
      return 0;
    }
    open.add(id);
    const value = valueOf(parcel);
    open.delete(id);
    known.set(id, value);
    return value;
  };
  const made = (parcel: LineageParcel): number => {
    let [spent, inMg, wantedMg] = [0, 0, 0];
    for (const line of graph.lines.get(parcel.stepId) ?? []) {
      if (line.direction === 'in') {
        inMg += line.massMg;
        spent += (line.massMg / 1e6) * (line.parcelId ? cost(line.parcelId) : (line.pricePerKg ?? 0));
      }
      // Drained chocolate goes back into the pot: it is worth what the rest of it is.
      else if (!line.material || !BY_PRODUCTS.has(line.material) || line.material === 'rework')
        wantedMg += line.massMg;
    }
    const overMg = graph.leaves?.has(parcel.stepId) ? inMg : wantedMg;
    return overMg > 0 ? spent / (overMg / 1e6) : 0;
  };
  parcelIds.forEach(cost);
  // Poured back into what it was drawn from, it costs what the pot costs: let the ring agree with itself.
  for (let round = 0, moved = isRing ? Infinity : 0; moved > SETTLED && round < MOST_ROUNDS; round += 1) {
    moved = 0;
    for (const [id, before] of known) {
      const value = valueOf(graph.parcels.get(id)!);
      moved = Math.max(moved, Math.abs(value - before) / Math.max(1, Math.abs(value)));
      known.set(id, value);
    }
  }
  return new Map(parcelIds.map((id) => [id, known.get(id) ?? 0]));
}
