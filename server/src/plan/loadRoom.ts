import { asc, desc, eq, sql } from 'drizzle-orm';
import { KeptPlan, StoredOrder, WorkHoursPut, type Order, type PlanRoomView } from '@wunsch/contract';
import { STATIONS, type Material, type Station } from '@wunsch/core/ledger';
import { allowedBySignOff, learnTimes, USUAL_WEEK, type PastTime } from '@wunsch/core/plan';
import { plannedClasses } from '../classes/planned.ts';
import type { Db } from '../db/database.ts';
import {
  absence,
  customer,
  customerOrder,
  keptPlan,
  machine,
  mouldForm,
  person,
  recipe,
  signOff,
  stockAim,
  workHours,
  workshop,
} from '../db/schema/index.ts';
import type { Store } from '../store/store.ts';
import { deliveredBars, stillWanted } from '../stock/deliveries.ts';
import { benchView } from '../views/benchView.ts';
import { readSettings } from '../views/stored.ts';
import { expectedYields } from '../views/yields.ts';
import { holidaysFrom } from './holidays.ts';

/** Finished steps from which times are learned, and lots and recipes that are offered. */
const LEARNED_FROM = 600;
const OFFERED = 200;

/** Weight of a day late of a class: its guests come on the day. */
const CLASS_WEIGHT = 5;

type Rows<T> = { rows: T[] };

/** The zone this server’s clock is in; UTC where it cannot be told. */
const ownZone = () => Intl.DateTimeFormat().resolvedOptions().timeZone || 'UTC';

/** Everything a plan is made from: what is promised, what the workshop can do, where everything stands, and the plan in force. */
export async function loadPlanRoom(
  store: Pick<Store, 'db' | 'yields' | 'runs'>,
  now: number,
): Promise<PlanRoomView> {
  const { db } = store;
  const [shop] = await db.select({ settings: workshop.settings }).from(workshop);
  const settings = readSettings(shop?.settings);
  const hours = await loadHours(db);
  const bench = await benchView(store, now);
  const openSteps = await loadOpenSteps(db);
  const customers = await db
    .select()
    .from(customer)
    .where(eq(customer.voided, false))
    .orderBy(asc(customer.name), asc(customer.id));
  const allOrders = await loadOrders(db);
  const delivered = await deliveredBars(db);
  const recipeNames = new Map(
    (await db.select({ id: recipe.id, name: recipe.name }).from(recipe)).map((r) => [r.id, r.name]),
  );
  const names = new Map(customers.map((c) => [c.id, c.name]));
  const lots = await loadLots(db);
  const past = await store.yields.load(lots.map((l) => l.id));
  const year = new Date(now).getUTCFullYear();
  const workers = (await db.select().from(person).orderBy(asc(person.name))).filter(
    (p) => p.active && (p.role === 'owner' || p.role === 'maker'),
  );
  const signed = await loadSigned(db);
  const recipes = (await loadRecipes(db)).map(({ tempered, conched, barMg, ...r }) => ({
    ...r,
    barMg: barMg ?? settings.barMg,
    tempered: tempered ?? settings.route.tempered,
    conched: conched ?? settings.route.conched,
  }));
  const classes = await plannedClasses(db, now, (id) => recipes.find((r) => r.id === id)?.barMg ?? null);
  const free = workers.filter((p) => p.role === 'owner').map((p) => p.id);
  const people = workers.map(({ id, name, initials }) => {
    const own = hours.people.find((p) => p.personId === id);
    return { id, name, initials, stations: own?.stations ?? null, week: own?.week ?? null };
  });
  const allowed = settings.signedOnly
    ? allowedBySignOff(people, signed, new Set(free))
    : { people, open: [] };
  return {
    now: new Date(now).toISOString(),
    timeZone: hours.timeZone,
    week: hours.week,
    loudHours: hours.loudHours,
    holidays: holidaysFrom(hours.country, hours.region, year, year + 1),
    people: allowed.people,
    openStations: allowed.open,
    signed,
    free,
    machines: (await db.select().from(machine).orderBy(asc(machine.name)))
      .filter((m) => m.active)
      .map(({ id, name, station, kind, minMg, maxMg, loud, places }) => ({
        id,
        name,
        station,
        kind,
        minMg,
        maxMg,
        loud,
        places,
      })),
    moulds: (await db.select().from(mouldForm).orderBy(asc(mouldForm.name)))
      .filter((m) => m.active && m.makes === 'bars')
      .map(({ id, name, fillMg, cavities, count }) => ({ id, name, barMg: fillMg, cavities, count })),
    absences: (await db.select().from(absence).where(eq(absence.isOff, false)).orderBy(asc(absence.from)))
      .filter((a) => Date.parse(a.to) > now)
      .map(({ isOff: _, ...a }) => a),
    orders: [
      ...allOrders
        .filter((o) => o.state === 'open')
        .flatMap((o) =>
          stillWanted(o.lines, delivered.get(o.id), (id) => recipeNames.get(id) ?? '').map((l) => ({
            id: l.id,
            orderId: o.id,
            customer: o.title || names.get(o.customerId ?? '') || '',
            due: o.due,
            weight: o.weight,
            recipeId: l.recipeId,
            lotId: l.lotId,
            bars: l.bars,
            kind: o.kind,
          })),
        ),
      ...classes.map(({ id, title, startsAt, recipeId, bars }) => ({
        id: `class:${id}`,
        orderId: id,
        customer: title,
        due: startsAt,
        weight: CLASS_WEIGHT,
        recipeId,
        lotId: null,
        bars,
        kind: 'class' as const,
      })),
    ],
    aims: (await db.select().from(stockAim)).filter((a) => a.aim > 0),
    recipes,
    lots: lots.map((l) => {
      const expected = expectedYields(past, l.id, '');
      const yields: Partial<Record<Station, number>> = {};
      for (const station of STATIONS) if (expected[station]) yields[station] = expected[station].mean;
      return { ...l, yields };
    }),
    batches: bench.batches
      .filter((b) => b.next.code !== 'nothing')
      .map((b) => {
        const run = openSteps.get(b.id);
        const expected = b.flow.barsExpected;
        const bars = expected
          ? Math.floor((expected.low + expected.high) / 2)
          : Math.floor((b.flow.nowMg * 0.95) / b.barMg);
        const running = bench.running.find((r) => r.batchId === b.id && r.station === run?.station);
        return {
          id: b.id,
          code: b.code,
          lotId: b.lotId,
          recipeId: b.recipeId,
          barMg: b.barMg,
          route: b.route,
          massMg: b.flow.nowMg,
          here: b.next.station === 'beans' ? ('sort' as const) : b.next.station,
          running: run
            ? {
                station: run.station,
                machineId: run.machineId,
                startedAt: run.startedAt,
                endsAt: running?.endsAt?.at ?? null,
              }
            : null,
          // What is counted already lies in stock.
          bars: Math.max(0, bars - b.flow.bars),
          startedAt: b.startedAt,
        };
      }),
    stock: await loadStock(db),
    learned: learnTimes(await loadPast(db)),
    restHours: settings.roast.restHours,
    restDays: hours.restDays,
    customers,
    classes,
    allOrders,
    hours: { country: hours.country, region: hours.region, version: hours.version },
    kept: await loadKept(db),
  };
}

/** Who is signed off where. */
async function loadSigned(db: Db) {
  const rows = await db.select().from(signOff).where(eq(signOff.voided, false)).orderBy(signOff.at);
  return rows.flatMap(({ personId, station }) =>
    STATIONS.includes(station as Station) ? [{ personId, station: station as Station }] : [],
  );
}

/** When the workshop works; the usual week where nobody has said, or what stands there cannot be understood. */
export async function loadHours(db: Db) {
  const [row] = await db.select().from(workHours);
  const read = WorkHoursPut.safeParse(row?.facts);
  const facts = read.success
    ? read.data
    : WorkHoursPut.parse({ timeZone: ownZone(), week: USUAL_WEEK.map((day) => day.map(([a, b]) => [a, b])) });
  return { ...facts, version: row?.version ?? 0 };
}

/** The plan in force; null where there is none, or it cannot be understood. */
export async function loadKept(db: Db): Promise<KeptPlan | null> {
  const [row] = await db
    .select()
    .from(keptPlan)
    .where(eq(keptPlan.voided, false))
    .orderBy(desc(keptPlan.at), desc(keptPlan.id))
    .limit(1);
  if (!row) return null;
  const read = KeptPlan.safeParse({ ...(row.facts as object), id: row.id, at: row.at, by: row.by });
  return read.success ? read.data : null;
}

/** Orders that can be understood, by their due day. */
export async function loadOrders(db: Db): Promise<Order[]> {
  const rows = await db.select().from(customerOrder).orderBy(asc(customerOrder.createdAt));
  return rows
    .flatMap(({ facts, id, version, createdAt }) => {
      const read = StoredOrder.safeParse(facts);
      return read.success ? [{ ...read.data, id, version, createdAt }] : [];
    })
    .sort((a, b) => a.due.localeCompare(b.due));
}

/** The step that runs of each open batch. */
async function loadOpenSteps(
  db: Db,
): Promise<Map<string, { station: Station; machineId: string | null; startedAt: string }>> {
  const result = await db.execute(sql`
    select distinct on (s.batch_id) s.batch_id as "batchId", s.station, s.machine_id as "machineId",
      to_char(s.started_at at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.MS"Z"') as "startedAt"
    from step s join batch b on b.id = s.batch_id
    where b.state = 'open' and s.status = 'open' and not s.voided
    order by s.batch_id, s.started_at desc`);
  const rows = (
    result as unknown as Rows<{
      batchId: string;
      station: Station;
      machineId: string | null;
      startedAt: string;
    }>
  ).rows;
  return new Map(rows.map(({ batchId, ...r }) => [batchId, r]));
}

/** Lots with what is left of them, and the number of their next batch. */
async function loadLots(db: Db) {
  const result = await db.execute(sql`
    select l.id, l.code, l.name, p.remaining_mg::float8 as "onHandMg", l.on_hold as "onHold", p.material,
      coalesce((select max(substring(b.code from '(\\d+)$')::int) from batch b
        where b.lot_id = l.id and b.code ~ '\\d{1,6}$'), 0) + 1 as "nextNumber"
    from lot l join parcel p on p.id = l.parcel_id
    where not l.voided order by l.received_on desc limit ${OFFERED}`);
  return (
    result as unknown as Rows<{
      id: string;
      code: string;
      name: string;
      onHandMg: number;
      onHold: boolean;
      material: Material;
      nextNumber: number;
    }>
  ).rows.map((r) => ({ ...r, nextNumber: Number(r.nextNumber) }));
}

/** Recipes in use, with what they hold and what of it is there, and the lot and bar of their newest batch. */
async function loadRecipes(db: Db) {
  const result = await db.execute(sql`
    select r.id, r.name, r.beans_share / 100 as "beansShare", r.tempered, r.conched, b.lot_id as "lotId",
      b.bar_mg::float8 as "barMg", coalesce(p.material, 'dry beans') as material, x.lines, x.allergens
    from recipe r
    left join lateral (
      select bb.lot_id, bb.bar_mg from batch bb join recipe rr on rr.id = bb.recipe_id
      where rr.name = r.name and bb.state <> 'void' order by bb.started_at desc limit 1
    ) b on true
    left join lot l on l.id = b.lot_id
    left join parcel p on p.id = l.parcel_id
    cross join lateral (
      select coalesce(json_agg(json_build_object('ingredientId', i.id, 'name', i.name,
          'share', (e->>'massMg')::float8 / nullif(t.sum, 0), 'isBean', i.cacao = 'bean',
          'onHandMg', coalesce(i.stock_mg, 0) + coalesce(s.mg, 0))), '[]') as lines,
        coalesce(json_agg(distinct a.a) filter (where a.a is not null), '[]') as allergens
      from jsonb_array_elements(r.lines) e
      cross join lateral (select sum((y->>'massMg')::float8) as sum from jsonb_array_elements(r.lines) y) t
      join ingredient i on i.id = (e->>'ingredientId')::uuid
      left join lateral (select sum(q.remaining_mg)::float8 as mg from supply u join parcel q on q.id = u.parcel_id
        where u.ingredient_id = i.id) s on true
      left join lateral jsonb_array_elements_text(i.allergens) a(a) on true
    ) x
    where r.current order by b.lot_id is null, r.created_at desc limit ${OFFERED}`);
  return (
    result as unknown as Rows<{
      id: string;
      name: string;
      beansShare: number;
      tempered: boolean | null;
      conched: boolean | null;
      lotId: string | null;
      barMg: number | null;
      material: Material;
      lines: PlanRoomView['recipes'][number]['lines'];
      allergens: string[];
    }>
  ).rows.map((r) => ({
    ...r,
    // An ingredient with several allergens has come several times.
    lines: [...new Map(r.lines.map((l) => [l.ingredientId, { ...l, share: l.share ?? 0 }])).values()],
  }));
}

/** Bars on hand, by recipe and lot. */
async function loadStock(db: Db): Promise<PlanRoomView['stock']> {
  const result = await db.execute(sql`
    select cur.id as "recipeId", b.lot_id as "lotId", sum(p.count)::int as bars
    from parcel p join batch b on b.id = p.batch_id
    left join recipe r on r.id = b.recipe_id
    left join recipe cur on cur.name = r.name and cur.current
    where p.material = 'bars' and p.remaining_mg > 0 and p.count > 0 and not p.on_hold
    group by cur.id, b.lot_id`);
  return (result as unknown as Rows<PlanRoomView['stock'][number]>).rows;
}

/** What finished batches took at each station. */
async function loadPast(db: Db): Promise<PastTime[]> {
  const result = await db.execute(sql`
    select s.station, s.machine_id as "machineId", s.minutes, m.kg from (
      select id, station, machine_id, extract(epoch from (ended_at - started_at))::float8 / 60 as minutes
      from step where status = 'closed' and not voided and ended_at is not null
        and kind in ('sort', 'roast', 'winnow', 'recipe', 'grind', 'temper', 'mould')
      order by ended_at desc limit ${LEARNED_FROM}
    ) s
    cross join lateral (
      select sum(mass_mg)::float8 / 1e6 as kg from movement
      where step_id = s.id and direction = 'in' and replaced_by is null and not voided
    ) m
    where m.kg > 0`);
  return (result as unknown as Rows<PastTime>).rows;
}
