import { dayStart } from './hours.ts';
import { FEW } from './mending.ts';
import {
  Dragging,
  needsOf,
  openSpans,
  planWorkshop,
  repairPlan,
  USUAL_WEEK,
  verifyPlan,
  workshopProject,
  learnTimes,
  stageTime,
  tradeMinutes,
  type PlanRoom,
  type WorkshopPlan,
} from './index.ts';
import { countingClock } from './testing/clock.ts';
import { eightWeeksRoom, inFlight, roomWith } from './testing/room.ts';

const DAY = 86_400_000;
const at = (iso: string) => Date.parse(iso);
const quick = { budgetMs: 300, draws: 0, now: countingClock() };
const room = roomWith([
  { bars: 120, days: 12 },
  { bars: 90, days: 14, recipe: 'milk' },
]);

/** The plan’s starts in the project’s own minutes, for the verifier. */
function verified(of: PlanRoom, plan: WorkshopPlan) {
  const { project, zero } = workshopProject(of);
  const starts = Object.fromEntries(plan.steps.map((s) => [s.key, (Date.parse(s.start) - zero) / 60_000]));
  const given: Record<string, string[]> = {};
  for (const s of plan.steps) {
    const activity = project.activities.find((a) => a.id === s.key)!;
    given[s.key] = (activity.uses ?? []).map((u) =>
      u.oneOf.find((r) => r === s.personId || r === s.machineId)!,
    );
  }
  for (const h of project.holds ?? [])
    given[h.id] = [
      h.oneOf.find((r) => plan.steps.some((s) => s.key === h.from && s.machineId === r)) ?? h.oneOf[0]!,
    ];
  return verifyPlan(project, { starts, given });
}

test('one short step fills nobody’s time: the shift it is in counts to its end', () => {
  const one = roomWith([], {
    batches: [inFlight({ stage: 'taste', route: ['temper', 'mould'] })],
    people: roomWith([]).people.slice(0, 1),
  });
  const plan = planWorkshop(one, quick);
  expect(plan.steps).toHaveLength(1);
  const [busiest] = plan.busiest;
  const minutes = (at(plan.steps[0]!.end) - at(plan.steps[0]!.start)) / 60_000;
  // Thursday from eight to six o'clock; the step and nothing else.
  const [[open, shut]] = openSpans(one, one.week, [], 1) as [[number, number]];
  const there = (shut - Math.max(open, at(one.now))) / 60_000;
  expect(busiest).toMatchObject({ id: 'AK', share: minutes / there });
});

describe('from what is promised to what is made', () => {
  test('stock serves first, the oldest promise first; then batches in flight; then new ones', () => {
    const needs = needsOf({
      ...room,
      stock: [{ recipeId: 'dark', lotId: 'TL', bars: 50 }],
      batches: [
        {
          id: 'b',
          code: 'TL-16',
          lotId: 'TL',
          recipeId: 'dark',
          barMg: 60_000,
          route: ['grind', 'temper', 'mould'],
          massMg: 3e6,
          stage: 'temper',
          running: null,
          bars: 40,
        },
      ],
    });
    expect(needs.supplies.filter((s) => s.lineId === 'l0')).toEqual([
      { lineId: 'l0', bars: 50, batch: null },
      { lineId: 'l0', bars: 40, batch: 'b' },
      { lineId: 'l0', bars: 30, batch: 'new:dark:TL:1' },
    ]);
  });

  test('promises share a batch up to the usable charge, and no batch is below the least', () => {
    const shared = needsOf(
      roomWith([
        { bars: 100, days: 10 },
        { bars: 100, days: 20 },
        { bars: 500, days: 30 },
      ]),
    );
    expect(shared.batches.map((b) => b.chargeMg <= 26e6 && b.chargeMg >= 2e6)).toEqual([true, true]);
    expect(shared.supplies.reduce((sum, s) => sum + s.bars, 0)).toBe(700);
    // 26 kg give 411 bars of 60 g at 95 %.
    expect(shared.batches[0]!.bars).toBe(411);
  });

  test('what is short is named with how much', () => {
    const needs = needsOf(roomWith([{ bars: 600, days: 20, recipe: 'milk' }]));
    const milk = needs.materials.find((m) => m.id === 'milk')!;
    expect(milk.short).toBe(milk.need - 2e6);
    // A full charge, and the other 189 bars with some to spare.
    expect(needs.batches.map((b) => b.bars)).toEqual([411, 201]);
    expect(milk.need / 1e6).toBeCloseTo((612 * 0.06 * 0.2) / 0.95, 1);
  });

  test('a floor is filled up soon and an aim at leisure; a recipe that is gone is said', () => {
    const aims = [{ id: 'a', recipeId: 'dark', lotId: null, floor: 40, aim: 100 }];
    const needs = needsOf(roomWith([{ bars: 10, days: 5, recipe: 'none' }], { aims }));
    expect(needs.supplies.map((s) => [s.lineId, s.bars])).toEqual([
      ['a:floor', 40],
      ['a:aim', 60],
    ]);
    expect(needs.impossible).toEqual([{ lineId: 'l0', why: 'no-recipe' }]);
  });
});

describe('a plan of the workshop', () => {
  const plan = planWorkshop(room, { budgetMs: 1000, draws: 60, now: countingClock() });
  const of = (stage: string) => plan.steps.filter((s) => s.stage === stage);

  test('keeps every rule, by the verifier', () => expect(verified(room, plan)).toEqual([]));

  test('a night grind runs on, but nobody works at night, on a Sunday, or at two places', () => {
    expect(
      of('grind').some(
        (s) =>
          dayStart(Date.parse(s.start), 'Europe/London') !== dayStart(Date.parse(s.end), 'Europe/London'),
      ),
    ).toBe(true);
    const hands = plan.steps.filter((s) => s.personId !== null);
    for (const s of hands) {
      const [a, b] = [new Date(s.start), new Date(s.end)];
      expect([0, 6]).not.toContain(a.getUTCDay());
      expect(a.getUTCHours() * 60 + a.getUTCMinutes()).toBeGreaterThanOrEqual(510);
      expect(b.getUTCHours() * 60 + b.getUTCMinutes()).toBeLessThanOrEqual(1020);
      expect(
        hands.filter((x) => x !== s && x.personId === s.personId && x.start < s.end && s.start < x.end),
      ).toEqual([]);
    }
  });

  test('roasted beans are cracked within three days; bars set before they are wrapped', () => {
    for (const batch of new Set(plan.steps.map((s) => s.batch))) {
      const at = (stage: string, which: 'start' | 'end') =>
        plan.steps.filter((s) => s.batch === batch && s.stage === stage).map((s) => Date.parse(s[which]));
      expect(Math.min(...at('winnow', 'start')) - Math.max(...at('roast', 'end'))).toBeLessThanOrEqual(
        3 * DAY,
      );
      expect(Math.min(...at('winnow', 'start')) - Math.max(...at('roast', 'end'))).toBeGreaterThanOrEqual(
        4 * 3_600_000,
      );
      expect(Math.min(...at('wrap', 'start')) - Math.max(...at('knock', 'end'))).toBeGreaterThanOrEqual(
        12 * 3_600_000,
      );
    }
  });

  test('a step may start no earlier than planned and no later than its latest; orders have a chance', () => {
    for (const s of plan.steps)
      if (s.latest) expect(Date.parse(s.latest)).toBeGreaterThanOrEqual(Date.parse(s.start));
    for (const o of plan.orders) expect(o.chance! >= 0 && o.chance! <= 1).toBe(true);
  });
});

describe('hours', () => {
  test('eight is eight before and after the clock changes', () => {
    const spans = openSpans(
      { now: '2026-03-27T00:00:00Z', timeZone: 'Europe/Berlin', holidays: [] },
      Array.from({ length: 7 }, () => [[480, 540]] as const),
      [],
      4,
    );
    expect(spans.map(([a]) => new Date(a).toISOString().slice(11, 16))).toEqual([
      '07:00',
      '07:00',
      '06:00',
      '06:00',
    ]);
  });

  test('holidays and absences are taken out', () => {
    const spans = openSpans(
      { now: '2026-12-24T00:00:00Z', timeZone: 'UTC', holidays: ['2026-12-25'] },
      USUAL_WEEK,
      [{ id: 'x', who: null, from: '2026-12-24T10:00:00Z', to: '2026-12-24T11:00:00Z', reason: '' }],
      3,
    );
    expect(spans.map(([a, b]) => (b - a) / 60_000)).toEqual([90, 90, 210]);
  });

  test('a week of six days and hours that run backwards are refused', () => {
    const at = { now: '2026-12-24T00:00:00Z', timeZone: 'UTC', holidays: [] };
    expect(() => openSpans(at, USUAL_WEEK.slice(1), [], 3)).toThrow('seven days');
    expect(() =>
      openSpans(
        at,
        Array.from({ length: 7 }, () => [[600, 500]] as const),
        [],
        3,
      ),
    ).toThrow('forward');
  });
});

describe('times', () => {
  const past = [0.8, 1, 1.2, 1.4, 5].map((f) => ({
    kind: 'winnow' as const,
    machineId: null,
    minutes: f * tradeMinutes('winnow', 10),
    kg: 10,
  }));
  test('the workshop’s own median and 80th percentile count from three batches on', () => {
    const learned = learnTimes(past);
    expect(learned).toEqual([expect.objectContaining({ stage: 'winnow', factor: 1.2, batches: 5 })]);
    expect(stageTime('winnow', 10, { learned })).toEqual({ minutes: 80, minutes80: 140, batches: 5 });
    expect(stageTime('winnow', 10, { learned: learnTimes(past.slice(0, 2)) }).batches).toBe(0);
  });
  test('a step somebody forgot to end teaches nothing', () =>
    expect(learnTimes([...past.slice(0, 2), { ...past[0]!, minutes: 100_000 }])).toEqual([]));
});

describe('a plan mended', () => {
  const kept = planWorkshop(room, quick);
  test('what has not changed moves nothing', () => {
    const { moves, plan } = repairPlan(room, kept.steps, { draws: 0, now: countingClock() });
    expect([moves, verified(room, plan)]).toEqual([[], []]);
  });

  test('somebody is ill: only what they had moves or is given to somebody else, and it says why', () => {
    const sick = kept.steps.find((s) => s.personId !== null && s.stage === 'winnow')!;
    const absences = [
      {
        id: 'x',
        who: sick.personId!,
        from: sick.start,
        to: new Date(Date.parse(sick.start) + DAY).toISOString(),
        reason: 'ill',
      },
    ];
    const mended = { ...room, absences };
    const { moves, plan } = repairPlan(mended, kept.steps, { draws: 0, now: countingClock() });
    expect(verified(mended, plan)).toEqual([]);
    expect(moves.length).toBeGreaterThan(0);
    expect(moves.length).toBeLessThan(kept.steps.length / 2);
    expect(moves.find((m) => m.key === sick.key)!.why).toEqual({ kind: 'away', who: sick.personId });
  });

  test('a grinder that stands still for days moves what follows, and the words name what it waits for', () => {
    const grind = kept.steps.find((s) => s.stage === 'grind')!;
    const absences = [
      {
        id: 'x',
        who: grind.machineId!,
        from: grind.start,
        to: new Date(Date.parse(grind.end) + 2 * DAY).toISOString(),
        reason: 'belt',
      },
    ];
    const broken = { ...room, absences };
    const { moves, plan } = repairPlan(broken, kept.steps, { draws: 0, now: countingClock() });
    expect(verified(broken, plan)).toEqual([]);
    expect(moves.some((m) => m.stage === 'load')).toBe(true);
    // A bowl waits for the grinder that is drawn off, not for the bowl beside it that waits for the same.
    for (const m of moves)
      if (m.why.kind === 'after') expect([m.code, m.stage]).not.toEqual([m.why.code, m.why.stage]);
  });

  test('a pin holds a step, and the rest gives way', () => {
    const winnow = kept.steps.find((s) => s.stage === 'winnow')!;
    const at = new Date(Date.parse(winnow.start) + 3_600_000).toISOString();
    const { plan } = repairPlan(room, kept.steps, {
      draws: 0,
      now: countingClock(),
      pins: [{ step: winnow.key, at, how: 'not before' }],
    });
    const moved = plan.steps.find((s) => s.key === winnow.key)!;
    expect(Date.parse(moved.start)).toBeGreaterThanOrEqual(Date.parse(at));
  });

  test('a step put off in a full plan moves its own batch where others can stay, and hardly anything is later', () => {
    const full = eightWeeksRoom();
    const before = planWorkshop(full, { ...quick, budgetMs: 10 });
    const dragging = new Dragging(full, before.steps, []);
    let moved = 0;
    for (const nth of [0, 6, 12, 20]) {
      const step = before.steps.filter((s) => s.stage === 'winnow')[nth]!;
      const at = new Date(Date.parse(step.start) + 2 * 3_600_000).toISOString();
      const { repair, broken } = dragging.to({ step: step.key, at, how: 'not before' });
      expect(verified(full, repair.plan)).toEqual([]);
      const lies = repair.plan.steps.find((s) => s.key === step.key)!;
      expect(Date.parse(lies.start)).toBeGreaterThanOrEqual(Date.parse(at));
      expect(broken.every((b) => b.ids.includes(step.key))).toBe(true);
      moved += repair.moves.length;
      // Dropped where it was dragged to, it is the same plan.
      const dropped = repairPlan(full, before.steps, {
        draws: 0,
        budgetMs: 0,
        pins: [{ step: step.key, at, how: 'not before' }],
      });
      expect(dropped.moves.length).toBeLessThanOrEqual(repair.moves.length);
    }
    expect(moved).toBeLessThan(before.steps.length / 4);
  });
  test('where only planning anew would save the promises, mending moves few steps and proposes the rest', () => {
    const full = eightWeeksRoom();
    const before = planWorkshop(full, { budgetMs: 0, draws: 0, now: countingClock() });
    const third = at(full.now) + 3 * DAY;
    const { start: from } = before.steps.find((s) => s.machineId === 'otto' && at(s.start) >= third)!;
    const to = new Date(at(from) + 4 * DAY).toISOString();
    const broken = { ...full, absences: [{ id: 'x', who: 'otto', from, to, reason: 'belt' }] };
    const { plan, moves, instead } = repairPlan(broken, before.steps, {
      draws: 0,
      budgetMs: 60,
      now: countingClock(),
    });
    expect([verified(broken, plan), verified(broken, instead!.plan)]).toEqual([[], []]);
    expect(moves.length).toBeLessThan(before.steps.length / 10);
    expect(instead!.moves.length).toBeGreaterThan(moves.length + FEW);
    expect(instead!.plan.worth.lateness).toBeLessThan(plan.worth.lateness);
  });
  test('somebody is ill in a full workshop: others do it, no promise slips, and what lies weeks ahead stays', () => {
    const full = eightWeeksRoom();
    const before = planWorkshop(full, { budgetMs: 0, draws: 0, now: countingClock() });
    const sick = before.steps.find((s) => s.personId !== null && s.stage === 'winnow')!;
    const to = new Date(at(sick.start) + DAY).toISOString();
    const absences = [{ id: 'x', who: sick.personId!, from: sick.start, to, reason: 'ill' }];
    const ill = { ...full, absences };
    const { plan, moves } = repairPlan(ill, before.steps, { draws: 0, budgetMs: 60, now: countingClock() });
    expect(verified(ill, plan)).toEqual([]);
    expect(plan.worth.lateness).toBe(before.worth.lateness);
    expect(moves.every((m) => at(m.from) < at(full.now) + 28 * DAY)).toBe(true);
    expect(moves.length).toBeLessThan(before.steps.length / 4);
  });
  test('what is dragged must be in the plan', () => {
    const dragging = new Dragging(room, kept.steps, []);
    expect(() => dragging.to({ step: 'x/winnow/1', at: room.now, how: 'not before' })).toThrow(RangeError);
  });
});
