import { binomialTail, mean, normalDraw, requireWhole, seededRandom, shuffled } from '../numerics/index.ts';
import type { PanelScore } from '../taste/index.ts';

/** How a taster may go about scoring: as one should, differently each time, within a corner of the scale, or the wrong way round. */
export const CARD_HABITS = ['steady', 'unsteady', 'narrow', 'apart'] as const;

/** One of {@link CARD_HABITS}. */
export type CardHabit = (typeof CARD_HABITS)[number];

/** Cards of a panel nobody is on: six tasters, each bar met twice by each. */
export interface DrawnCards {
  tasters: readonly string[];
  bars: readonly string[];
  /** Scores of 0–10 in halves, by taster, bar and round (`session`). */
  scores: readonly PanelScore[];
  /** How each taster goes about it, in their order. */
  habits: readonly CardHabit[];
}

const TASTERS = ['A', 'B', 'C', 'D', 'E', 'F'] as const;
const BARS = ['1', '2', '3', '4'] as const;
const ROUNDS = ['1', '2'] as const;

/** How much a steady taster’s two marks of a bar differ, how much an unsteady one’s, and what is left of the bars’ differences in a corner. */
const STEADY_SD = 0.45;
const UNSTEADY_SD = 2.4;
const CORNER = 0.2;

/** Spread of how high tasters mark throughout: it does no harm, and is there to be told from what does. */
const LEVEL_SD = 0.8;

/** Bars’ true marks, a fair step apart. */
const TRUE_MARKS = [2.4, 4.2, 5.8, 7.6] as const;

/**
 * Draws a panel’s cards with one to three tasters spiked. Each spike shows: an unsteady taster’s two marks of a bar lie 2 apart and more in the
 * mean, a steady one’s below 1.
 *
 * @throws RangeError for a seed that is no whole number
 */
export function drawCards(seed: number): DrawnCards {
  requireWhole(seed, 'the seed');
  const random = seededRandom(seed);
  const spikes = shuffled(CARD_HABITS.slice(1), random).slice(0, 1 + Math.floor(3 * random()));
  const habits = shuffled<CardHabit>(
    [...spikes, ...TASTERS.slice(spikes.length).map(() => 'steady' as const)],
    random,
  );
  const truth = shuffled(TRUE_MARKS, random);
  const scores = TASTERS.flatMap((assessor, k) => {
    const level = LEVEL_SD * normalDraw(random);
    for (;;) {
      const drawn = scoresOf(habits[k]!, truth, level, random);
      if (shows(habits[k]!, drawn))
        return BARS.flatMap((sample, b) =>
          ROUNDS.map((session, r) => ({ sample, assessor, session, score: drawn[b]![r]! })),
        );
    }
  });
  return { tasters: TASTERS, bars: BARS, scores, habits };
}

/** One taster’s two marks of each bar. */
function scoresOf(
  habit: CardHabit,
  truth: readonly number[],
  level: number,
  random: () => number,
): number[][] {
  const middle = 5;
  return truth.map((mark) => {
    const meant =
      habit === 'narrow' ? middle + CORNER * (mark - middle) : habit === 'apart' ? 2 * middle - mark : mark;
    const sd = habit === 'unsteady' ? UNSTEADY_SD : habit === 'narrow' ? STEADY_SD / 2 : STEADY_SD;
    return ROUNDS.map(() => {
      const said = meant + level + sd * normalDraw(random);
      return Math.min(10, Math.max(0, Math.round(2 * said) / 2));
    });
  });
}

/** Whether a habit can be seen in marks. */
function shows(habit: CardHabit, marks: readonly (readonly number[])[]): boolean {
  const between = mean(marks.map(([a, b]) => Math.abs(a! - b!)));
  const means = marks.map(mean);
  const width = Math.max(...means) - Math.min(...means);
  if (habit === 'unsteady') return between >= 2;
  return between < 1 && (habit === 'narrow' ? width < 2 : width > 3);
}

/** What reading a panel’s cards came to. */
export interface CardsRead {
  /** 0–100. */
  points: number;
  right: number;
  of: number;
  /** Chance of so many or more named rightly by guessing one of the four. */
  byChance: number;
}

/**
 * Judges what was said of each taster of a drawn panel. Those who are spiked and those who are not count alike in all, so that calling everybody
 * steady is worth half.
 *
 * @throws RangeError for answers that do not fit the tasters
 */
export function judgeCards(habits: readonly CardHabit[], answers: readonly CardHabit[]): CardsRead {
  if (habits.length === 0 || habits.length !== answers.length)
    throw new RangeError(`${habits.length} tasters need ${habits.length} answers, not ${answers.length}`);
  for (const said of [...habits, ...answers])
    if (!CARD_HABITS.includes(said))
      throw new RangeError(`"${String(said)}" is no habit; it is one of ${CARD_HABITS.join(', ')}`);
  const shareOf = (isSteady: boolean) => {
    const those = habits.flatMap((habit, k) =>
      (habit === 'steady') === isSteady ? [answers[k] === habit] : [],
    );
    return those.length === 0 ? [] : [those.filter(Boolean).length / those.length];
  };
  const right = habits.filter((habit, k) => answers[k] === habit).length;
  return {
    points: Math.round(100 * mean([...shareOf(true), ...shareOf(false)])),
    right,
    of: habits.length,
    byChance: binomialTail(right, habits.length, 1 / CARD_HABITS.length),
  };
}
