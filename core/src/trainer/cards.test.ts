import { assessorUse } from '../taste/index.ts';
import { seededRandom } from '../numerics/index.ts';
import { CARD_HABITS, drawCards, judgeCards, PASSED, type CardHabit, type DrawnCards } from './index.ts';

const marksOf = ({ scores }: DrawnCards, taster: string) =>
  ['1', '2', '3', '4'].map((bar) =>
    scores.filter((s) => s.assessor === taster && s.sample === bar).map((s) => s.score),
  );

/** What anyone can do with a pencil: two marks of a bar far apart, all marks in one place, the best bar marked worst. */
function byEye(cards: DrawnCards): CardHabit[] {
  const means = cards.bars.map((bar) => {
    const all = cards.scores.filter((s) => s.sample === bar).map((s) => s.score);
    return all.sort((a, b) => a - b)[Math.floor(all.length / 2)]!;
  });
  const best = means.indexOf(Math.max(...means));
  const worst = means.indexOf(Math.min(...means));
  return cards.tasters.map((taster) => {
    const marks = marksOf(cards, taster);
    const apart = marks.reduce((sum, [a, b]) => sum + Math.abs(a! - b!), 0) / marks.length;
    const own = marks.map(([a, b]) => (a! + b!) / 2);
    if (apart > 1.5) return 'unsteady';
    if (Math.max(...own) - Math.min(...own) < 2.5) return 'narrow';
    return own[best]! < own[worst]! ? 'apart' : 'steady';
  });
}

describe('spiked cards', () => {
  test('have one to three spiked tasters, every bar twice by each, and marks on the scale', () => {
    for (let seed = 0; seed < 100; seed += 1) {
      const cards = drawCards(seed);
      const spiked = cards.habits.filter((h) => h !== 'steady');
      expect(spiked.length).toBeGreaterThanOrEqual(1);
      expect(new Set(spiked).size).toBe(spiked.length);
      expect(spiked.length).toBeLessThanOrEqual(3);
      expect(cards.scores).toHaveLength(6 * 4 * 2);
      for (const { score } of cards.scores)
        expect([score >= 0, score <= 10, score % 0.5]).toEqual([true, true, 0]);
      expect(drawCards(seed)).toEqual(cards);
    }
    for (const seed of [Number.NaN, 0.5, Infinity]) expect(() => drawCards(seed)).toThrow(RangeError);
  });

  test('can be read by eye, and the panel’s own figures say the same of nearly all', () => {
    let agreed = 0;
    for (let seed = 0; seed < 200; seed += 1) {
      const cards = drawCards(seed);
      expect([seed, judgeCards(cards.habits, byEye(cards)).points >= PASSED]).toEqual([seed, true]);
      const words = assessorUse(cards.scores).map((a) => a.word);
      agreed += words.filter((word, k) => word === cards.habits[k]).length;
    }
    expect(agreed / 1200).toBeGreaterThan(0.9);
  });

  test('guessing fails, and so does calling everybody steady, or nobody', () => {
    const random = seededRandom(11);
    let passed = 0;
    for (let seed = 0; seed < 400; seed += 1) {
      const { habits } = drawCards(seed);
      const guessed = habits.map(() => CARD_HABITS[Math.floor(4 * random())]!);
      if (judgeCards(habits, guessed).points >= PASSED) passed += 1;
      expect(judgeCards(habits, habits)).toMatchObject({ points: 100, right: 6 });
      for (const all of ['steady', 'unsteady'] as const)
        expect(
          judgeCards(
            habits,
            habits.map(() => all),
          ).points,
        ).toBeLessThan(PASSED);
    }
    expect(passed / 400).toBeLessThan(0.03);
    // Six of six by guessing one of four.
    const { habits } = drawCards(1);
    expect(judgeCards(habits, habits).byChance).toBeCloseTo(0.25 ** 6, 12);
  });

  test('answers that do not fit are refused', () => {
    const { habits } = drawCards(1);
    expect(() => judgeCards(habits, habits.slice(1))).toThrow(/6 tasters need 6 answers/);
    expect(() => judgeCards([], [])).toThrow(RangeError);
    expect(() => judgeCards(habits, [...habits.slice(1), 'bored' as CardHabit])).toThrow(/is no habit/);
  });
});
