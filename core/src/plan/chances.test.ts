import { seededRandom } from '../numerics/index.ts';
import { orderChances } from './chances.ts';
import {
  planWorkshop,
  workshopProject,
  type PlanBatch,
  type PlanRoom,
  type WorkshopProject,
} from './index.ts';
import { countingClock } from './testing/clock.ts';
import { roomWith } from './testing/room.ts';

/**
 * How a workshop might really go, told apart from how the plan reckons it: every step takes a Weibull-distributed time of the same
 * median and 80th percentile, each for itself; people take their steps in the order of the plan, nothing before it was planned, what does
 * not fit into the hours that are left goes to the next; and where whoever was to do it would be half a day later than somebody else who may, that one
 * does it.
 */
function lived(
  { project, steps: known, zero }: WorkshopProject,
  steps: ReturnType<typeof planWorkshop>['steps'],
  random: () => number,
): Map<string, number> {
  const planned = new Map(steps.map((s) => [s.key, s]));
  const open = new Map((project.resources ?? []).map((r) => [r.id, r.open]));
  const free = new Map<string, number>();
  const ends = new Map<string, number>();
  const order = [...project.activities].sort(
    (a, b) => Date.parse(planned.get(a.id)!.start) - Date.parse(planned.get(b.id)!.start),
  );
  /** A Weibull time of this median and 80th percentile. */
  const weibull = (median: number, p80: number): number => {
    const shape = Math.log(Math.log(5) / Math.LN2) / Math.log(Math.max(1.001, p80 / median));
    return median * (-Math.log2(1 - random())) ** (1 / shape);
  };
  for (const a of order) {
    const { time, begun } = known.find((s) => s.key === a.id)!;
    const left = Math.max(1, Math.round(weibull(time.minutes, time.minutes80)));
    // What runs has run since it began.
    const length = begun ? a.duration - time.minutes + left : left;
    const { start, personId, machineId, batch, stage } = planned.get(a.id)!;
    // A bowl is taken from the loading to the drawing off.
    const bowl = stage === 'load' || stage === 'draw' ? planned.get(`${batch}/grind/1`)!.machineId : null;
    const machine = stage === 'grind' || stage === 'draw' ? null : machineId;
    let t = Math.max(0, Math.round((Date.parse(start) - zero) / 60_000));
    for (const w of project.waits ?? [])
      if (w.to === a.id) t = Math.max(t, (ends.get(w.from) ?? 0) + (w.least ?? 0));
    if (machine !== null) t = Math.max(t, free.get(machine) ?? 0);
    const doneBy = (person: string | null): number => {
      const from = begun ? a.fixedAt! : Math.max(t, person === null ? 0 : (free.get(person) ?? 0));
      const windows = person === null ? undefined : open.get(person);
      const fits = windows?.find(([opens, to]) => Math.max(from, opens) + time.minutes <= to);
      return (windows ? Math.max(from, fits![0]) : from) + length;
    };
    const may = personId === null ? [] : (a.uses?.find((u) => u.oneOf.includes(personId))?.oneOf ?? []);
    const [soonest] = [...may].sort((p, q) => doneBy(p) - doneBy(q));
    const isHandedOver = soonest !== undefined && doneBy(soonest) < doneBy(personId) - 240;
    const person = isHandedOver ? soonest : personId;
    const done = doneBy(person);
    for (const id of [person, machine]) if (id !== null) free.set(id, id === bowl ? Infinity : done);
    if (stage === 'draw' && bowl !== null) free.set(bowl, done);
    ends.set(a.id, done);
  }
  return ends;
}

/** One of the three is not there for some days, from a day on. */
const awayFor = (days: number, from: number) => {
  const at = (day: number) =>
    new Date(Date.parse('2026-11-26T08:00:00.000Z') + day * 86_400_000).toISOString();
  return { id: 'away', who: 'JB', from: at(from), to: at(from + days), reason: '' };
};

/** As many as leave little to the luck of the draw. */
const DRAWS = 300;

/** How often each workshop is lived. */
const LIVES = 30;

/** In how many of {@link LIVES} lives of a workshop each order is ready by the day that is promised with four fifths; and out of how many. */
function heldIn(room: PlanRoom, random: () => number): { held: number; of: number } {
  let [held, of] = [0, 0];
  const plan = planWorkshop(room, { budgetMs: 150, draws: 0, now: countingClock() });
  const workshop = workshopProject(room);
  const minute = (s: (typeof plan.steps)[number]) =>
    Math.round((Date.parse(s.start) - workshop.zero) / 60_000);
  const chances = orderChances(
    workshop,
    {
      starts: Object.fromEntries(plan.steps.map((s) => [s.key, minute(s)])),
      given: Object.fromEntries(
        plan.steps.map((s) => [s.key, [s.personId, s.machineId].filter((id) => id !== null)]),
      ),
    },
    DRAWS,
  );
  for (let d = 0; d < LIVES; d += 1) {
    const ends = lived(workshop, plan.steps, random);
    for (const o of workshop.project.orders ?? []) {
      const { done } = chances.find((c) => c.orderId === o.id)!;
      const ready = Math.max(...o.activities.map((id) => ends.get(id)!));
      // Whole nights lie between days, so that many draws are ready at much the same time: within a quarter of an hour it is drawn
      // by lot which comes first.
      const before = done.filter((t) => t < ready - 15).length;
      const same = done.filter((t) => Math.abs(t - ready) <= 15).length;
      held += Number((before + random() * same) / done.length <= 0.8);
      of += 1;
    }
  }
  return { held, of };
}

test('by the day that is promised with four fifths, orders are ready in 75 to 85 of 100 workshops that live otherwise than reckoned', () => {
  let [held, of] = [0, 0];
  for (let k = 1; k <= 24; k += 1) {
    const random = seededRandom(k * 101);
    const room = roomWith(
      Array.from({ length: 1 + (k % 4) }, (_, n) => ({
        bars: 60 + Math.floor(random() * 300),
        days: 9 + 5 * n,
        recipe: random() < 0.3 ? 'milk' : 'dark',
      })),
      k % 2 === 0 ? {} : { absences: [awayFor(3, 1 + Math.floor(random() * 9))] },
    );
    const lives = heldIn(room, random);
    held += lives.held;
    of += lives.of;
  }
  expect(of).toBeGreaterThan(500);
  expect(held / of).toBeGreaterThan(0.75);
  expect(held / of).toBeLessThan(0.85);
});

test('what runs is over sooner or later than its forecast says, as far as that says so, and promises reckon with it', () => {
  const HOUR = 3_600_000;
  let [held, of] = [0, 0];
  for (let k = 1; k <= 24; k += 1) {
    const random = seededRandom(k * 211);
    // Where somebody is there day and night, no night takes up what comes late.
    const week = Array.from({ length: 7 }, () => [[0, 1440]] as const);
    const base = roomWith([{ bars: 60 + Math.floor(random() * 40), days: 9 }], { week, holidays: [] });
    const now = Date.parse(base.now);
    const left = 4 + random() * 40;
    const wide = 1.2 + random();
    const iso = (hours: number) => new Date(now + hours * HOUR).toISOString();
    const batch: PlanBatch = {
      id: 'b',
      code: 'TL-01',
      lotId: 'TL',
      recipeId: 'dark',
      barMg: 60_000,
      route: ['sort', 'roast', 'winnow', 'recipe', 'grind', 'temper', 'mould'],
      massMg: 8e6,
      stage: 'grind',
      running: {
        kind: 'grind',
        machineId: 'ida',
        startedAt: iso(-5 - random() * 30),
        endsAt: iso(left),
        endsWithin: { low: iso(left / wide), high: iso(left * wide) },
      },
      bars: 120,
    };
    const lives = heldIn({ ...base, batches: [batch] }, random);
    held += lives.held;
    of += lives.of;
  }
  expect(of).toBe(24 * LIVES);

  expect(held / of).toBeGreaterThan(0.75);
  expect(held / of).toBeLessThan(0.85);
});

test('what somebody cannot do for days is done by whoever else may; what comes a little later waits for them', () => {
  const workshop = (opens: number, others: readonly string[]): WorkshopProject => ({
    project: {
      activities: [{ id: 'pour', duration: 60, uses: [{ oneOf: ['ada', ...others] }] }],
      resources: [
        { id: 'ada', capacity: 1, open: [[opens, 9000]] },
        { id: 'ben', capacity: 1, open: [[0, 9000]] },
      ],
      orders: [{ id: 'o', activities: ['pour'], due: 1000, weight: 1 }],
    },
    steps: [{ batch: 'b', time: { minutes: 60, minutes80: 60 }, begun: false } as never],
    needs: null as never,
    enough: new Map(),
    people: new Set(['ada', 'ben']),
    due: new Map([['o', 1000]]),
    zero: 0,
    days: 7,
  });
  const done = (of: WorkshopProject) =>
    orderChances(of, { starts: { pour: 0 }, given: { pour: ['ada'] } }, 10)[0]!;
  expect(done(workshop(5000, ['ben']))).toMatchObject({ chance: 1, done: Array(10).fill(60) });
  // Nobody else may.
  expect(done(workshop(5000, []))).toMatchObject({ chance: 0, done: Array(10).fill(5060) });
  // Two hours are no reason to ask somebody else.
  expect(done(workshop(120, ['ben']))).toMatchObject({ chance: 1, done: Array(10).fill(180) });
});
