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
import { lived } from './testing/lived.ts';
import { roomWith } from './testing/room.ts';

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
