import fc from 'fast-check';
import { makeBean, makeOven, simulateRoast, type RoastEvent } from '../roast/index.ts';
import {
  BOWL_PLACES,
  bowlPath,
  drawBowl,
  drawOvenAccident,
  PASSED,
  runBowl,
  scoreBowl,
  scoreOf,
  scoreRoast,
  withAccident,
  type BowlHands,
} from './index.ts';

/** Second at which a bowl comes to a temperature with these hands. */
function reaches(
  bowl: ReturnType<typeof drawBowl>,
  hands: BowlHands,
  celsius: number,
  way: 'down' | 'up',
  after = 0,
): number {
  const path = bowlPath(bowl, hands, 5400);
  const found = path.find(
    (p) => p.minutes * 60 > after && (way === 'down' ? p.celsius <= celsius : p.celsius >= celsius),
  );
  return Math.round(found!.minutes * 60);
}

/**
 * A careful hand: melt, over cool water to the cool step, held there for so long, back on warm water to the window, off, and pour.
 */
function held(bowl: ReturnType<typeof drawBowl>, seconds: number): { hands: BowlHands; pour: number } {
  const moved: { seconds: number; place: (typeof BOWL_PLACES)[number] }[] = [{ seconds: 30, place: 'cool' }];
  const hands = (): BowlHands => ({ moved, stirred: [] });
  const cold = reaches(bowl, hands(), 27.4, 'down');
  moved.push({ seconds: cold, place: 'bench' });
  const warm = cold + seconds;
  moved.push({ seconds: warm, place: 'warm' });
  const lifted = reaches(bowl, hands(), 31.5, 'up', warm);
  moved.push({ seconds: lifted, place: 'bench' });
  return { hands: hands(), pour: lifted + 100 };
}

/** Held for as long as the screen's own estimate asks: until there are crystals enough. */
function careful(bowl: ReturnType<typeof drawBowl>): { hands: BowlHands; pour: number } {
  for (let seconds = 60; seconds < 600; seconds += 20) {
    const tried = held(bowl, seconds);
    if (runBowl(bowl, tried.hands, tried.pour).stable.at(-1)! > 0.007) return tried;
  }
  return held(bowl, 600);
}

describe('a practised bowl', () => {
  test('a careful hand passes at every level without an accident, and doing nothing does not', () => {
    for (let seed = 1; seed <= 40; seed += 1)
      for (const level of [1, 2] as const) {
        const bowl = drawBowl(seed, level);
        const { hands, pour } = careful(bowl);
        const score = scoreBowl(bowl, hands, pour);
        expect([seed, score.verdict]).toEqual([seed, 'good']);
        expect(score.points).toBeGreaterThanOrEqual(90);
        expect(scoreBowl(bowl, { moved: [], stirred: [] }, 300).points).toBeLessThan(PASSED / 2);
      }
  });

  test('what usually goes wrong is told apart: poured cold, warmed too far, never cooled', () => {
    const bowl = drawBowl(3, 1);
    const { hands, pour } = careful(bowl);
    const cold = hands.moved[1]!.seconds;
    expect(scoreBowl(bowl, { moved: hands.moved.slice(0, 2), stirred: [] }, cold + 60).verdict).toMatch(
      /unstable|under/,
    );
    const left = { moved: hands.moved.slice(0, 3), stirred: [] };
    expect(scoreBowl(bowl, left, reaches(bowl, left, 37, 'up', cold))).toMatchObject({ verdict: 'lost' });
    const warm: BowlHands = { moved: [{ seconds: 0, place: 'bench' }], stirred: [] };
    expect(scoreBowl(bowl, warm, reaches(bowl, warm, 31.8, 'down')).verdict).toBe('under');
    // The same path left standing makes fewer crystals, and says so.
    const still = scoreBowl(bowl, { ...hands, stirred: [{ seconds: 0, level: 'still' }] }, pour);
    expect(still.marks.find((m) => m.id === 'stirred')!.points).toBeLessThan(5);
    expect(still.points).toBeLessThan(scoreBowl(bowl, hands, pour).points);
  });

  test('follows Newton’s law: what is left of the difference falls by the same share in the same time', () => {
    const bowl = drawBowl(1, 1);
    const path = bowlPath(bowl, { moved: [{ seconds: 0, place: 'cool' }], stirred: [] }, 1200);
    const { celsius, seconds } = bowl.around.cool;
    for (const p of path)
      expect(p.celsius).toBeCloseTo(celsius + (44.5 - celsius) * Math.exp((-p.minutes * 60) / seconds), 6);
  });

  test('accidents happen at the third level only, and change what they touch', () => {
    const kinds = new Set<string>();
    for (let seed = 1; seed <= 60; seed += 1) {
      expect(drawBowl(seed, 2).accident).toBeNull();
      const bowl = drawBowl(seed, 3);
      kinds.add(bowl.accident!.kind);
      // A call changes what hands do, not what surrounds the bowl.
      if (bowl.accident!.kind === 'telephone') continue;
      const place = bowl.accident!.kind === 'water-boils' ? ('warm' as const) : ('bench' as const);
      const hands: BowlHands = { moved: [{ seconds: 0, place }], stirred: [] };
      const [with_, without] = [bowl, { ...bowl, accident: null }].map((b) =>
        bowlPath(b, hands, bowl.accident!.at + 300),
      );
      const before = with_!.filter((p) => p.minutes * 60 <= bowl.accident!.at);
      expect(before).toEqual(without!.slice(0, before.length));
      expect(Math.abs(with_!.at(-1)!.celsius - without!.at(-1)!.celsius)).toBeGreaterThan(0.4);
    }
    expect([...kinds].sort()).toEqual(['draught', 'telephone', 'water-boils']);
  });

  test('hands out of order, or a level that is none, are refused', () => {
    const bowl = drawBowl(1, 1);
    expect(() => drawBowl(1, 4 as never)).toThrow(/level is 1, 2 or 3/);
    expect(() =>
      bowlPath(
        bowl,
        {
          moved: [
            { seconds: 9, place: 'warm' },
            { seconds: 3, place: 'cool' },
          ],
          stirred: [],
        },
        60,
      ),
    ).toThrow(/order of time/);
    expect(() =>
      bowlPath(bowl, { moved: [{ seconds: Number.NaN, place: 'warm' }], stirred: [] }, 60),
    ).toThrow(/order of time/);
  });
});

describe('a practised roast', () => {
  const plan = { name: 'p', stages: [{ name: 'a', setC: 125, minutes: 25, fan: true }] };
  const run = (events: readonly RoastEvent[]) =>
    simulateRoast({
      bean: makeBean(),
      oven: makeOven({ kind: 'fan', usableKg: 3 }),
      plan,
      loadKg: 2,
      events,
      until: 3000,
    });
  const wanted = { doseMinutes: 10, acidGone: 0.6, stirSeconds: 300, ceilingC: 140 };
  const stirs = [300, 600, 900, 1200, 1500, 1800];
  /** When a run comes to a dose. */
  const at = (r: ReturnType<typeof run>, dose: number) => r.seconds[r.dose.findIndex((d) => d >= dose)]!;

  test('out at the wanted dose is best; earlier and later cost points, more the further off', () => {
    const r = run([]);
    const points = (dose: number) => scoreRoast(r, stirs, at(r, dose), wanted).marks[0]!.points;
    expect(points(10)).toBeGreaterThanOrEqual(43);
    expect(points(8)).toBeLessThan(points(9.5));
    expect(points(6)).toBeLessThan(points(8));
    expect(points(12)).toBeLessThan(points(10));
    expect(scoreRoast(r, [], at(r, 10), wanted).marks[2]!.points).toBe(0);
    expect(() => scoreRoast(r, [], 0, wanted)).toThrow(/has not begun/);
  });

  test('a thermostat that sticks heats on until the door is opened or another setting is chosen', () => {
    const accident = { kind: 'thermostat-sticks' as const, at: 600, celsius: 150 };
    expect(drawOvenAccident(5, 2)).toBeNull();
    expect(drawOvenAccident(5, 3)!.at).toBeGreaterThanOrEqual(600);
    const hottest = (events: readonly RoastEvent[]) =>
      Math.max(...run(withAccident(events, accident)).surface);
    const alone = hottest([]);
    expect(alone).toBeGreaterThan(140);
    expect(hottest([{ seconds: 660, kind: 'set', setC: 125 }])).toBeLessThan(alone - 8);
    // The door frees it and the plan goes on where it stood: no stage is skipped.
    const two = { name: 'p', stages: [...plan.stages, { name: 'b', setC: 90, minutes: 10, fan: true }] };
    const freed = simulateRoast({
      bean: makeBean(),
      oven: makeOven({ kind: 'fan', usableKg: 3 }),
      plan: two,
      loadKg: 2,
      events: withAccident([{ seconds: 700, kind: 'door', lasts: 10 }], accident),
    });
    expect(freed.stageStarts).toEqual([0, 1500, 2100]);
    const setAt = (s: number) => freed.set[freed.seconds.findIndex((x) => x >= s)]!;
    expect([setAt(650) - setAt(800), setAt(800) - setAt(1600)]).toEqual([25, 35]);
    expect(scoreRoast(run(withAccident([], accident)), stirs, 1500, wanted).marks[3]!.points).toBeLessThan(
      10,
    );
  });
});

test('a score is the share of points had, never more, and refuses nonsense', () => {
  fc.assert(
    fc.property(
      fc.array(
        fc.record({ of: fc.integer({ min: 1, max: 60 }), share: fc.double({ min: 0, max: 1, noNaN: true }) }),
        { minLength: 1 },
      ),
      (list) => {
        const marks = list.map(({ of, share }) => ({
          id: 'dose' as const,
          of,
          points: Math.floor(of * share),
          figure: null,
          wanted: null,
        }));
        const { points } = scoreOf(marks);
        expect(points).toBeGreaterThanOrEqual(0);
        expect(points).toBeLessThanOrEqual(100);
      },
    ),
  );
  expect(() => scoreOf([])).toThrow(/needs marks/);
  expect(() => scoreOf([{ id: 'dose', of: 5, points: 6, figure: 1, wanted: 1 }])).toThrow(/6 of 5/);
  expect(() => scoreOf([{ id: 'dose', of: 5, points: Number.NaN, figure: 1, wanted: 1 }])).toThrow(/of 5/);
});
