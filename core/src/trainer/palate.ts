import { binomialTail, requireNotBelow0, requireWhole, seededRandom, shuffled } from '../numerics/index.ts';

/** What can be in a cup: three tastes a chocolate has, salt, and nothing. */
export const TASTES = ['sweet', 'sour', 'bitter', 'salty', 'water'] as const;

/** One of {@link TASTES}. */
export type Taste = (typeof TASTES)[number];

/** What is dissolved in a litre of water so that most people name the taste, g (ISO 8586-1:1993, matching test). */
export const IN_A_LITRE: Readonly<Record<Exclude<Taste, 'water'>, { of: string; grams: number }>> = {
  sweet: { of: 'sugar', grams: 16 },
  sour: { of: 'citric acid', grams: 1 },
  bitter: { of: 'caffeine', grams: 0.5 },
  salty: { of: 'salt', grams: 5 },
};

/** What is exercised: naming a taste, putting strengths in order, scoring the same thing alike twice. */
export const PALATE_EXERCISES = ['name', 'order', 'twice'] as const;

/** One of {@link PALATE_EXERCISES}. */
export type PalateExercise = (typeof PALATE_EXERCISES)[number];

/** A cup as it is poured. */
export interface Cup {
  /** Three digits, none alike. */
  code: string;
  taste: Taste;
  /** Share of the strength in {@link IN_A_LITRE}, in a litre. */
  strength: number;
}

/** Strengths that are put in order or scored: each a fair step apart (ISO 3972 dilutes by 0.7 or stronger). */
const STEPS = [0.4, 0.6, 0.85, 1.2] as const;

/** Cups of the naming exercise; each taste once, and some of them twice. */
const NAMED = 8;

/** Draws the cups of an exercise, in the order they are tasted. @throws RangeError for a seed that is no whole number */
export function drawCups(exercise: PalateExercise, seed: number): Cup[] {
  requireWhole(seed, 'the seed');
  const random = seededRandom(seed);
  const taste = random() < 0.5 ? ('sweet' as const) : ('sour' as const);
  const poured: Omit<Cup, 'code'>[] =
    exercise === 'name'
      ? shuffled([...TASTES, ...shuffled(TASTES, random).slice(0, NAMED - TASTES.length)], random).map(
          (t) => ({
            taste: t,
            strength: t === 'water' ? 0 : 1,
          }),
        )
      : exercise === 'order'
        ? shuffled(STEPS, random).map((strength) => ({ taste, strength }))
        : shuffled([...STEPS, ...STEPS], random).map((strength) => ({ taste, strength }));
  const codes = new Set<string>();
  while (codes.size < poured.length) codes.add(String(100 + Math.floor(900 * random())));
  const list = [...codes];
  return poured.map((cup, k) => ({ code: list[k]!, ...cup }));
}

/** Grams of what is dissolved for so much water, mL. */
export function gramsFor({ taste, strength }: Pick<Cup, 'taste' | 'strength'>, millilitres: number): number {
  requireNotBelow0(millilitres, 'the water, mL,');
  return taste === 'water' ? 0 : (IN_A_LITRE[taste].grams * strength * millilitres) / 1000;
}

/** What an exercise came to. */
export interface PalateResult {
  /** 0–100. */
  points: number;
  /** Of how many: cups named, pairs in order, pairs of the same. */
  right: number;
  of: number;
  /** Chance of so many by guessing; null where nothing can be guessed. */
  byChance: number | null;
}

/** Marks of the same cup this far apart on a scale of ten are not alike at all. */
const APART = 4;

/**
 * Judges the answers to an exercise, one a cup in their order: tastes named, ranks from weakest (1) to strongest, or marks of 0–10. By naming, each
 * right cup counts and guessing is reckoned with one in five; by ranking, each pair in its order; by marks, how near the two of each strength are,
 * and that stronger ones are marked higher, so that the same mark for all is worth nothing.
 *
 * @throws RangeError for answers that do not fit the cups
 */
export function judgePalate(
  exercise: PalateExercise,
  cups: readonly Cup[],
  answers: readonly (string | number)[],
): PalateResult {
  if (cups.length === 0 || answers.length !== cups.length)
    throw new RangeError(`${cups.length} cups need ${cups.length} answers, not ${answers.length}`);
  if (exercise === 'name') {
    for (const a of answers)
      if (!(TASTES as readonly unknown[]).includes(a))
        throw new RangeError(`"${String(a)}" is no taste; it is one of ${TASTES.join(', ')}`);
    const right = cups.filter((c, k) => c.taste === answers[k]).length;
    return {
      points: Math.round((100 * right) / cups.length),
      right,
      of: cups.length,
      byChance: binomialTail(right, cups.length, 1 / TASTES.length),
    };
  }
  const marks = answers.map((a) => {
    if (typeof a !== 'number' || !Number.isFinite(a) || a < 0 || a > 10)
      throw new RangeError(`${String(a)} is no rank or mark of 0 to 10`);
    return a;
  });
  const pairs = cups.flatMap((a, i) => cups.slice(i + 1).map((b, k) => [i, i + 1 + k, a, b] as const));
  const differing = pairs.filter(([, , a, b]) => a.strength !== b.strength);
  const right = differing.filter(
    ([i, k, a, b]) => (marks[i]! - marks[k]!) * (a.strength - b.strength) > 0,
  ).length;
  const inOrder = right / differing.length;
  if (exercise === 'order')
    return {
      points: Math.round(100 * inOrder),
      right,
      of: differing.length,
      byChance: right === differing.length ? 1 / factorial(cups.length) : null,
    };
  const same = pairs.filter(([, , a, b]) => a.strength === b.strength);
  const alike =
    same.reduce((sum, [i, k]) => sum + Math.max(0, 1 - Math.abs(marks[i]! - marks[k]!) / APART), 0) /
    same.length;
  return {
    // A coin puts half of all pairs in order.
    points: Math.round(100 * alike * Math.max(0, 2 * inOrder - 1)),
    right: same.filter(([i, k]) => Math.abs(marks[i]! - marks[k]!) <= 1).length,
    of: same.length,
    byChance: null,
  };
}

const factorial = (n: number): number => (n <= 1 ? 1 : n * factorial(n - 1));
