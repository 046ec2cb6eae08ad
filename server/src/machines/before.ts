import { sql } from 'drizzle-orm';
import type { MachineBefore } from '@wunsch/contract';
import { allergensBehind, type LineageGraph } from '@wunsch/core/ledger';
import type { Db } from '../db/database.ts';
import { instantOf, rowsOf } from '../db/raw.ts';
import { loadLineage } from '../views/lineage.ts';

/** A moment at a machine: a run that began there, or one that is about to. */
export interface Moment {
  machineId: string;
  /** ISO; what was there before it is told. */
  at: string;
}

/** Batches since the last cleaning that are told; what was in the machine before these has long been thinned out. */
const BATCHES = 6;

/** Runs that are looked at for them: a batch goes through a bowl in several. */
const RUNS = 30;

/** Work that leaves something on what it was done in: stones, mixers, bowls and tables. */
const LEAVES = sql`('grind', 'conche', 'temper')`;

interface Row {
  n: number;
  machine: string;
  cleanedAt: string | null;
  cleanedBy: string | null;
  stepId: string | null;
  batchCode: string | null;
  at: string | null;
}

/** All that went into a step, by the allergens it declares and those behind it. */
function allergensIn(graph: LineageGraph, stepId: string): string[] {
  const found = new Set<string>();
  for (const line of graph.lines.get(stepId) ?? []) {
    if (line.direction !== 'in') continue;
    line.allergens.forEach((a) => found.add(a));
    if (line.parcelId) allergensBehind(graph, [line.parcelId]).forEach((a) => found.add(a));
  }
  return [...found].sort();
}

/** A row that tells of a run. */
type RunRow = Row & { stepId: string; at: string };

/** Of runs, newest first, all those of the last few batches. */
function lastBatches(rows: readonly Row[]): RunRow[] {
  const seen = new Set<string>();
  return rows.filter((r): r is RunRow => {
    if (r.stepId === null || r.at === null) return false;
    seen.add(r.batchCode ?? r.stepId);
    return seen.size <= BATCHES;
  });
}

/** What was in machines before some moments since each was last cleaned, in the order of the moments; a machine nobody knows has nothing. */
export async function loadBefore(db: Db, moments: readonly Moment[]): Promise<MachineBefore[]> {
  if (moments.length === 0) return [];
  const asked = sql.join(
    moments.map(({ machineId, at }, n) => sql`(${n}::int, ${machineId}::uuid, ${at}::timestamptz)`),
    sql`, `,
  );
  const rows = rowsOf<Row>(
    await db.execute(sql`
      select q.n, a.name as machine, ${instantOf('c.at')} as "cleanedAt", c.by as "cleanedBy",
        r.id as "stepId", r.code as "batchCode", ${instantOf('r.started_at')} as at
      from (values ${asked}) q(n, machine_id, at) join machine a on a.id = q.machine_id
      left join lateral (select e.at, e.by from machine_event e where e.machine_id = q.machine_id and e.kind = 'cleaned'
        and not e.voided and e.at <= q.at order by e.at desc limit 1) c on true
      left join lateral (select s.id, s.started_at, b.code from step s left join batch b on b.id = s.batch_id
        where s.machine_id = q.machine_id and s.kind in ${LEAVES} and not s.voided and s.started_at < q.at
          and (c.at is null or s.started_at > c.at) and (b.state is null or b.state <> 'void')
        order by s.started_at desc, s.id desc limit ${RUNS}) r on true
      order by q.n, r.started_at desc`),
  );
  const told = moments.map((_, n) => {
    const mine = rows.filter((r) => r.n === n);
    return { mine, runs: lastBatches(mine) };
  });
  const stepIds = new Set(told.flatMap(({ runs }) => runs.map((r) => r.stepId)));
  const graph = await loadLineage(db, [], 'back', [...stepIds]);
  return told.map(({ mine, runs }) => {
    return {
      machine: mine[0]?.machine ?? '',
      cleanedAt: mine[0]?.cleanedAt ?? null,
      cleanedBy: mine[0]?.cleanedBy ?? null,
      runs: runs.map(({ stepId, batchCode, at }) => ({
        batchCode,
        at,
        allergens: allergensIn(graph, stepId),
      })),
    };
  });
}
