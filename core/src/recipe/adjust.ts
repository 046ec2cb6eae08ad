import { requireAbove0 } from '../numerics/index.ts';
import { recipeFigures, type RecipeLine } from './figures.ts';

/** Which school of counting a wish speaks of. */
export type CacaoSchool = 'all' | 'beans';

/** A wish for the recipe at hand. */
export interface CacaoWish {
  lines: readonly RecipeLine[];
  /** Wanted cacao %, above 0 and at most 100. */
  percent: number;
  school: CacaoSchool;
  /** Mass of nibs (all bean lines together) there is; the recipe's own where left out. */
  beansMg?: number;
}

/** The new recipe, or why the wish cannot be met with these ingredients. */
export type CacaoAnswer =
  | { ok: true; lines: RecipeLine[] }
  | { ok: false; reason: 'no-beans' | 'nothing-to-change'; nearestPercent: number };

/**
 * What to weigh so that the bowl has the wanted cacao %, keeping all nibs there are.
 *
 * Bean lines are scaled to `beansMg`; the lines that do not count (sugar, milk, …) are scaled together by
 * one factor; added butter and powder keep their ratio to the beans. With the beans-only school every
 * line that is not bean is scaled. Masses are whole mg, what does not count rounded down, so that the wish is
 * met and never just missed.
 *
 * @throws RangeError for a percentage outside (0, 100]
 */
export function adjustToCacao({ lines, percent, school, beansMg }: CacaoWish): CacaoAnswer {
  if (!(percent > 0 && percent <= 100))
    throw new RangeError(`a cacao share of ${percent} % is outside 0–100 %`);
  if (beansMg !== undefined) requireAbove0(beansMg, 'the mass of nibs');
  const bean = mass(lines, (l) => l.ingredient.cacao === 'bean');
  const figures = recipeFigures(lines);
  if (bean === 0) return { ok: false, reason: 'no-beans', nearestPercent: 0 };
  const scale = (beansMg ?? bean) / bean;
  const counts = (l: RecipeLine) =>
    school === 'beans' ? l.ingredient.cacao === 'bean' : l.ingredient.cacao !== 'none';
  const counted = mass(lines, counts) * scale;
  const free = mass(lines, (l) => !counts(l)) * scale;
  const wanted = counted * (100 / percent - 1);
  if (free === 0 && wanted > 0.5) {
    const nearestPercent = school === 'all' ? figures.cacaoAll : figures.cacaoBeans;
    return { ok: false, reason: 'nothing-to-change', nearestPercent };
  }
  const factor = free === 0 ? 0 : wanted / free;
  return {
    ok: true,
    lines: lines.map((l) => ({
      ...l,
      massMg: counts(l) ? Math.round(l.massMg * scale) : Math.floor(l.massMg * scale * factor),
    })),
  };
}

/** Scales every line so that the whole comes to `totalMg`; rounding goes into the largest line, so the sum is exact. */
export function scaleToTotal(lines: readonly RecipeLine[], totalMg: number): RecipeLine[] {
  requireAbove0(totalMg, 'the mass a recipe is scaled to');
  const now = mass(lines, () => true);
  if (now === 0) throw new RangeError('a recipe without mass cannot be scaled');
  const scaled = lines.map((l) => ({ ...l, massMg: Math.round((l.massMg * totalMg) / now) }));
  const largest = scaled.reduce((best, l) => (l.massMg > best.massMg ? l : best));
  largest.massMg += totalMg - mass(scaled, () => true);
  return scaled;
}

function mass(lines: readonly RecipeLine[], keep: (line: RecipeLine) => boolean): number {
  return lines.reduce((sum, l) => sum + (keep(l) ? l.massMg : 0), 0);
}
