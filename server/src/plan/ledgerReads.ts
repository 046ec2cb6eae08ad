import { sql } from 'drizzle-orm';
import type { PlanRoomView } from '@wunsch/contract';
import { WORK_KINDS, type Material, type Station, type WorkKind } from '@wunsch/core/ledger';
import type { PastTime } from '@wunsch/core/plan';
import type { Db } from '../db/database.ts';
import { instantOf, rowsOf, uuids } from '../db/raw.ts';
import { deliveredLeft, MADE_NOW, shelfLeft } from '../stations/recipe/index.ts';
import { lotLeft } from '../views/lotShelf.ts';
import { loadRanHours } from '../views/ran.ts';

/** Finished steps from which times are learned, and lots and recipes that are offered. */
const LEARNED_FROM = 600;
const OFFERED = 200;

/** Wrappings of a recipe from which is known what its bars are wrapped in. */
const WRAPPED_LATELY = 5;

/** Kinds of steps that are work of the line. */
const WORK = sql.join(
  WORK_KINDS.map((k) => sql`${k}`),
  sql`, `,
);

type Rows<T> = { rows: T[] };

/** Work that has ended. */
interface PastStep extends Omit<PastTime, 'minutes'> {
  id: string;
  startedAt: string;
  endedAt: string;
  handsOnMinutes: number | null;
}

/** Work under way. */
export interface OpenStep {
  id: string;
  station: Station;
  kind: WorkKind;
  machineId: string | null;
  startedAt: string;
}

type RanBefore = NonNullable<PlanRoomView['machines'][number]['ranLast']>;

/** What ran last on each machine of the stones and bowls, with what clings of it; nothing where it was cleaned since, or is running. */
export async function loadRan(db: Db): Promise<Map<string, RanBefore>> {
  const result = await db.execute(sql`
    select m.id, x.allergens, x.strong from machine m
    join lateral (
      select s.started_at, r.lines from step s join batch b on b.id = s.batch_id join recipe r on r.id = b.recipe_id
      where s.machine_id = m.id and s.kind in ('grind', 'conche', 'temper') and s.status = 'closed' and not s.voided
      order by s.started_at desc limit 1
    ) l on true
    cross join lateral (
      select coalesce(json_agg(distinct a.a) filter (where a.a is not null), '[]') as allergens,
        coalesce(json_agg(distinct i.name) filter (where i.strong), '[]') as strong
      from jsonb_array_elements(l.lines) e
      join (select i.*, ${shelfLeft('i')} as on_shelf, ${deliveredLeft('i')} as delivered from ingredient i) i
        on i.id = (e->>'ingredientId')::uuid
      left join lateral jsonb_array_elements_text(i.allergens) a(a) on true
    ) x
    where m.active and not exists (
      select 1 from machine_event c where c.machine_id = m.id and c.kind in ('cleaned', 'rebuilt') and not c.voided and c.at >= l.started_at)`);
  return new Map((result as unknown as Rows<RanBefore & { id: string }>).rows.map(({ id, ...r }) => [id, r]));
}

/** The steps that run of each open batch, the last begun first. */
export async function loadOpenSteps(db: Db): Promise<Map<string, OpenStep[]>> {
  const result = await db.execute(sql`
    select s.batch_id as "batchId", s.id, s.station, s.kind, s.machine_id as "machineId",
      to_char(s.started_at at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.MS"Z"') as "startedAt"
    from step s join batch b on b.id = s.batch_id
    where b.state = 'open' and s.status = 'open' and not s.voided and s.kind in (${WORK})
    order by s.started_at desc, s.id desc`);
  const rows = (result as unknown as Rows<OpenStep & { batchId: string }>).rows;
  const ofBatches = new Map<string, OpenStep[]>();
  for (const { batchId, ...open } of rows) ofBatches.set(batchId, [...(ofBatches.get(batchId) ?? []), open]);
  return ofBatches;
}

/** Lots with what is left of them, and the number of their next batch. */
export async function loadLots(db: Db) {
  const result = await db.execute(sql`
    select l.id, l.code, l.name, ${lotLeft(sql.raw('l.id'), sql.raw('l.parcel_id'))} as "onHandMg", l.on_hold as "onHold", p.material,
      coalesce((select max(substring(b.code from '(\\d+)$')::int) from batch b
        where b.lot_id = l.id and b.code ~ '\\d{1,6}$'), 0) + 1 as "nextNumber"
    from lot l join parcel p on p.id = l.parcel_id
    where not l.voided order by l.received_on desc, l.id desc limit ${OFFERED}`);
  return (result as unknown as Rows<Omit<PlanRoomView['lots'][number], 'yields' | 'yieldSds'>>).rows.map(
    (r) => ({
      ...r,
      nextNumber: Number(r.nextNumber),
    }),
  );
}

/**
 * Recipes made now, and those asked for by id, with what they hold and what of it is there, and the lot and bar of the newest batch of any of
 * their versions.
 */
export async function loadRecipes(db: Db, besides: readonly string[]) {
  const result = await db.execute(sql`
    with made as ${MADE_NOW}, counted as (
      select i.id, i.name, i.cacao, i.strong, case when i.on_shelf is not null or i.delivered is not null
        then coalesce(i.on_shelf, 0)::float8 + coalesce(i.delivered, 0)::float8 end as on_hand
      from (select i.id, i.name, i.cacao, i.strong, ${shelfLeft('i')} as on_shelf, ${deliveredLeft('i')} as delivered from ingredient i) i
    )
    select r.id, r.name, r.current, r.beans_share / 100 as "beansShare", r.tempered, r.conched, b.lot_id as "lotId",
      b.bar_mg::float8 as "barMg", coalesce(p.material, 'dry beans') as material, x.lines, y.allergens, x.strong, w.packaging
    from recipe r
    join made v on v.id = r.id
    left join lateral (
      select bb.lot_id, bb.bar_mg from batch bb join made vv on vv.id = bb.recipe_id
      where vv.now = v.now and bb.state <> 'void' order by bb.started_at desc limit 1
    ) b on true
    left join lot l on l.id = b.lot_id
    left join parcel p on p.id = l.parcel_id
    cross join lateral (
      select coalesce(json_agg(json_build_object('ingredientId', i.id, 'name', i.name,
          'share', (e.line->>'massMg')::float8 / nullif(t.sum, 0), 'isBean', i.cacao = 'bean', 'onHandMg', i.on_hand) order by e.place), '[]') as lines,
        coalesce(json_agg(distinct i.name) filter (where i.strong), '[]') as strong
      from jsonb_array_elements(r.lines) with ordinality e(line, place)
      cross join lateral (select sum((y->>'massMg')::float8) as sum from jsonb_array_elements(r.lines) y) t
      join counted i on i.id = (e.line->>'ingredientId')::uuid
    ) x
    cross join lateral (
      select coalesce(json_agg(distinct a.a), '[]') as allergens
      from jsonb_array_elements(r.lines) e
      join ingredient i on i.id = (e->>'ingredientId')::uuid
      cross join lateral jsonb_array_elements_text(i.allergens) a(a)
    ) y
    cross join lateral (
      select coalesce(json_agg(json_build_object('name', k.label, 'perBar', k.pieces / nullif(k.bars, 0), 'onHand', k.left)
        order by k.label) filter (where k.bars > 0), '[]') as packaging
      from (
        select q.label, sum(m.count)::float8 as pieces, sum(t.bars)::float8 as bars,
          (select coalesce(sum(h.count), 0)::float8 from parcel h where h.material = 'packaging' and h.label = q.label and not h.on_hold) as left
        from (
          select s.id, (select sum(o.count) from movement o join parcel op on op.id = o.parcel_id
              where o.step_id = s.id and o.direction = 'out' and op.material = 'bars' and o.replaced_by is null and not o.voided) as bars
          from step s join batch wb on wb.id = s.batch_id join made wr on wr.id = wb.recipe_id
          where s.kind = 'wrap' and not s.voided and wr.now = v.now
          order by s.started_at desc limit ${WRAPPED_LATELY}
        ) t
        join movement m on m.step_id = t.id and m.direction = 'in' and m.replaced_by is null and not m.voided
        join parcel q on q.id = m.parcel_id and q.material = 'packaging'
        group by q.label
      ) k
    ) w
    where r.current or r.id = any(${uuids(besides)})
    order by not r.current, b.lot_id is null, r.created_at desc limit ${OFFERED}`);
  return (
    result as unknown as Rows<{
      id: string;
      name: string;
      current: boolean;
      beansShare: number;
      tempered: boolean | null;
      conched: boolean | null;
      lotId: string | null;
      barMg: number | null;
      material: Material;
      lines: PlanRoomView['recipes'][number]['lines'];
      allergens: string[];
      strong: string[];
      packaging: PlanRoomView['recipes'][number]['packaging'];
    }>
  ).rows.map((r) => ({
    ...r,
    lines: r.lines.map((l) => ({ ...l, share: l.share ?? 0 })),
  }));
}

/** What finished batches took at each station. */
export async function loadPast(db: Db): Promise<PastTime[]> {
  const rows = rowsOf<PastStep>(
    await db.execute(sql`
      select s.id, s.kind, s.machine_id as "machineId", s.hands_on_minutes as "handsOnMinutes",
        ${instantOf('s.started_at')} as "startedAt", ${instantOf('s.ended_at')} as "endedAt", m.kg from (
        select * from step where status = 'closed' and not voided and ended_at is not null and kind in (${WORK})
        order by ended_at desc, id desc limit ${LEARNED_FROM}
      ) s
      cross join lateral (
        select sum(mass_mg)::float8 / 1e6 as kg from movement
        where step_id = s.id and direction = 'in' and replaced_by is null and not voided
      ) m
      where m.kg > 0`),
  );
  const ran = await loadRanHours(db, rows);
  return rows.map(({ id, kind, machineId, kg }) => ({ kind, machineId, kg, minutes: ran.get(id)! * 60 }));
}
