import { seededRandom } from '../numerics/index.ts';
import { often } from '../testing/index.ts';
import { NoPlan, solveProject, verifyPlan, type Plan, type PlanProject } from './index.ts';
import { countingClock } from './testing/clock.ts';
import { randomProject } from './testing/randomProject.ts';

const KINDS = [
  { most: true },
  { hours: true, choice: true },
  { holds: true, most: true },
  { setUp: true, orders: true },
  { most: true, hours: true, choice: true, holds: true, orders: true },
];

const PLANS = often(150, 20_000);

test(`${PLANS} plans of random projects break no rule, and none is better than the bound`, () => {
  let planned = 0;
  for (let seed = 1; planned < PLANS; seed += 1) {
    const kind = KINDS[seed % KINDS.length]!;
    const project = randomProject(seed, { activities: 5 + (seed % 18), longest: 5, ...kind });
    try {
      const { plan, worth, bound } = solveProject(project, { budgetMs: 3, now: countingClock(1) });
      planned += 1;
      expect([seed, verifyPlan(project, plan)]).toEqual([seed, []]);
      expect([seed, worth.end >= bound.end || worth.lateness > bound.lateness]).toEqual([seed, true]);
    } catch (e) {
      if (!(e instanceof NoPlan)) throw e;
    }
  }
});

describe('every rule is looked at', () => {
  const project: PlanProject = {
    activities: [
      { id: 'a', duration: 3, uses: [{ oneOf: ['X'], family: 'nut' }] },
      { id: 'b', duration: 2, uses: [{ oneOf: ['X', 'Y'], family: 'plain' }], notBefore: 1 },
      { id: 'c', duration: 2, uses: [{ oneOf: ['Z'], amount: 2 }], on: ['h'] },
      { id: 'd', duration: 1, fixedAt: 20 },
    ],
    resources: [
      { id: 'X', capacity: 1, setUp: { nut: { plain: 2 } } },
      {
        id: 'Y',
        capacity: 1,
        open: [
          [0, 4],
          [8, 20],
        ],
      },
      { id: 'Z', capacity: 3 },
      { id: 'bowl', capacity: 1, open: [[0, 30]] },
    ],
    waits: [{ from: 'a', to: 'c', least: 1, most: 6 }],
    holds: [{ id: 'h', from: 'a', to: 'c', oneOf: ['bowl'] }],
  };
  const good: Plan = {
    starts: { a: 0, b: 5, c: 5, d: 20 },
    given: { a: ['X'], b: ['X'], c: ['Z'], h: ['bowl'] },
  };
  const with_ = (starts: Record<string, number>, given: Record<string, string[]> = {}) => ({
    starts: { ...good.starts, ...starts },
    given: { ...good.given, ...given },
  });
  test('a good plan has nothing broken', () => expect(verifyPlan(project, good)).toEqual([]));
  test.each<[string, Plan]>([
    ['missing', { ...good, starts: { a: 0, b: 5, d: 20 } }],
    ['not whole', with_({ b: 5.5 })],
    ['fixed', with_({ d: 19 })],
    ['not before', with_({ b: 0 }, { b: ['Y'] })],
    ['wait', with_({ c: 3 })],
    ['wait', with_({ c: 10 })],
    ['given', with_({}, { b: ['Z'] })],
    ['given', with_({}, { h: [] })],
    ['hours', with_({ b: 6 }, { b: ['Y'] })],
    ['hours', with_({ a: 26, c: 30 })],
    ['capacity', with_({ b: 2 })],
    ['set-up', with_({ b: 4 })],
  ])('%s', (rule, plan) => expect(verifyPlan(project, plan).map((b) => b.rule)).toContain(rule));
});

test('a plan with one start moved is found broken whenever it is, by a count of what runs in each unit of time', () => {
  const random = seededRandom(5);
  let wrong = 0;
  for (let seed = 1; seed <= 200; seed += 1) {
    const project = randomProject(seed, { activities: 10 });
    const { plan } = solveProject(project, { budgetMs: 2, now: countingClock(1) });
    const moved = project.activities[Math.floor(random() * 10)]!.id;
    const starts = { ...plan.starts, [moved]: Math.max(0, plan.starts[moved]! + (random() < 0.5 ? -1 : 1)) };
    const end = Math.max(...project.activities.map((a) => starts[a.id]! + a.duration));
    let isBroken = (project.activities.find((a) => a.id === moved)!.notBefore ?? 0) > starts[moved]!;
    for (const { from, to, least = 0 } of project.waits!)
      isBroken ||=
        starts[to]! < starts[from]! + project.activities.find((a) => a.id === from)!.duration + least;
    for (let t = 0; t < end; t += 1)
      for (const r of project.resources!) {
        const sum = project.activities.reduce(
          (s, a) =>
            starts[a.id]! <= t && t < starts[a.id]! + a.duration
              ? s + (a.uses ?? []).reduce((u, use) => u + (use.oneOf[0] === r.id ? (use.amount ?? 1) : 0), 0)
              : s,
          0,
        );
        isBroken ||= sum > r.capacity;
      }
    wrong += Number(isBroken);
    expect([seed, verifyPlan(project, { ...plan, starts }).length > 0]).toEqual([seed, isBroken]);
  }
  expect(wrong).toBeGreaterThan(20);
});
