import { often } from '../testing/index.ts';
import { Board } from './board.ts';
import { compile } from './compiled.ts';
import { groupsOf } from './groups.ts';
import { NoPlan, solveProject, verifyPlan, workshopProject, type PlanProject } from './index.ts';
import { orderBy, orderOf, placeAll, PRIORITY_RULES } from './serial.ts';
import { countingClock } from './testing/clock.ts';
import { exhaustive } from './testing/exhaustive.ts';
import { publishedShop } from './testing/publishedShops.ts';
import { eightWeeksRoom, roomWith } from './testing/room.ts';
import { randomProject, type RandomKind } from './testing/randomProject.ts';

describe('published job shops', () => {
  test('6×6: 55, and proved', () => {
    const found = solveProject(publishedShop('ft06'), { budgetMs: 20_000, now: countingClock(2) });
    expect(found).toMatchObject({ worth: { end: 55 }, bound: { end: 55 }, gap: 0, isProved: true });
    expect(verifyPlan(publishedShop('ft06'), found.plan)).toEqual([]);
  });

  test('10×10: within 2 % of 930, and the bound is no better than what is possible', () => {
    const budgetMs = often(4_000, 10_000);
    const found = solveProject(publishedShop('ft10'), { budgetMs, now: countingClock(2) });
    expect(found.worth.end).toBeGreaterThanOrEqual(930);
    expect(found.worth.end).toBeLessThanOrEqual(948);
    expect(found.bound.end).toBeGreaterThanOrEqual(808);
    expect(found.bound.end).toBeLessThanOrEqual(930);
    expect(verifyPlan(publishedShop('ft10'), found.plan)).toEqual([]);
  });
});

/** Small projects of each kind, all of whose plans can be tried. */
const SMALL: [string, number, number, RandomKind][] = [
  ['least waits and capacities', often(10, 40), 24, { activities: 6 }],
  ['greatest waits', often(10, 40), 24, { activities: 6, longest: 3, most: true }],
  ['hours', often(6, 30), 40, { activities: 5, longest: 3, hours: true }],
  ['choices', often(8, 30), 24, { activities: 5, longest: 3, choice: true }],
  ['holds', often(10, 40), 20, { activities: 5, longest: 2, holds: true }],
  ['set-up', often(8, 30), 22, { activities: 5, longest: 2, setUp: true }],
  ['set-up in hours', often(10, 20), 24, { activities: 5, longest: 2, setUp: true, setUpHours: true }],
  ['orders', often(12, 30), 15, { activities: 4, longest: 3, orders: true }],
  ['some begun', often(8, 40), 24, { activities: 6, longest: 3, begun: true, hours: true, setUp: true }],
  [
    'some begun that hold',
    often(12, 60),
    20,
    { activities: 5, longest: 2, begun: true, holds: true, orders: true },
  ],
  [
    'everything',
    often(6, 25),
    26,
    { activities: 4, longest: 3, most: true, hours: true, choice: true, orders: true },
  ],
];

describe.each(SMALL)('against trying every plan: %s', (_, count, horizon, kind) => {
  test('the best is found and proved, or that there is none', () => {
    let plans = 0;
    for (let seed = 1; seed <= count; seed += 1) {
      const project = randomProject(seed * 7919, kind);
      const truth = exhaustive(project, horizon);
      let found;
      try {
        found = solveProject(project, { budgetMs: 5000, now: countingClock(0.3) });
      } catch (e) {
        expect(e).toBeInstanceOf(NoPlan);
        expect([seed, truth]).toEqual([seed, null]);
        continue;
      }
      expect([seed, verifyPlan(project, found.plan)]).toEqual([seed, []]);
      if (truth === null) {
        expect(found.worth.end).toBeGreaterThan(horizon);
        continue;
      }
      plans += 1;
      expect([seed, found.worth.lateness, found.worth.end]).toEqual([seed, truth.lateness, truth.end]);
      expect([seed, found.isProved]).toEqual([seed, true]);
    }
    expect(plans).toBeGreaterThan(count / 3);
  });
});

describe('what cannot be planned is refused with a word that helps', () => {
  const two: PlanProject = {
    activities: [
      { id: 'a', duration: 2 },
      { id: 'b', duration: 2 },
    ],
  };
  test.each<[string, PlanProject, string]>([
    ['nothing', { activities: [] }, 'at least one activity'],
    ['a name twice', { activities: [two.activities[0]!, two.activities[0]!] }, 'called ‘a’'],
    ['half a minute', { activities: [{ id: 'a', duration: 0.5 }] }, 'duration of a'],
    ['no number', { activities: [{ id: 'a', duration: NaN }] }, 'duration of a'],
    ['an unknown resource', { activities: [{ id: 'a', duration: 1, uses: [{ oneOf: ['X'] }] }] }, '‘X’'],
    ['an unknown activity', { ...two, waits: [{ from: 'a', to: 'c' }] }, '‘c’'],
    [
      'a wait turned round',
      { ...two, waits: [{ from: 'a', to: 'b', least: 3, most: 2 }] },
      'below the least',
    ],
    [
      'a circle',
      {
        ...two,
        waits: [
          { from: 'a', to: 'b' },
          { from: 'b', to: 'a' },
        ],
      },
      'contradict',
    ],
    [
      'more than there is',
      {
        activities: [{ id: 'a', duration: 1, uses: [{ oneOf: ['X'], amount: 3 }] }],
        resources: [{ id: 'X', capacity: 2 }],
      },
      'no more than 2',
    ],
    [
      'longer than any hours',
      {
        activities: [{ id: 'a', duration: 9, uses: [{ oneOf: ['X'] }] }],
        resources: [{ id: 'X', capacity: 1, open: [[0, 8]] }],
      },
      'no hours',
    ],
  ])('%s', (_, project, words) => {
    expect(() => solveProject(project, { budgetMs: 100 })).toThrow(words);
  });
});

test('a search is cancelled at once and keeps the best so far; the first plan comes before any search', () => {
  const project = randomProject(3, { activities: 60, longest: 20 });
  let told = 0;
  const found = solveProject(project, {
    budgetMs: 60_000,
    isCancelled: () => true,
    onBetter: () => {
      told += 1;
    },
  });
  expect(told).toBeGreaterThan(0);
  expect(verifyPlan(project, found.plan)).toEqual([]);
});

describe('plans of many steps bound together', () => {
  const { project } = workshopProject(eightWeeksRoom());

  test('the order a plan was placed in gives the plan again, whatever rule it came from', () => {
    const c = compile(project);
    const groups = groupsOf(c);
    const board = new Board(c, groups);
    for (const rule of PRIORITY_RULES) {
      expect(placeAll(board, groups, orderBy(rule, c, groups))).toBe(-1);
      const { starts } = board.plan();
      const order = orderOf(board, groups);
      board.clear();
      expect([rule, placeAll(board, groups, order)]).toEqual([rule, -1]);
      expect(board.plan().starts).toEqual(starts);
    }
  });

  test('a search wins much over the plain rules in an overfull workshop, and breaks nothing', () => {
    // Two hundred plans are tried.
    const budget = { budgetMs: 140, now: countingClock() };
    const rules = solveProject(project, { budgetMs: 0 });
    const found = solveProject(project, budget);
    expect(rules.worth.lateness).toBeGreaterThan(0);
    expect(found.worth.lateness).toBeLessThan(0.95 * rules.worth.lateness);
    expect(verifyPlan(project, found.plan)).toEqual([]);
  });
});

test('a search that begins from a plan is never worse than it', () => {
  const { project } = workshopProject(
    roomWith(Array.from({ length: 9 }, (_, k) => ({ bars: 150, days: 9 + k }))),
  );
  const good = solveProject(project, { budgetMs: 200, now: countingClock() });
  const again = solveProject(project, { budgetMs: 0, from: good.plan });
  expect(again.worth.lateness).toBeLessThanOrEqual(good.worth.lateness);
  expect(verifyPlan(project, again.plan)).toEqual([]);
});

test('what has lain somewhere since before the beginning is held from there, whichever stands first in the project', () => {
  const project = (more: Partial<PlanProject['activities'][number]> = {}): PlanProject => ({
    activities: [
      { id: 'temper', duration: 30, ...more },
      { id: 'rests', duration: 0, fixedAt: 0 },
      { id: 'next', duration: 20, uses: [{ oneOf: ['shelf'] }] },
    ],
    waits: [{ from: 'rests', to: 'temper' }],
    holds: [{ id: 'rest', from: 'rests', to: 'temper', oneOf: ['shelf'] }],
    resources: [{ id: 'shelf', capacity: 1 }],
  });
  const found = solveProject(project()).plan;
  expect([verifyPlan(project(), found), found.starts]).toEqual([[], { temper: 0, rests: 0, next: 30 }]);
  expect(solveProject(project({ fixedAt: -10 })).plan.starts).toMatchObject({ temper: -10 });
});

test('what begins together on one resource finds room together, at once where there is some', () => {
  const plan = (capacity: number) =>
    solveProject({
      activities: [
        { id: 'other', duration: 700, fixedAt: 0, uses: [{ oneOf: ['shelf'] }] },
        { id: 'make', duration: 10 },
        { id: 'first', duration: 20 },
        { id: 'second', duration: 30 },
      ],
      waits: [
        { from: 'make', to: 'first' },
        { from: 'make', to: 'second' },
      ],
      holds: [
        { id: 'a', from: 'make', to: 'first', oneOf: ['shelf'] },
        { id: 'b', from: 'make', to: 'second', oneOf: ['shelf'] },
      ],
      resources: [{ id: 'shelf', capacity }],
    }).plan.starts;
  expect(plan(3)).toMatchObject({ make: 0 });
  expect(plan(2)).toMatchObject({ make: 700 });
  expect(() => plan(1)).toThrow(NoPlan);
});

test('what one holds that has begun is held until its own end, not only for the least time', () => {
  const from60 = { id: 'late', capacity: 1, open: [[60, 500]] as const };
  const project: PlanProject = {
    activities: [
      { id: 'poured', duration: 5, fixedAt: -20 },
      { id: 'knock', duration: 10, uses: [{ oneOf: ['late'] }] },
      { id: 'second', duration: 5 },
      { id: 'second knock', duration: 5 },
      { id: 'also poured', duration: 5, fixedAt: -10 },
      { id: 'also knock', duration: 5, uses: [{ oneOf: ['late'] }] },
    ],
    waits: [
      { from: 'poured', to: 'knock' },
      { from: 'poured', to: 'second', most: 900 },
      { from: 'second', to: 'second knock' },
      { from: 'also poured', to: 'also knock' },
    ],
    holds: [
      { id: 'first moulds', from: 'poured', to: 'knock', oneOf: ['moulds'], amount: 2 },
      { id: 'second moulds', from: 'second', to: 'second knock', oneOf: ['moulds'], amount: 2 },
      { id: 'their moulds', from: 'also poured', to: 'also knock', oneOf: ['moulds'], amount: 2 },
    ],
    resources: [{ id: 'moulds', capacity: 4 }, from60],
  };
  const { plan } = solveProject(project);
  expect(verifyPlan(project, plan)).toEqual([]);
  expect(plan.starts['second']).toBe(65);
  // Two that hold what each waits for have no plan, and none is made up.
  expect(() =>
    solveProject({
      ...project,
      waits: [...project.waits!, { from: 'second', to: 'knock' }, { from: 'second', to: 'also knock' }],
    }),
  ).toThrow(NoPlan);
});
