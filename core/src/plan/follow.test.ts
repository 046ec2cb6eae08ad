import { followBatches, planWorkshop, repairPlan, stageAt, stillToDo, type FollowedBatch } from './index.ts';
import { countingClock } from './testing/clock.ts';
import { roomWith } from './testing/room.ts';

const room = roomWith([
  { bars: 300, days: 15 },
  { bars: 400, days: 25 },
]);
const { steps } = planWorkshop(room, { budgetMs: 200, draws: 0, now: countingClock() });
const begun = (more: Partial<FollowedBatch> = {}): FollowedBatch => ({
  id: 'real',
  code: 'TL-17',
  recipeId: 'dark',
  lotId: 'TL',
  startedAt: '2026-11-26T09:00:00.000Z',
  stage: 'winnow',
  ...more,
});

test('a batch that was begun takes the place the plan had for it, once, and only its own', () => {
  const followed = followBatches(steps, [begun()], room.now);
  expect(followed.filter((s) => s.batchId === 'real').map((s) => s.key.startsWith('real/'))).toContain(true);
  expect(new Set(followed.map((s) => s.batch))).toEqual(new Set(['real', 'new:dark:TL:1']));
  expect(followBatches(steps, [begun({ lotId: 'NK' })], room.now)).toEqual(steps);
  expect(followBatches(steps, [begun({ startedAt: '2026-11-20T09:00:00.000Z' })], room.now)).toEqual(steps);
});

test('what its entries have passed is ticked off by that, and nothing else', () => {
  const left = stillToDo(steps, [begun()], room.now);
  const own = left.filter((s) => s.batchId === 'real').map((s) => s.stage);
  expect(own).not.toContain('roast');
  expect(own).toContain('winnow');
  expect(left.filter((s) => s.batch === 'new:dark:TL:1').map((s) => s.start)).toEqual(
    steps.filter((s) => s.batch === 'new:dark:TL:2').map((s) => s.start),
  );
  expect(
    stillToDo(steps, [begun({ stage: null })], room.now)
      .filter((s) => s.batchId === 'real')
      .map((s) => s.stage),
  ).toEqual(['taste']);
});

test('a grinder that turns is loaded no more, and what conches is only emptied', () => {
  const conched = { ...room, recipes: room.recipes.map((r) => ({ ...r, conched: true })) };
  const plan = planWorkshop(conched, { budgetMs: 200, draws: 0, now: countingClock() });
  const left = (stage: FollowedBatch['stage']) =>
    stillToDo(plan.steps, [begun({ stage })], room.now)
      .filter((s) => s.batchId === 'real' && s.station === 'grind')
      .map((s) => s.stage);
  expect(left('load')).toEqual(['load', 'grind', 'conche', 'empty']);
  expect(left('grind')).toEqual(['grind', 'conche', 'empty']);
  expect(left('conche')).toEqual(['conche', 'empty']);
  expect(left('temper')).toEqual([]);
});

test.each([
  ['beans', 'start', null, 'sort'],
  ['roast', 'weigh-out', 'roast', 'roast'],
  ['grind', 'start', null, 'load'],
  ['grind', 'draw-off', 'grind', 'grind'],
  ['grind', 'taste-sourness', 'conche', 'conche'],
  ['grind', 'conche', null, 'fill'],
  ['mould', 'carry-on', null, 'mould'],
] as const)(
  'a batch at %s whose next is %s, with %s under way, has come to %s',
  (station, code, running, stage) => expect(stageAt({ station, code }, running)).toBe(stage),
);

test('a begun batch stays where it was planned when the plan is mended', () => {
  const batch = {
    ...begun({ stage: 'sort' }),
    barMg: 60_000,
    route: ['sort', 'roast', 'winnow', 'recipe', 'grind', 'temper', 'mould'] as const,
    massMg: 26e6,
    stage: 'sort' as const,
    running: null,
    bars: 411,
  };
  const now = { ...room, batches: [batch] };
  const { moves, gone } = repairPlan(now, steps, { draws: 0, keptAt: room.now });
  expect(gone.filter((k) => k.startsWith('new:dark:TL:1/'))).toEqual([]);
  const grind = moves.filter((m) => m.stage === 'grind');
  for (const m of grind) expect(Math.abs(Date.parse(m.to) - Date.parse(m.from))).toBeLessThan(1_800_000);
});
