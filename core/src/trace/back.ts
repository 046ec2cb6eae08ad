import type { TraceGraph, TraceParcel } from './graph.ts';

/** Something from outside that is in what was traced. */
export interface Origin {
  /** Its parcel; null for an ingredient taken off the shelf without a delivery. */
  parcel: TraceParcel | null;
  ingredientId: string | null;
  name: string;
  /** Share of the mass that went into the making, 0 to 1; all of them add up to 1. */
  share: number;
}

/** Everything something was made from. */
export interface Back {
  /** Share of the mass that came through each parcel reached. */
  parcels: Map<string, number>;
  /** Share that came through each step reached. */
  steps: Map<string, number>;
  /** What came from outside, greatest share first. */
  origins: Origin[];
}

/** Share still going round in rings at which it is let be, and most rounds. */
const CARRIED = 1e-12;
const MOST_ROUNDS = 1000;

/**
 * Follows parcels back, any depth, to everything that came from outside. Each step mixes evenly, so each input stands behind its outputs
 * by its share of the mass. Several parcels weigh by what is or was in them (`massOf`, mg).
 *
 * @throws RangeError where nothing is named, or it has no mass
 */
export function traceBack(
  graph: TraceGraph,
  parcelIds: readonly string[],
  massOf: (parcelId: string) => number,
): Back {
  const total = parcelIds.reduce((sum, id) => sum + massOf(id), 0);
  if (!(total > 0)) throw new RangeError('a trace begins at something that weighs more than nothing');
  const back: Back = { parcels: new Map(), steps: new Map(), origins: [] };
  const origins = new Map<string, Origin>();
  const order = stepsBack(graph, parcelIds);
  const reached = new Set(order);
  const weight = new Map<string, number>();
  const add = (map: Map<string, number>, id: string, w: number) => map.set(id, (map.get(id) ?? 0) + w);
  const arrive = (parcelId: string, w: number) => {
    const parcel = graph.parcels.get(parcelId);
    if (!parcel) return;
    add(back.parcels, parcelId, w);
    add(weight, parcel.stepId, w);
    const from = (graph.lines.get(parcel.stepId) ?? []).some((l) => l.direction === 'in' && l.massMg > 0);
    if (from && reached.has(parcel.stepId)) return;
    const known = origins.get(parcelId);
    if (known) known.share += w;
    else
      origins.set(parcelId, {
        parcel,
        ingredientId: null,
        name: parcel.lotCode ?? parcel.supplyName ?? parcel.label,
        share: w,
      });
  };
  for (const id of parcelIds) arrive(id, massOf(id) / total);
  // Without rings one round carries everything to its origins; with them, what came round once more is carried on until hardly any is left.
  let carried = Infinity;
  for (let round = 0; carried > CARRIED && round < MOST_ROUNDS; round += 1) {
    carried = 0;
    for (const stepId of order) {
      const w = weight.get(stepId) ?? 0;
      if (w <= 0) continue;
      weight.set(stepId, 0);
      const inside = (graph.lines.get(stepId) ?? []).filter((l) => l.direction === 'in');
      const mass = inside.reduce((sum, l) => sum + l.massMg, 0);
      add(back.steps, stepId, w);
      if (!(mass > 0)) continue;
      for (const line of inside) {
        const part = (w * line.massMg) / mass;
        if (line.parcelId) arrive(line.parcelId, part);
        else {
          const key = line.ingredientId ?? line.ingredient ?? '';
          const known = origins.get(key);
          if (known) known.share += part;
          else
            origins.set(key, {
              parcel: null,
              ingredientId: line.ingredientId,
              name: line.ingredient ?? '',
              share: part,
            });
        }
      }
    }
    for (const w of weight.values()) carried += w;
  }
  // What went round a ring passed there more than once.
  for (const through of [back.steps, back.parcels])
    for (const [id, share] of through) if (share > 1) through.set(id, 1);
  back.origins = [...origins.values()].sort((a, b) => b.share - a.share || a.name.localeCompare(b.name));
  return back;
}

/** Steps behind some parcels, each before everything behind it; a ring (through a slip) is cut where it closes. */
function stepsBack(graph: TraceGraph, parcelIds: readonly string[]): string[] {
  const done = new Set<string>();
  const last: string[] = [];
  const visit = (stepId: string) => {
    if (done.has(stepId)) return;
    done.add(stepId);
    for (const line of graph.lines.get(stepId) ?? []) {
      const behind = line.direction === 'in' && line.parcelId ? graph.parcels.get(line.parcelId) : undefined;
      if (behind) visit(behind.stepId);
    }
    last.push(stepId);
  };
  for (const id of parcelIds) {
    const parcel = graph.parcels.get(id);
    if (parcel) visit(parcel.stepId);
  }
  return last.reverse();
}
