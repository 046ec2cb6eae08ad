import { seededRandom } from '../numerics/index.ts';
import { often } from '../testing/index.ts';
import { WORK_KINDS, type WorkKind } from '../ledger/index.ts';
import {
  notReady,
  openSpans,
  planWorkshop,
  PLAN_STAGES,
  readyWork,
  repairPlan,
  workshopProject,
  type PlanBatch,
  type PlanRoom,
  type PlanStage,
  type WorkshopPlan,
} from './index.ts';
import { orderChances } from './chances.ts';
import { broken } from './testing/broken.ts';
import { countingClock } from './testing/clock.ts';
import { roomWith } from './testing/room.ts';

const HOUR = 3_600_000;
const KIND_AT: Readonly<Partial<Record<PlanStage, WorkKind>>> = {
  sort: 'sort',
  roast: 'roast',
  winnow: 'winnow',
  recipe: 'recipe',
  grind: 'grind',
  conche: 'conche',
  temper: 'temper',
  mould: 'mould',
};

/** A workshop at some hour of some day: with and without this machine and that, batches at every stage, some of them under way. */
function anyRoom(seed: number): PlanRoom {
  const random = seededRandom(seed * 104_729);
  const some = (share: number) => random() < share;
  const one = <T>(of: readonly T[]): T => of[Math.floor(random() * of.length)]!;
  const now = Date.parse('2026-11-23T00:00:00.000Z') + Math.floor(random() * 7 * 24 * 12) * (HOUR / 12);
  const base = roomWith(
    Array.from({ length: Math.floor(random() * 5) }, (_, k) => ({
      bars: 20 + Math.floor(random() * 300),
      days: 2 + k * 4,
      recipe: one(['dark', 'milk']),
    })),
  );
  const mixer = {
    ...base.machines[2]!,
    id: 'mixer',
    name: 'Mixer',
    kind: 'heated mixer',
    minMg: null,
    maxMg: 12e6,
  };
  const machines = [...base.machines, mixer]
    .filter(() => some(0.8))
    .map((m) =>
      m.station === 'grind' && some(0.3) ? { ...m, ranLast: { allergens: ['milk'], strong: [] } } : m,
    )
    .map((m) => ({ ...m, loud: m.station === 'grind' && some(0.4) }));
  const batches = Array.from({ length: Math.floor(random() * 6) }, (_, k): PlanBatch => {
    const stage = one(PLAN_STAGES.filter((s) => !['draw', 'empty', 'set', 'knock', 'wrap'].includes(s)));
    const kind = KIND_AT[stage];
    const isRunning = kind !== undefined && some(stage === 'grind' || stage === 'conche' ? 1 : 0.5);
    const own = machines.filter((m) => m.station === 'grind');
    const started = now - Math.floor(random() * 40 * 60) * 60_000;
    return {
      id: `b${k}`,
      code: `TL-${k}`,
      lotId: 'TL',
      recipeId: one(['dark', 'milk', null]),
      barMg: 60_000,
      route: WORK_KINDS.filter((w) => (w !== 'conche' || some(0.5)) && (w !== 'temper' || some(0.9))),
      massMg: 1e6 + random() * 20e6,
      stage,
      running: isRunning
        ? {
            kind,
            machineId:
              (stage === 'grind' || stage === 'conche') && own.length > 0 && some(0.8) ? one(own).id : null,
            startedAt: new Date(started).toISOString(),
            endsAt: some(0.5) ? new Date(started + random() * 60 * HOUR).toISOString() : null,
          }
        : null,
      bars: Math.floor(random() * 300),
    };
  });
  return {
    ...base,
    now: new Date(now).toISOString(),
    machines,
    moulds: some(0.85) ? base.moulds : [],
    batches,
    recipes: base.recipes.map((r) => ({ ...r, conched: some(0.5), strong: some(0.3) ? ['chilli'] : [] })),
    loudHours: one([null, null, [420, 1260], [480, 960], [1080, 1260]] as const),
    restKg: some(0.5) ? 5 + random() * 40 : null,
    restDays: one([0, 1, 3]),
  };
}

const at = (iso: string) => Date.parse(iso);

/** What is wrong with the hands that make machines ready: told twice, outside somebody’s hours, or while a charge is in. */
function wrongHands(room: PlanRoom, { steps }: WorkshopPlan): string[] {
  // In which machine a charge is that began without one is only supposed, and may be more than there is room for.
  const isSupposed = ({ batchId, begun }: WorkshopPlan['steps'][number]) =>
    begun && room.batches.some((b) => b.id === batchId && b.running?.machineId === null);
  return readyWork(steps).flatMap(({ step, setUp, hands: { personId, start, end } }) => {
    const wrong: string[] = [];
    const person = room.people.find((p) => p.id === personId);
    const hours = openSpans(room, person?.week ?? room.week, room.absences, 60);
    if (!hours.some(([a, b]) => a <= at(start) && at(end) <= b)) wrong.push('outside hours');
    if (at(end) - at(start) !== setUp.minutes * 60_000) wrong.push('too short');
    if (at(end) > at(step.start) || at(start) < at(room.now)) wrong.push('not before its charge');
    const other = [
      ...steps.map((s) => ({
        key: s.key,
        who: s.personId,
        machine: isSupposed(s) ? null : s.machineId,
        start: s.start,
        end: s.end,
      })),
      ...readyWork(steps).map((r) => ({
        key: r.key,
        who: r.hands.personId,
        machine: r.step.machineId,
        ...r.hands,
      })),
    ].filter((x) => x.key !== `${step.key}/ready` && at(x.start) < at(end) && at(x.end) > at(start));
    if (other.some((x) => x.who === personId)) wrong.push('busy with something else');
    if (other.some((x) => x.machine === step.machineId)) wrong.push('something is in the machine');
    return wrong.map((w) => `${step.key}: ${w}`);
  });
}

test('whatever stands where at whatever hour, the plan breaks no rule, and mends without moving anything', () => {
  const rooms = often(70, 600);
  let steps = 0;
  const ready = { wanted: 0, told: 0 };
  for (let seed = 1; seed <= rooms; seed += 1) {
    const room = anyRoom(seed);
    const plan = planWorkshop(room, { budgetMs: 0, draws: 0, now: countingClock() });
    steps += plan.steps.length;
    expect([seed, broken(room, plan), wrongHands(room, plan)]).toEqual([seed, [], []]);
    ready.wanted += plan.steps.filter((s) => s.setUp && !s.begun).length;
    ready.told += notReady(plan.steps).length;
    // A batch is planned from where it stands on, once, to its end.
    for (const batch of room.batches) {
      const own = plan.steps.filter((s) => s.batchId === batch.id);
      const before = own.filter((s) => PLAN_STAGES.indexOf(s.stage) < PLAN_STAGES.indexOf(batch.stage));
      expect([seed, batch.id, before, own.at(-1)?.stage]).toEqual([seed, batch.id, [], 'taste']);
      expect(new Set(own.map((s) => s.key)).size).toBe(own.length);
      const begun = own.filter((s) => s.begun).map((s) => s.stage);
      expect([seed, batch.id, begun]).toEqual([seed, batch.id, batch.running ? [batch.stage] : []]);
    }
    if (seed % 3 > 0) continue;
    const { moves, plan: mended } = repairPlan(room, plan.steps, {
      draws: 0,
      budgetMs: 0,
      now: countingClock(),
    });
    expect([seed, moves, broken(room, mended), wrongHands(room, mended)]).toEqual([seed, [], [], []]);
  }
  expect(steps).toBeGreaterThan(20 * rooms);
  // Somebody is found for all but a few of the machines that have to be made ready.
  expect(ready.wanted).toBeGreaterThan(rooms);
  expect(ready.told).toBeLessThanOrEqual(ready.wanted / 50);
});

test('whatever comes of the durations, every day of a plan is lived to its end', () => {
  const DRAWS = 30;
  let orders = 0;
  for (let seed = 1; seed <= often(40, 300); seed += 1) {
    const room = anyRoom(seed);
    const { steps } = planWorkshop(room, { budgetMs: 0, draws: 0, now: countingClock() });
    const workshop = workshopProject(room);
    const lived = orderChances(
      workshop,
      {
        starts: Object.fromEntries(
          steps.map((s) => [s.key, Math.round((at(s.start) - workshop.zero) / 60_000)]),
        ),
        given: Object.fromEntries(
          steps.map((s) => [s.key, [s.personId, s.machineId].filter((id) => id !== null)]),
        ),
      },
      DRAWS,
    );
    orders += lived.length;
    for (const { orderId, done } of lived)
      expect([seed, orderId, done.length]).toEqual([seed, orderId, DRAWS]);
  }
  expect(orders).toBeGreaterThan(40);
});
