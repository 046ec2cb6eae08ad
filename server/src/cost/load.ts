import { sql } from 'drizzle-orm';
import type { BatchCost } from '@wunsch/contract';
import {
  addCosts,
  costFlow,
  noCosts,
  unpricedBehind,
  writeOffPerKg,
  type CostRates,
  type StepWork,
} from '@wunsch/core/cost';
import { grindingHours } from '@wunsch/core/grind';
import { isWork, type StepKind } from '@wunsch/core/ledger';
import { goneAs } from '@wunsch/core/trace';
import type { Db } from '../db/database.ts';
import { rowsOf, uuids, instantOf } from '../db/raw.ts';
import { pausesOf, type GrindNote } from '../stations/grind/index.ts';
import { loadLineage } from '../views/lineage.ts';
import { readSettings } from '../views/stored.ts';

interface BatchRow {
  id: string;
  code: string;
  lotCode: string;
  recipeName: string | null;
  startedAt: string;
  barMg: string | number | null;
}

interface BarRow {
  batchId: string;
  parcelId: string;
  kind: StepKind | 'here';
  direction: 'in' | 'out' | 'here';
  channel: BatchCost['channels'][number]['channel'] | null;
  destination: string | null;
  price: number | null;
  fetched: number | null;
  stepCount: string | number | null;
  massMg: string | number;
  count: string | number | null;
}

/** Bars’ steps through which they only pass. */
const PASSED: ReadonlySet<string> = new Set(['wrap', 'part']);

/** What the bars of the newest batches cost and fetched; of one batch where it is named, of those begun in a stretch of time where that is. */
export async function loadCosts(
  db: Db,
  {
    batchId,
    limit = 80,
    startedFrom,
    startedBefore,
  }: { batchId?: string; limit?: number; startedFrom?: string; startedBefore?: string } = {},
): Promise<BatchCost[]> {
  const [shop] = rowsOf<{ settings: unknown }>(await db.execute(sql`select settings from workshop`));
  const settings = readSettings(shop?.settings);
  const rates: CostRates = {
    labourRate: settings.labourRate,
    energyPrice: settings.energyPrice,
    overheadPerKg: settings.overheadPerKg,
    joint: settings.joint,
    valuePerKg: settings.jointValues,
  };
  const batches = rowsOf<BatchRow>(
    await db.execute(sql`
      select b.id, b.code, l.code as "lotCode", r.name as "recipeName", ${instantOf('b.started_at')} as "startedAt", b.bar_mg as "barMg"
      from batch b join lot l on l.id = b.lot_id left join recipe r on r.id = b.recipe_id
      where b.state in ('open', 'finished') ${batchId ? sql`and b.id = ${batchId}::uuid` : sql``}
        ${startedFrom ? sql`and b.started_at >= ${startedFrom}` : sql``} ${startedBefore ? sql`and b.started_at < ${startedBefore}` : sql``}
        and exists (select 1 from parcel p where p.batch_id = b.id and p.material = 'bars')
      order by b.started_at desc, b.id limit ${limit}`),
  );
  if (batches.length === 0) return [];
  const bars = await loadBars(
    db,
    batches.map((b) => b.id),
  );
  const graph = await loadLineage(db, [...new Set(bars.map((b) => b.parcelId))], 'back');
  const { unit } = costFlow(graph, await loadWorks(db, [...graph.lines.keys()]), rates);
  const unpriced = unpricedBehind(graph);
  const shelf = rowsOf<{ id: string; name: string }>(await db.execute(sql`select id, name from ingredient`));
  const names = new Map([
    ...shelf.map((i) => [`ingredient ${i.id}`, i.name] as const),
    ...[...graph.parcels.values()].map((p) => [`lot ${p.lotId}`, p.lotName ?? ''] as const),
  ]);
  return batches.map((b): BatchCost => {
    const mine = bars.filter((x) => x.batchId === b.id);
    const sum = noCosts();
    const channels = new Map<string, BatchCost['channels'][number]>();
    let [count, massMg, unpaid, onHand] = [0, 0, 0, 0];
    for (const x of mine) {
      const n = Number(x.count ?? 0);
      if (x.direction === 'here') onHand += n;
      const isEnd = x.direction === 'here' || (x.direction === 'in' && !PASSED.has(x.kind));
      // What came back stands on hand again; what was found had been counted as missing.
      const isBack = x.direction === 'out' && (x.kind === 'leave' || x.kind === 'count');
      if (!isEnd && !isBack) continue;
      const sign = isBack ? -1 : 1;
      count += sign * n;
      massMg += sign * Number(x.massMg);
      const costs = unit.get(x.parcelId);
      if (costs) addCosts(sum, costs, sign * Number(x.massMg));
      if (x.kind !== 'leave') {
        if (x.direction !== 'here') unpaid += sign * n;
        continue;
      }
      const went = goneAs(x.destination ?? '', x.channel);
      if (went === 'given' || went === 'broken') {
        unpaid += sign * n;
        continue;
      }
      const channel = x.channel ?? 'counter';
      const of = channels.get(channel) ?? { channel, bars: 0, fetched: 0 };
      channels.set(channel, of);
      of.bars += sign * n;
      of.fetched +=
        sign *
        (x.price !== null ? x.price * n : ((x.fetched ?? 0) * n) / Math.max(1, Number(x.stepCount ?? n)));
    }
    const bar = noCosts();
    if (count > 0) addCosts(bar, sum, 1 / count);
    // Bars that no wrapping was noted for are reckoned at the workshop’s usual.
    if (bar.packaging === 0) bar.packaging = settings.packagingPerBar;
    return {
      batchId: b.id,
      code: b.code,
      lotCode: b.lotCode,
      recipeName: b.recipeName,
      startedAt: b.startedAt,
      barMg: count > 0 ? massMg / count : Number(b.barMg ?? settings.barMg),
      bars: count,
      bar,
      unpriced: unpriced([...new Set(mine.map((x) => x.parcelId))]).flatMap(
        ({ what, id }) => names.get(`${what} ${id}`) || [],
      ),
      channels: [...channels.values()].filter((c) => c.bars > 0).sort((a, z) => z.fetched - a.fetched),
      unpaid: Math.max(0, unpaid),
      onHand,
    };
  });
}

/** Where bars of some batches are and went: on hand, into steps, and back out of deliveries and counts. */
async function loadBars(db: Db, batchIds: readonly string[]): Promise<BarRow[]> {
  return rowsOf<BarRow>(
    await db.execute(sql`
      select p.batch_id as "batchId", p.id as "parcelId", 'here' as kind, 'here' as direction, null as channel, null as destination,
        null::float8 as price, null::float8 as fetched, null as "stepCount", p.remaining_mg as "massMg", p.count
      from parcel p where p.batch_id = any(${uuids(batchIds)}) and p.material = 'bars' and p.remaining_mg > 0
      union all
      select p.batch_id, p.id, s.kind, m.direction, c.channel, s.details ->> 'destination', x.price,
        (s.details ->> 'fetched')::float8, t.n, m.mass_mg, m.count
      from parcel p join movement m on m.parcel_id = p.id and m.replaced_by is null and not m.voided
      join step s on s.id = m.step_id
      left join delivery_line x on x.step_id = s.id
      left join delivery d on d.id = x.delivery_id
      left join customer c on c.id = d.customer_id
      left join lateral (select sum(count) as n from movement where step_id = s.id and direction = 'in' and replaced_by is null
        and not voided) t on s.kind = 'leave'
      where p.batch_id = any(${uuids(batchIds)}) and p.material = 'bars'
        and (m.direction = 'in' or (m.direction = 'out' and s.kind in ('leave', 'count')))`),
  );
}

interface WorkRow {
  id: string;
  kind: StepKind;
  minutes: number | null;
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

/** Hours a machine ran for a step; while it stood it drew nothing. */
const hoursOf = ({ startedAt, endedAt }: WorkRow, notes: readonly GrindNote[] = []): number =>
  endedAt === null ? 0 : grindingHours(Date.parse(startedAt), Date.parse(endedAt), pausesOf(notes));

/** When machines were stopped and started again in the midst of steps. */
async function loadPauses(db: Db, stepIds: readonly string[]): Promise<Map<string, GrindNote[]>> {
  if (stepIds.length === 0) return new Map();
  const rows = rowsOf<{ stepId: string } & GrindNote>(
    await db.execute(sql`
      select step_id as "stepId", ${instantOf('at')} as at, data from observation
      where step_id = any(${uuids(stepIds)}) and kind in ('pause', 'resume') and replaced_by is null and not voided
      order by at, seq`),
  );
  const notes = new Map<string, GrindNote[]>();
  for (const { stepId, ...note } of rows) notes.set(stepId, [...(notes.get(stepId) ?? []), note]);
  return notes;
}

/** What some steps cost themselves: work, machine, and what their by-products fetched. */
async function loadWorks(db: Db, stepIds: readonly string[]): Promise<Map<string, StepWork>> {
  const rows = rowsOf<WorkRow>(
    await db.execute(sql`
      select s.id, s.kind, s.hands_on_minutes as minutes,
        ${instantOf('s.started_at')} as "startedAt", ${instantOf('s.ended_at')} as "endedAt",
        a.watts, a.price, a.resale, a.life_kg as "lifeKg", f.fetched
      from step s left join machine a on a.id = s.machine_id
      left join lateral (
        -- By parcel, not by line: what was weighed out in several goes fetched its price once.
        select sum((z.details ->> 'fetched')::float8) as fetched
        from parcel p join movement i on i.parcel_id = p.id and i.direction = 'in' and i.replaced_by is null and not i.voided
        join step z on z.id = i.step_id and z.kind = 'leave'
        where p.step_id = s.id and p.material in ('husk', 'rejects', 'fines')
      ) f on true
      where s.id = any(${uuids(stepIds)})`),
  );
  const drawing = rows.flatMap((r) => (r.watts !== null && runsOn(r.kind) ? [r.id] : []));
  const notes = await loadPauses(db, drawing);
  return new Map(
    rows.map((r) => [
      r.id,
      {
        kind: r.kind,
        minutes: r.minutes ?? 0,
        machineHours: runsOn(r.kind) ? hoursOf(r, notes.get(r.id)) : 0,
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
