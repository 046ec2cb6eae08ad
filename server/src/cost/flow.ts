import { sql } from 'drizzle-orm';
import { costFlow, unpricedBehind, writeOffPerKg, type CostFlow, type StepWork } from '@wunsch/core/cost';
import { isWork, type LineageGraph, type StepKind } from '@wunsch/core/ledger';
import type { Db } from '../db/database.ts';
import { instantOf, rowsOf, uuids } from '../db/raw.ts';
import type { WorkshopSettings } from '../views/settings.ts';
import { loadRanHours } from '../views/ran.ts';

/** What everything of a lineage has cost, with the workshop’s rates as they stand. */
export async function loadFlow(db: Db, graph: LineageGraph, settings: WorkshopSettings): Promise<CostFlow> {
  return costFlow(graph, await loadWorks(db, [...graph.lines.keys()]), {
    labourRate: settings.labourRate,
    energyPrice: settings.energyPrice,
    overheadPerKg: settings.overheadPerKg,
    joint: settings.joint,
    // Pods that have been opened are worth what the beans in them are.
    valuePerKg: { ...settings.jointValues, pods: settings.jointValues['wet beans'] ?? 0 },
  });
}

/** Names of what went into some parcels of a lineage without a price. */
export async function unpricedNames(
  db: Db,
  graph: LineageGraph,
): Promise<(parcelIds: readonly string[]) => string[]> {
  const unpriced = unpricedBehind(graph);
  const shelf = rowsOf<{ id: string; name: string }>(await db.execute(sql`select id, name from ingredient`));
  const names = new Map([
    ...shelf.map((i) => [`ingredient ${i.id}`, i.name] as const),
    ...[...graph.parcels.values()].map((p) => [`lot ${p.lotId}`, p.lotName ?? ''] as const),
  ]);
  return (parcelIds) => unpriced(parcelIds).flatMap(({ what, id }) => names.get(`${what} ${id}`) || []);
}

interface WorkRow {
  id: string;
  kind: StepKind;
  handsOnMinutes: number | null;
  startedAt: string;
  endedAt: string | null;
  watts: number | null;
  price: number | null;
  resale: number | null;
  lifeKg: number | null;
  fetched: number | null;
}

/** Whether a machine draws its power for a step of this kind all the while it lasts. */
const runsOn = (kind: StepKind): boolean => isWork(kind) || kind === 'press';

/** What some steps cost themselves: work, machine, and what their by-products fetched. */
export async function loadWorks(db: Db, stepIds: readonly string[]): Promise<Map<string, StepWork>> {
  const rows = rowsOf<WorkRow>(
    await db.execute(sql`
      select s.id, s.kind, s.hands_on_minutes as "handsOnMinutes",
        ${instantOf('s.started_at')} as "startedAt", ${instantOf('s.ended_at')} as "endedAt",
        a.watts, a.price, a.resale, a.life_kg as "lifeKg", f.fetched
      from step s left join machine a on a.id = s.machine_id
      left join (
        -- By parcel, not by line: what was weighed out in several goes fetched its price once.
        select p.step_id, sum((z.details ->> 'fetched')::float8) as fetched
        from parcel p join movement i on i.parcel_id = p.id and i.direction = 'in' and i.replaced_by is null and not i.voided
        join step z on z.id = i.step_id and z.kind = 'leave' and z.details ? 'fetched'
        where p.step_id = any(${uuids(stepIds)}) and p.material in ('husk', 'rejects', 'fines')
        group by p.step_id
      ) f on f.step_id = s.id
      where s.id = any(${uuids(stepIds)})`),
  );
  const ran = await loadRanHours(
    db,
    rows.filter((r) => r.watts !== null && runsOn(r.kind)),
  );
  return new Map(
    rows.map((r) => [
      r.id,
      {
        kind: r.kind,
        minutes: r.handsOnMinutes ?? 0,
        machineHours: ran.get(r.id) ?? 0,
        watts: r.watts ?? 0,
        writeOffPerKg:
          r.price !== null && r.lifeKg !== null
            ? writeOffPerKg({ price: r.price, resale: r.resale ?? 0, lifeKg: r.lifeKg })
            : 0,
        fetched: r.fetched ?? 0,
      },
    ]),
  );
}
