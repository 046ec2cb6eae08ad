import { normalDraw, seededRandom } from '../numerics/index.ts';
import { coolingCurve, type BowlReading } from './index.ts';

/**
 * A sample in a cold block whose fat sets as a bell in time: Newton’s cooling and the heat that bell releases. Its slope is known in
 * closed form, so that what is read off the curve can be held against it.
 */
function sample({
  heat,
  at,
  width,
  noise = 0,
}: {
  heat: number;
  at: number;
  width: number;
  noise?: number;
}): { readings: BowlReading[]; steepest: number } {
  const random = seededRandom(3);
  let celsius = 31;
  let steepest = -Infinity;
  const readings: BowlReading[] = [];
  for (let s = 0; s <= 420; s += 0.25) {
    const released = (heat / (width * Math.sqrt(2 * Math.PI))) * Math.exp(-(((s - at) / width) ** 2) / 2);
    const slope = -(celsius - 8) / 90 + released;
    if (s > 30 && s < at + 2 * width) steepest = Math.max(steepest, slope * 60);
    if (s % 1 === 0) readings.push({ seconds: s, celsius: celsius + noise * normalDraw(random) });
    celsius += slope * 0.25;
  }
  return { readings, steepest };
}

test.each<[string, { heat: number; at: number; width: number }, 'under' | 'good' | 'over']>([
  ['sets late and all at once: it rises', { heat: 9, at: 150, width: 20 }, 'under'],
  ['sets steadily: it is level', { heat: 9, at: 130, width: 36 }, 'good'],
  ['has set before: it hardly slows', { heat: 3.5, at: 110, width: 25 }, 'over'],
])('%s', (_, problem, verdict) => {
  const { readings, steepest } = sample(problem);
  const curve = coolingCurve(readings)!;
  expect(curve.verdict).toBe(verdict);
  expect(Math.abs(curve.slope - steepest)).toBeLessThan(0.35);
  // A probe’s noise changes neither.
  const noisy = coolingCurve(sample({ ...problem, noise: 0.05 }).readings)!;
  expect(noisy.verdict).toBe(verdict);
  expect(Math.abs(noisy.slope - curve.slope)).toBeLessThan(0.4);
});

test('the workshop’s own limits decide', () => {
  const { readings } = sample({ heat: 9, at: 130, width: 36 });
  const { slope } = coolingCurve(readings)!;
  expect(coolingCurve(readings, { fallingBelow: slope + 0.1, risingAbove: slope + 1 })!.verdict).toBe('over');
  expect(coolingCurve(readings, { fallingBelow: slope - 1, risingAbove: slope - 0.1 })!.verdict).toBe(
    'under',
  );
});

test('where nothing sets there is no inflection to read', () => {
  expect(coolingCurve(sample({ heat: 0, at: 120, width: 30 }).readings)).toBeNull();
});

test('what is no curve is refused', () => {
  const { readings } = sample({ heat: 9, at: 130, width: 30 });
  expect(() => coolingCurve(readings.slice(0, 10))).toThrow(/20 readings/);
  expect(() => coolingCurve([...readings].reverse())).toThrow(/back in time/);
  expect(() => coolingCurve(readings, { fallingBelow: 1, risingAbove: -1 })).toThrow(/upside down/);
  expect(() => coolingCurve(readings.map((r) => ({ ...r, celsius: Number.NaN })))).toThrow(RangeError);
  expect(() => coolingCurve(readings.slice(0, 21))).toThrow(/more than/);
});

/** The sample as a log tells it that was begun before and ended after: a probe of 3 s, first in the room or a hot bowl, at last in the air. */
function logged(
  problem: { heat: number; at: number; width: number },
  { before, after, every, shown }: { before: number; after: number; every: number; shown: number },
): BowlReading[] {
  const inside = sample(problem).readings;
  const random = seededRandom(11);
  let probe = shown;
  const readings: BowlReading[] = [];
  for (let s = -before; s <= 420 + after; s += 1) {
    const there = s < 0 ? shown : s > 420 ? 21 : inside[s]!.celsius;
    probe += (there - probe) / 3;
    if ((s + before) % every === 0)
      readings.push({
        seconds: s + before,
        celsius: Math.round(100 * (probe + 0.03 * normalDraw(random))) / 100,
      });
  }
  return readings;
}

const SET = {
  under: { heat: 9, at: 150, width: 20 },
  good: { heat: 9, at: 130, width: 36 },
  over: { heat: 3.5, at: 110, width: 25 },
};

test.each([
  ['the log begins in the room', { before: 60, after: 0, every: 1, shown: 21 }],
  ['the log begins in a hot bowl', { before: 60, after: 0, every: 1, shown: 45 }],
  ['the probe is taken out before the log ends', { before: 0, after: 90, every: 1, shown: 31 }],
  ['both, with a reading every five seconds', { before: 60, after: 60, every: 5, shown: 21 }],
  ['a reading every ten seconds', { before: 0, after: 0, every: 10, shown: 31 }],
])('where %s the verdict is the sample’s', (_, log) => {
  for (const [verdict, problem] of Object.entries(SET)) {
    const curve = coolingCurve(logged(problem, log))!;
    expect([verdict, curve.verdict]).toEqual([verdict, verdict]);
    expect(Math.abs(curve.slope - sample(problem).steepest)).toBeLessThan(0.8);
  }
});

test('a log of readings too far apart tells nothing, and says how far they may be', () => {
  const sparse = sample(SET.good).readings.filter((r) => r.seconds % 20 === 0);
  expect(() => coolingCurve(sparse)).toThrow(/every 12 s at least, not every 20 s/);
});
