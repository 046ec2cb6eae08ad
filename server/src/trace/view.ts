import { and, eq, inArray } from 'drizzle-orm';
import type { RecallFigures, TraceQuery, TraceView } from '@wunsch/contract';
import { isWork } from '@wunsch/core/ledger';
import {
  neighboursOf,
  recallOf,
  traceBack,
  traceForward,
  traceRows,
  UNACCOUNTED,
  type Forward,
  type MachineRun,
  type Recall,
  type TraceGraph,
} from '@wunsch/core/trace';
import type { Db } from '../db/database.ts';
import { batch, machineEvent, step } from '../db/schema/index.ts';
import { loadGraph } from './loadGraph.ts';
import { findRoots } from './roots.ts';

/** Most neighbours told of. */
const MOST_NEIGHBOURS = 60;

type Row = TraceView['rows'][number];

/** A recall’s figures as they are sent and kept. */
function figuresOf(recall: Recall): RecallFigures {
  return {
    ...recall,
    here: recall.here.map(({ parcel: p, massMg, contentMg, count }) => ({
      parcelId: p.id,
      material: p.material,
      label: p.label,
      batchId: p.batchId,
      batchCode: p.batchCode,
      lotCode: p.lotCode,
      place: p.place,
      onHold: p.onHold,
      massMg,
      contentMg,
      count,
    })),
    customers: recall.customers.map((c) => ({
      ...c,
      lines: c.lines.map((l) => ({
        at: l.step.startedAt,
        batchCode: l.step.batchCode,
        material: l.parcel?.material ?? null,
        count: l.count,
        massMg: l.massMg,
      })),
    })),
    missing: recall.missing.map(({ stepId: _, ...m }) => m),
  };
}

/** Where the bars of each batch are, largest first. */
function endsByBatch(forward: Forward): Map<string, Row['ends']> {
  const ends = new Map<string, Row['ends']>();
  const add = (batchId: string | null, kind: Row['ends'][number]['kind'], name: string, count: number) => {
    if (!batchId || count <= 0) return;
    const mine = ends.get(batchId) ?? [];
    ends.set(batchId, mine);
    const known = mine.find((e) => e.kind === kind && e.name === name);
    if (known) known.count += count;
    else mine.push({ kind, name, count });
  };
  for (const { parcel, count } of forward.here)
    if (parcel.material === 'bars') add(parcel.batchId, 'here', parcel.place, count ?? 0);
  for (const { parcel, customerId, destination, count } of forward.gone) {
    if (parcel?.material !== 'bars') continue;
    const kind = customerId
      ? 'delivered'
      : ['gift', 'sample'].includes(destination)
        ? 'given'
        : ['waste', 'broken'].includes(destination)
          ? 'broken'
          : 'sold';
    add(parcel.batchId, kind, destination, count ?? 0);
  }
  for (const { step: s, reason, count } of forward.lost)
    if (s.kind === 'count' && count !== null)
      add(
        s.batchId,
        UNACCOUNTED.has(reason) ? 'missing' : reason === 'eaten' ? 'given' : 'broken',
        reason,
        Math.abs(count),
      );
  for (const mine of ends.values()) mine.sort((a, b) => b.count - a.count);
  return ends;
}

/** Runs on the machines a trace touched, and their cleanings. */
async function loadRuns(
  db: Db,
  graph: TraceGraph,
  stepIds: ReadonlyMap<string, number>,
  side: 'before' | 'after',
): Promise<TraceView['neighbours']> {
  const machineIds = new Set<string>();
  const names = new Map<string, string>();
  for (const id of stepIds.keys()) {
    const s = graph.steps.get(id);
    if (s?.machineId && isWork(s.kind)) {
      machineIds.add(s.machineId);
      names.set(s.machineId, s.machine ?? '');
    }
  }
  if (machineIds.size === 0) return [];
  const rows = await db
    .select({
      stepId: step.id,
      machineId: step.machineId,
      batchCode: batch.code,
      startedAt: step.startedAt,
      endedAt: step.endedAt,
      by: step.by,
    })
    .from(step)
    .leftJoin(batch, eq(batch.id, step.batchId))
    .where(and(inArray(step.machineId, [...machineIds]), eq(step.voided, false)));
  const cleanings = await db
    .select({ machineId: machineEvent.machineId, at: machineEvent.at, by: machineEvent.by })
    .from(machineEvent)
    .where(
      and(
        inArray(machineEvent.machineId, [...machineIds]),
        eq(machineEvent.kind, 'cleaned'),
        eq(machineEvent.voided, false),
      ),
    );
  const runs = rows.map((r): MachineRun => ({
    ...r,
    machineId: r.machineId!,
    machine: names.get(r.machineId!) ?? '',
  }));
  const runOf = ({ batchCode, startedAt, by }: MachineRun) => ({ batchCode, startedAt, by });
  return neighboursOf(runs, cleanings, new Set(stepIds.keys()), side)
    .slice(-MOST_NEIGHBOURS)
    .map((n) => ({
      machine: n.machine,
      of: runOf(n.of),
      run: runOf(n.run),
      hoursBetween: n.hoursBetween,
      cleanedAt: n.cleaned?.at ?? null,
      cleanedBy: n.cleaned?.by ?? null,
    }));
}

/** Parcels a trace goes back from: those named, or what whole steps made. */
function rootParcels(graph: TraceGraph, roots: { parcelIds: readonly string[]; stepIds: readonly string[] }) {
  const steps = new Set(roots.stepIds);
  const made = [...graph.parcels.values()].filter((p) => steps.has(p.stepId)).map((p) => p.id);
  return [...new Set([...roots.parcelIds, ...made])];
}

/** Mass a parcel had when it was made. */
function madeMg(graph: TraceGraph, parcelId: string): number {
  const parcel = graph.parcels.get(parcelId);
  const lines = parcel ? (graph.lines.get(parcel.stepId) ?? []) : [];
  return lines.reduce((sum, l) => sum + (l.direction === 'out' && l.parcelId === parcelId ? l.massMg : 0), 0);
}

/** A trace one way: found, followed, drawn up and told, with the time it took. */
export async function traceView(
  db: Db,
  query: TraceQuery,
  clock: () => number = () => performance.now(),
): Promise<TraceView> {
  const began = clock();
  const way = query.way ?? 'forward';
  const { name, detail, ...roots } = await findRoots(db, query);
  const graph = await loadGraph(db, roots, way);
  const shared = {
    of: query.of,
    id: query.id,
    way,
    name,
    detail,
  };
  if (way === 'forward') {
    const forward = traceForward(graph, roots);
    const { rows, links } = traceRows(graph, forward.steps);
    const ends = endsByBatch(forward);
    return {
      ...shared,
      rows: rows.map((r) => ({ ...r, ends: ends.get(r.batchId) ?? [] })),
      links: links.map((l) => ({ ...l, isTraced: forward.parcels.has(l.parcelId) })),
      recall: figuresOf(recallOf(graph, forward)),
      origins: [],
      steps: [],
      neighbours: await loadRuns(db, graph, forward.steps, 'after'),
      tookMs: clock() - began,
    };
  }
  const from = rootParcels(graph, roots).filter((id) => madeMg(graph, id) > 0);
  const back = traceBack(graph, from, (id) => madeMg(graph, id));
  const { rows, links } = traceRows(graph, back.steps);
  return {
    ...shared,
    rows: rows.map((r) => ({ ...r, ends: [] })),
    links: links.map((l) => ({ ...l, isTraced: true })),
    recall: null,
    origins: back.origins.map(({ parcel, name: called, share }) => ({
      name: called,
      material: parcel?.material ?? 'ingredient',
      lotId: parcel?.lotId ?? null,
      parcelId: parcel?.id ?? null,
      share,
    })),
    steps: [...graph.steps.values()]
      .filter((s) => back.steps.has(s.id))
      .map(({ id, kind, station, batchId, batchCode, machine, startedAt, by }) => ({
        id,
        kind,
        station,
        batchId,
        batchCode,
        machine,
        startedAt,
        by,
      })),
    neighbours: await loadRuns(db, graph, back.steps, 'before'),
    tookMs: clock() - began,
  };
}
