import { sql } from 'drizzle-orm';
import type { RecallFigures, TraceQuery, TraceView } from '@wunsch/contract';
import { isWork } from '@wunsch/core/ledger';
import {
  goneAs,
  lostAs,
  recallOf,
  traceBack,
  traceForward,
  traceRows,
  type Forward,
  type Recall,
  type TraceGraph,
} from '@wunsch/core/trace';
import type { Db } from '../db/database.ts';
import { idsIn, instantOf, rowsOf } from '../db/raw.ts';
import { whenCame } from '../ledger/days.ts';
import { loadGraph } from './loadGraph.ts';
import { findRoots } from './roots.ts';

type Row = TraceView['rows'][number];

const nameOf = (h: { batchCode: string | null; lotCode: string | null }) => h.batchCode ?? h.lotCode ?? '';

/** A recall’s figures as they are sent and kept. */
function figuresOf(recall: Recall): RecallFigures {
  return {
    ...recall,
    // Place by place, as somebody goes through the workshop with the list; what has no place must be looked for.
    here: recall.here
      .map(({ parcel: p, massMg, contentMg, count }) => ({
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
      }))
      .sort(
        (a, b) =>
          Number(a.place === '') - Number(b.place === '') ||
          a.place.localeCompare(b.place) ||
          nameOf(a).localeCompare(nameOf(b)),
      ),
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
    add(parcel.batchId, goneAs(destination, customerId), destination, count ?? 0);
  }
  for (const { step: s, reason, count } of forward.lost)
    if (s.kind === 'count' && count !== null) add(s.batchId, lostAs(reason), reason, Math.abs(count));
  for (const mine of ends.values()) mine.sort((a, b) => b.count - a.count);
  return ends;
}

interface NeighbourRow {
  machineId: string;
  machine: string;
  ofCode: string | null;
  ofAt: string;
  ofBy: string;
  runCode: string | null;
  runAt: string;
  runBy: string;
  hours: number;
  cleanedAt: string | null;
  cleanedBy: string | null;
}

/** Runs of each machine that are looked at first; where none of them touches another run, all are. */
const LATEST = 30;

/** Runs on machines that a trace reached, and the instant from which each machine's latest are looked at. */
function tracedRuns(
  graph: TraceGraph,
  shares: ReadonlyMap<string, number>,
): { ids: string[]; since: string } {
  const byMachine = new Map<string, string[]>();
  const ids: string[] = [];
  for (const id of shares.keys()) {
    const s = graph.steps.get(id);
    if (!s?.machineId || !isWork(s.kind)) continue;
    ids.push(id);
    const mine = byMachine.get(s.machineId);
    if (mine) mine.push(s.startedAt);
    else byMachine.set(s.machineId, [s.startedAt]);
  }
  const firsts = [...byMachine.values()].map((starts) => starts.sort().at(-Math.min(LATEST, starts.length))!);
  return { ids, since: firsts.sort()[0] ?? '' };
}

/**
 * What ran on the machines of a trace just before or after it and is not traced itself: the last such pair of each machine, with the last
 * cleaning in between.
 */
async function loadNeighbours(
  db: Db,
  graph: TraceGraph,
  shares: ReadonlyMap<string, number>,
  side: 'before' | 'after',
): Promise<TraceView['neighbours']> {
  const { ids, since } = tracedRuns(graph, shares);
  if (ids.length === 0) return [];
  const machines = new Set(ids.map((id) => graph.steps.get(id)!.machineId!));
  // Only runs that are looked at can be told from those traced.
  const lately = ids.filter((id) => graph.steps.get(id)!.startedAt >= since);
  const latest = await neighboursSince(db, lately, side, machines, since);
  const found = new Set(latest.map((n) => n.machineId));
  const without = new Set([...machines].filter((id) => !found.has(id)));
  const theirs = ids.filter((id) => without.has(graph.steps.get(id)!.machineId!));
  const all = without.size > 0 ? await neighboursSince(db, theirs, side, without, null) : [];
  return [...latest, ...all]
    .sort((a, b) => a.machine.localeCompare(b.machine))
    .map((n) => ({
      machine: n.machine,
      of: { batchCode: n.ofCode, startedAt: n.ofAt, by: n.ofBy },
      run: { batchCode: n.runCode, startedAt: n.runAt, by: n.runBy },
      hoursBetween: n.hours,
      cleanedAt: n.cleanedAt,
      cleanedBy: n.cleanedBy,
    }));
}

async function neighboursSince(
  db: Db,
  traced: readonly string[],
  side: 'before' | 'after',
  machines: ReadonlySet<string>,
  since: string | null,
): Promise<NeighbourRow[]> {
  const beside = side === 'before' ? sql`lag` : sql`lead`;
  const [from, to] = side === 'before' ? [sql`o`, sql`r`] : [sql`r`, sql`o`];
  const result = await db.execute(sql`
    with traced as materialized (select * from ${idsIn(traced)} as t(id)),
    run as (
      select s.id, s.machine_id, ${beside}(s.id) over (partition by s.machine_id order by s.started_at, s.id) as other
      from step s where s.machine_id in ${idsIn(machines)} and not s.voided
        ${since === null ? sql`` : sql`and s.started_at >= ${since}::timestamptz`}),
    pair as (
      select distinct on (run.machine_id) run.machine_id, run.id, run.other
      from run join step s on s.id = run.id
      where run.other is not null and run.id in (select id from traced) and run.other not in (select id from traced)
      order by run.machine_id, s.started_at desc)
    select a.id as "machineId", a.name as machine, ob.code as "ofCode", ${instantOf('r.started_at')} as "ofAt", r.by as "ofBy",
      nb.code as "runCode", ${instantOf('o.started_at')} as "runAt", o.by as "runBy",
      greatest(0, extract(epoch from ${to}.started_at - coalesce(${from}.ended_at, ${from}.started_at)) / 3600)::float8 as hours,
      ${instantOf('c.at')} as "cleanedAt", c.by as "cleanedBy"
    from pair join step r on r.id = pair.id join step o on o.id = pair.other
    join machine a on a.id = pair.machine_id
    left join batch ob on ob.id = r.batch_id left join batch nb on nb.id = o.batch_id
    left join lateral (select e.at, e.by from machine_event e where e.machine_id = pair.machine_id and e.kind = 'cleaned' and not e.voided
      and e.at between ${from}.started_at and ${to}.started_at order by e.at desc limit 1) c on true`);
  return rowsOf<NeighbourRow>(result);
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
    const { rows, links } = traceRows(graph, new Map([...forward.makers, ...forward.steps]));
    const ends = endsByBatch(forward);
    return {
      ...shared,
      rows: rows.map((r) => ({ ...r, ends: ends.get(r.batchId) ?? [] })),
      links: links.map((l) => ({
        ...l,
        isTraced: forward.parcels.has(l.parcelId) || roots.ingredientIds.includes(l.parcelId),
      })),
      recall: figuresOf(recallOf(graph, forward)),
      origins: [],
      steps: [],
      neighbours: await loadNeighbours(db, graph, forward.steps, 'after'),
      tookMs: clock() - began,
    };
  }
  const from = rootParcels(graph, roots).filter((id) => madeMg(graph, id) > 0);
  // What has just begun, or was taken back, has nothing behind it.
  const back =
    from.length > 0
      ? traceBack(graph, from, (id) => madeMg(graph, id))
      : { parcels: new Map(), steps: new Map<string, number>(), origins: [] };
  // All of a batch stands behind what was made with it.
  const { rows, links } = traceRows(graph, new Map([...back.steps.keys()].map((id) => [id, 1])));
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
        startedAt: kind === 'receive' || kind === 'dry' ? whenCame(startedAt) : startedAt,
        by,
      })),
    neighbours: await loadNeighbours(db, graph, back.steps, 'before'),
    tookMs: clock() - began,
  };
}
