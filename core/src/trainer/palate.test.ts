import { seededRandom } from '../numerics/index.ts';
import {
  drawCups,
  gramsFor,
  IN_A_LITRE,
  judgePalate,
  PALATE_EXERCISES,
  PASSED,
  TASTES,
  type Cup,
} from './index.ts';

describe('cups', () => {
  test.each(PALATE_EXERCISES)('of the exercise %s have codes that differ and tell nothing', (exercise) => {
    for (let seed = 0; seed < 60; seed += 1) {
      const cups = drawCups(exercise, seed);
      expect(new Set(cups.map((c) => c.code)).size).toBe(cups.length);
      for (const { code } of cups) expect(code).toMatch(/^[1-9]\d\d$/);
      if (exercise === 'name') {
        expect(cups).toHaveLength(8);
        expect(new Set(cups.map((c) => c.taste))).toEqual(new Set(TASTES));
      } else expect(new Set(cups.map((c) => c.taste)).size).toBe(1);
    }
    expect(drawCups(exercise, 3)).toEqual(drawCups(exercise, 3));
    expect(() => drawCups(exercise, 0.5)).toThrow(RangeError);
  });

  test('what is dissolved goes with the water', () => {
    expect(gramsFor({ taste: 'sweet', strength: 1 }, 500)).toBe(IN_A_LITRE.sweet.grams / 2);
    expect(gramsFor({ taste: 'water', strength: 0 }, 500)).toBe(0);
    expect(() => gramsFor({ taste: 'sour', strength: 1 }, -1)).toThrow(RangeError);
  });
});

describe('judging', () => {
  const truth = (exercise: (typeof PALATE_EXERCISES)[number], cups: readonly Cup[]) =>
    cups.map((c) => (exercise === 'name' ? c.taste : 1 + 5 * c.strength));

  test.each(PALATE_EXERCISES)('a perfect palate has all points in %s, a guessing one fails', (exercise) => {
    const random = seededRandom(5);
    let passed = 0;
    for (let seed = 0; seed < 200; seed += 1) {
      const cups = drawCups(exercise, seed);
      expect(judgePalate(exercise, cups, truth(exercise, cups)).points).toBe(100);
      const guesses = cups.map(() =>
        exercise === 'name' ? TASTES[Math.floor(5 * random())]! : 10 * random(),
      );
      if (judgePalate(exercise, cups, guesses).points >= PASSED) passed += 1;
    }
    // Four strengths in order are guessed one time in six at least nearly so.
    expect(passed / 200).toBeLessThan(exercise === 'order' ? 0.22 : 0.03);
  });

  test('the same mark for everything is worth nothing; by chance is the binomial tail', () => {
    const cups = drawCups('twice', 1);
    expect(
      judgePalate(
        'twice',
        cups,
        cups.map(() => 5),
      ).points,
    ).toBe(0);
    const named = drawCups('name', 1);
    const all = judgePalate('name', named, truth('name', named));
    expect(all.byChance).toBeCloseTo(0.2 ** 8, 12);
    const none = judgePalate(
      'name',
      named,
      named.map((c) => TASTES.find((t) => t !== c.taste)!),
    );
    expect(none).toMatchObject({ points: 0, right: 0, byChance: 1 });
    const ordered = drawCups('order', 1);
    expect(judgePalate('order', ordered, truth('order', ordered)).byChance).toBeCloseTo(1 / 24, 12);
  });

  test('a steady but noisy palate scores between the two', () => {
    const random = seededRandom(2);
    const mean = (noise: number) => {
      let sum = 0;
      for (let seed = 0; seed < 100; seed += 1) {
        const cups = drawCups('twice', seed);
        const marks = cups.map((c) => Math.min(10, Math.max(0, 7 * c.strength + noise * (random() - 0.5))));
        sum += judgePalate('twice', cups, marks).points / 100;
      }
      return sum;
    };
    const [steady, shaky] = [mean(1.5), mean(8)];
    expect(steady).toBeGreaterThan(75);
    expect(shaky).toBeLessThan(50);
  });

  test.each([
    ['too few answers', ['sweet']],
    ['an answer that is no taste', Array.from({ length: 8 }, () => 'umami')],
  ])('%s are refused', (_, answers) => {
    expect(() => judgePalate('name', drawCups('name', 1), answers)).toThrow(RangeError);
    expect(() => judgePalate('order', drawCups('order', 1), [1, 2, 3, Number.NaN])).toThrow(RangeError);
    expect(() => judgePalate('twice', [], [])).toThrow(RangeError);
  });
});
