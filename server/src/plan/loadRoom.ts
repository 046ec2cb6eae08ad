import { asc, desc, eq, isNotNull } from 'drizzle-orm';
import {
  KeptPlan,
  StoredOrder,
  WorkHoursPut,
  type Order,
  type PlanRoomView,
  type RunningItem,
} from '@wunsch/contract';
import { massToCome, STATIONS, type Station, type WorkKind } from '@wunsch/core/ledger';
import { allowedBySignOff, learnTimes, stageAt, USUAL_WEEK } from '@wunsch/core/plan';
import { SKILLS, type Skill } from '@wunsch/core/skills';
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
  reorderPoint,
  signOff,
  stockAim,
  workHours,
} from '../db/schema/index.ts';
import type { Store } from '../store/store.ts';
import { loadMadeNow, type MadeNow } from '../stations/recipe/index.ts';
import { loadBarsOnHand } from '../stock/barsOnHand.ts';
import { deliveredBars, stillWanted } from '../stock/deliveries.ts';
import { stepMeant } from '../views/assemble.ts';
import { benchView } from '../views/benchView.ts';
import { loadSettings } from '../views/settings.ts';
import { expectedYields } from '../views/yields.ts';
import { holidaysFrom } from './holidays.ts';
import { loadLots, loadOpenSteps, loadPast, type OpenStep, loadRan, loadRecipes } from './ledgerReads.ts';
import { loadReadyMade } from './readyMade.ts';

/** Weight of a day late of a class: its guests come on the day. */
const CLASS_WEIGHT = 5;

/** Work that goes on by itself in a machine, of which a batch may have several at once. */
const TURNS: ReadonlySet<WorkKind> = new Set<WorkKind>(['grind', 'conche']);

/** The zone this server’s clock is in; UTC where it cannot be told. */
const ownZone = () => Intl.DateTimeFormat().resolvedOptions().timeZone || 'UTC';

/** Everything a plan is made from: what is promised, what the workshop can do, where everything stands, and the plan in force. */
export async function loadPlanRoom(
  store: Pick<Store, 'db' | 'yields' | 'runs'>,
  now: number,
): Promise<PlanRoomView> {
  const { db } = store;
  const settings = await loadSettings(db);
  const hours = await loadHours(db);
  const bench = await benchView(store, now);
  const openSteps = await loadOpenSteps(db);
  const inUse = new Set([...openSteps.values()].flatMap((steps) => steps.map((s) => s.machineId)));
  const customers = await db
    .select()
    .from(customer)
    .where(eq(customer.voided, false))
    .orderBy(asc(customer.name), asc(customer.id));
  const madeNow = await loadMadeNow(db);
  const allOrders = await loadOrders(db, madeNow);
  const delivered = await deliveredBars(db);
  const names = new Map(customers.map((c) => [c.id, c.name]));
  const lots = await loadLots(db);
  const past = await store.yields.load(lots.map((l) => l.id));
  const year = new Date(now).getUTCFullYear();
  const workers = (await db.select().from(person).orderBy(asc(person.name))).filter(
    (p) => p.active && (p.role === 'owner' || p.role === 'maker'),
  );
  const signed = await loadSigned(db);
  const versions = (
    await loadRecipes(
      db,
      bench.batches.flatMap((b) => b.recipeId ?? []),
    )
  ).map(({ tempered, conched, barMg, ...r }) => ({
    ...r,
    barMg: barMg ?? settings.barMg,
    tempered: tempered ?? settings.route.tempered,
    conched: conched ?? settings.route.conched,
  }));
  const aims = (await db.select().from(stockAim))
    .filter((a) => a.aim > 0)
    .map((a) => ({ ...a, recipeId: madeNow.idOf(a.recipeId) }));
  const ready = await loadReadyMade(
    db,
    new Set([
      ...allOrders.flatMap((o) => (o.state === 'open' ? o.lines.map((l) => l.recipeId) : [])),
      ...aims.map((a) => a.recipeId),
      ...bench.batches.flatMap((b) => (b.recipeId === null ? [b.lotId] : [])),
    ]),
  );
  const recipes = [
    ...versions.flatMap(({ current, ...r }) => (current ? [r] : [])),
    ...ready.map((r) => ({ ...r, ...settings.route, barMg: settings.barMg })),
  ];
  const olderOnes = new Map(versions.flatMap(({ current, ...r }) => (current ? [] : [[r.id, r]])));
  const classes = await plannedClasses(db, now, (id) => recipes.find((r) => r.id === id)?.barMg ?? null);
  const ran = await loadRan(db);
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
    holidays: await holidaysFrom(hours.country, hours.region, year, year + 1),
    people: allowed.people,
    openStations: allowed.open,
    signed,
    free,
    machines: (await db.select().from(machine).orderBy(asc(machine.name)))
      .filter((m) => m.active || inUse.has(m.id))
      .map(({ id, name, station, kind, minMg, maxMg, loud, places, active }) => ({
        id,
        name,
        station,
        kind,
        minMg,
        maxMg,
        loud,
        places,
        ranLast: ran.get(id) ?? null,
        retired: !active,
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
          stillWanted(o.lines, delivered.get(o.id)).map((l) => ({
            id: l.id,
            orderId: o.id,
            customer: o.title || names.get(o.customerId ?? '') || '',
            due: o.due,
            weight: o.weight,
            recipeId: l.recipeId,
            lotId: l.lotId,
            bars: l.bars,
            kind: o.kind,
            ...(o.spare && { spare: true }),
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
    aims,
    recipes,
    lots: lots.map((l) => {
      const expected = expectedYields(past, l.id, '');
      const yields: Partial<Record<Station, number>> = {};
      const yieldSds: Partial<Record<Station, { sd: number; ofMean: number }>> = {};
      for (const station of STATIONS) {
        const of = expected[station];
        if (!of) continue;
        yields[station] = of.mean;
        yieldSds[station] = { sd: of.sd, ofMean: of.ofMean };
      }
      return { ...l, yields, yieldSds };
    }),
    batches: bench.batches
      // Of one that was begun without a word of how much there is nothing to plan yet.
      .filter(
        (b) =>
          b.next.code !== 'nothing' && (b.next.code !== 'start' || b.next.massMg > 0 || openSteps.has(b.id)),
      )
      .map((b) => {
        const steps = openSteps.get(b.id) ?? [];
        const run = stepMeant(steps, b.next);
        const runs = new Map(bench.running.map((r) => [r.stepId, r]));
        const planned = (s: OpenStep) => {
          const on = runs.get(s.id);
          return {
            kind: s.kind,
            machineId: s.machineId,
            startedAt: s.startedAt,
            endsAt: on?.endsAt?.at ?? null,
            endsWithin: withinOf(on?.endsAt ?? null),
            massMg: on?.massMg ?? 0,
          };
        };
        const expected = b.flow.barsExpected;
        const bars = expected
          ? Math.floor((expected.low + expected.high) / 2)
          : Math.floor((b.flow.nowMg * 0.95) / b.barMg);
        return {
          id: b.id,
          code: b.code,
          lotId: b.lotId,
          recipeId: madeNow.ofBatch(b),
          madeBy: olderOnes.get(b.recipeId ?? '') ?? null,
          barMg: b.barMg,
          route: b.route,
          massMg: b.flow.nowMg,
          massAt: massToCome(b.flow),
          stage: stageAt(b.next, run?.kind ?? null),
          running: run && planned(run),
          beside: steps.filter((s) => s !== run && TURNS.has(s.kind)).map(planned),
          // What is counted already lies in stock.
          bars: Math.max(0, bars - b.flow.bars),
          barsWithin: expected && {
            low: Math.max(0, expected.low - b.flow.bars),
            high: Math.max(0, expected.high - b.flow.bars),
          },
          startedAt: b.startedAt,
        };
      }),
    stock: await loadBarsOnHand(db),
    learned: learnTimes(await loadPast(db)),
    restHours: settings.roast.restHours,
    restDays: hours.restDays,
    restKg: hours.restKg,
    deliveryDays: hours.deliveryDays,
    beanDeliveryDays: hours.beanDeliveryDays,
    deliveries: await loadDeliveries(db),
    customers,
    classes,
    allOrders,
    hours: { country: hours.country, region: hours.region, version: hours.version },
    kept: await loadKept(db, madeNow),
  };
}

/** Between which a step is over; of what goes by a plan of its own nobody has reckoned that. */
const withinOf = (ends: RunningItem['endsAt']) =>
  ends && ends.low !== ends.high ? { low: ends.low, high: ends.high } : null;

/** What takes longer to come than the rest, or less long. */
async function loadDeliveries(db: Db): Promise<PlanRoomView['deliveries']> {
  const rows = await db.select().from(reorderPoint).where(isNotNull(reorderPoint.deliveryDays));
  return rows.map(({ kind, key, deliveryDays }) => ({ kind, key, days: deliveryDays! }));
}

/** Who is signed off where. */
async function loadSigned(db: Db) {
  const rows = await db.select().from(signOff).where(eq(signOff.voided, false)).orderBy(signOff.at);
  return rows.flatMap(({ personId, station }) =>
    SKILLS.includes(station as Skill) ? [{ personId, station: station as Skill }] : [],
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

/** The plan in force, its recipes as they are made now; null where there is none, or it cannot be understood. */
export async function loadKept(db: Db, madeNow?: MadeNow): Promise<KeptPlan | null> {
  const [row] = await db
    .select()
    .from(keptPlan)
    .where(eq(keptPlan.voided, false))
    .orderBy(desc(keptPlan.at), desc(keptPlan.id))
    .limit(1);
  if (!row) return null;
  const read = KeptPlan.safeParse({ ...(row.facts as object), id: row.id, at: row.at, by: row.by });
  if (!read.success) return null;
  const now = madeNow ?? (await loadMadeNow(db));
  // A batch to come is called by its recipe, which may have got another version since: what was planned is made by that one.
  const called = (text: string) => text.replace(/^new:([^:]+):/, (_, id: string) => `new:${now.idOf(id)}:`);
  return {
    ...read.data,
    pins: read.data.pins.map((pin) => ({ ...pin, step: called(pin.step) })),
    steps: read.data.steps.map((s) => ({
      ...s,
      recipeId: s.recipeId === null ? null : now.idOf(s.recipeId),
      key: called(s.key),
      batch: called(s.batch),
    })),
  };
}

/** Orders that can be understood, by their due day, with the recipes that are made now. */
export async function loadOrders(db: Db, madeNow: MadeNow): Promise<Order[]> {
  const rows = await db.select().from(customerOrder).orderBy(asc(customerOrder.createdAt));
  return rows
    .flatMap(({ facts, id, version, createdAt }) => {
      const read = StoredOrder.safeParse(facts);
      if (!read.success) return [];
      const lines = read.data.lines.map((l) => ({ ...l, recipeId: madeNow.idOf(l.recipeId) }));
      return [{ ...read.data, lines, id, version, createdAt }];
    })
    .sort((a, b) => a.due.localeCompare(b.due));
}
