import type { LineageGraph } from '../ledger/index.ts';

/** Something that went in and that no price is known of. */
export interface Unpriced {
  what: 'lot' | 'ingredient';
  id: string;
}

/**
 * What went into some parcels, at whatever depth, without a price: it counts as nothing, so that whatever is reckoned from it is too cheap.
 * Packaging is left out, since the workshop's usual stands for it, and so is what cost nothing.
 *
 * @returns one function for all parcels of a graph, which remembers what it has walked; each thing once, in the order in which it is met
 */
export function unpricedBehind(graph: LineageGraph): (parcelIds: readonly string[]) => Unpriced[] {
  const known = new Map<string, Map<string, Unpriced>>();
  const note = (found: Map<string, Unpriced>, what: Unpriced['what'], id: string | null) => {
    if (id !== null) found.set(`${what} ${id}`, { what, id });
  };
  const ofStep = (stepId: string): Map<string, Unpriced> => {
    const walked = known.get(stepId);
    // A ring, poured back into what it was drawn from, is being walked already.
    if (walked) return walked;
    const found = new Map<string, Unpriced>();
    known.set(stepId, found);
    for (const line of graph.lines.get(stepId) ?? []) {
      if (line.direction !== 'in') continue;
      const parcel = line.parcelId === null ? null : graph.parcels.get(line.parcelId);
      if (parcel && parcel.pricePerKg === null) {
        for (const [key, thing] of ofStep(parcel.stepId)) found.set(key, thing);
        continue;
      }
      if (((parcel ? parcel.pricePerKg : line.pricePerKg) ?? 0) > 0 || parcel?.isFree) continue;
      if (line.ingredientId !== null) note(found, 'ingredient', line.ingredientId);
      else if (parcel && parcel.material !== 'packaging') note(found, 'lot', parcel.lotId);
    }
    return found;
  };
  return (parcelIds) => {
    const all = new Map<string, Unpriced>();
    for (const id of parcelIds) {
      const parcel = graph.parcels.get(id);
      if (!parcel) continue;
      const isUnknown = parcel.pricePerKg === 0 && !parcel.isFree;
      if (isUnknown && parcel.material !== 'packaging') note(all, 'lot', parcel.lotId);
      if (parcel.pricePerKg === null) for (const [key, thing] of ofStep(parcel.stepId)) all.set(key, thing);
    }
    return [...all.values()];
  };
}
