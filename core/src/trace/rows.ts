import { BY_PRODUCTS, isWork, STATIONS, type Material, type Station } from '../ledger/index.ts';
import type { TraceGraph, TraceStep } from './graph.ts';

/** How far a batch came at a station, and how much of it is what is traced. */
export interface TraceStage {
  station: Station;
  /** What came out of it that was wanted; what is in it while it runs, mg. */
  massMg: number;
  /** Of that, what is traced. */
  contentMg: number;
  isOpen: boolean;
}

/** A batch as a row of the picture of a trace. */
export interface TraceRow {
  batchId: string;
  code: string;
  startedAt: string;
  endedAt: string | null;
  stages: TraceStage[];
  /** Pieces it was moulded into. */
  bars: number;
}

/** Material that crosses into a batch: from a lot or delivery, or from another batch. */
export interface TraceLink {
  /** Parcel it is of; the ingredient where it was weighed in without a delivery. */
  parcelId: string;
  /** Batch it was made in; null where it came from outside. */
  fromBatchId: string | null;
  /** Station at which it had come out there. */
  fromStation: Station | null;
  toBatchId: string;
  toStation: Station;
  material: Material | null;
  name: string;
  massMg: number;
}

/** Rows of batches, oldest first, and what crosses between them and from outside. */
export interface TraceRows {
  rows: TraceRow[];
  links: TraceLink[];
}

/** The picture of a trace, from the steps it reached and the share of what is traced in each. */
export function traceRows(graph: TraceGraph, shares: ReadonlyMap<string, number>): TraceRows {
  const byBatch = new Map<string, TraceStep[]>();
  for (const id of shares.keys()) {
    const step = graph.steps.get(id);
    if (!step?.batchId || !isWork(step.kind)) continue;
    byBatch.set(step.batchId, [...(byBatch.get(step.batchId) ?? []), step]);
  }
  const rows = [...byBatch].map(([batchId, steps]): TraceRow => {
    const stages = STATIONS.flatMap((station): TraceStage[] => {
      const here = steps.filter((s) => s.station === station);
      if (here.length === 0) return [];
      // Of several kinds of work at one station the last to make something is where the batch stands.
      const kinds = [...new Set(here.map((s) => s.kind))];
      const last = kinds.at(-1)!;
      const stage: TraceStage = { station, massMg: 0, contentMg: 0, isOpen: here.some((s) => s.isOpen) };
      for (const step of here.filter((s) => s.kind === last)) {
        const massMg = (graph.lines.get(step.id) ?? []).reduce((sum, l) => {
          if (step.isOpen) return sum + (l.direction === 'in' ? l.massMg : 0);
          return sum + (l.direction === 'out' && l.material && !BY_PRODUCTS.has(l.material) ? l.massMg : 0);
        }, 0);
        stage.massMg += massMg;
        stage.contentMg += massMg * (shares.get(step.id) ?? 0);
      }
      return [stage];
    });
    const ends = steps.map((s) => s.endedAt);
    return {
      batchId,
      code: steps[0]!.batchCode ?? '',
      startedAt: steps.map((s) => s.startedAt).sort()[0]!,
      endedAt: ends.includes(null)
        ? null
        : ends
            .map((e) => e!)
            .sort()
            .at(-1)!,
      stages,
      bars: steps.reduce(
        (sum, s) =>
          sum +
          (graph.lines.get(s.id) ?? []).reduce(
            (n, l) => n + (l.direction === 'out' && l.material === 'bars' ? (l.count ?? 0) : 0),
            0,
          ),
        0,
      ),
    };
  });
  const links = new Map<string, TraceLink>();
  for (const row of rows)
    for (const step of byBatch.get(row.batchId)!)
      for (const line of graph.lines.get(step.id) ?? []) {
        const from = line.parcelId ?? line.ingredientId;
        if (line.direction !== 'in' || !from) continue;
        const parcel = line.parcelId ? graph.parcels.get(line.parcelId) : null;
        if (line.parcelId && (!parcel || parcel.batchId === row.batchId)) continue;
        const key = `${from} ${row.batchId} ${step.station}`;
        const known = links.get(key);
        if (known) known.massMg += line.massMg;
        else
          links.set(key, {
            parcelId: from,
            fromBatchId: parcel?.batchId ?? null,
            fromStation: parcel?.batchId ? (graph.steps.get(parcel.stepId)?.station ?? null) : null,
            toBatchId: row.batchId,
            toStation: step.station,
            material: line.material,
            name: parcel
              ? (parcel.lotCode ?? parcel.supplyName ?? parcel.batchCode ?? parcel.label)
              : (line.ingredient ?? ''),
            massMg: line.massMg,
          });
      }
  rows.sort((a, b) => a.startedAt.localeCompare(b.startedAt) || a.code.localeCompare(b.code));
  return { rows, links: [...links.values()] };
}
