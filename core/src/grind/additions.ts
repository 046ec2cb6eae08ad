import type { Bounds } from '../readings/index.ts';
import { crystalShare, isEmulsifier, type Ingredient } from '../recipe/index.ts';

/** When sugar joins: at once with the nibs, or once the liquor runs. */
export type SugarSchool = 'early' | 'late';

/** What a line of the recipe is, to the stones. */
export type AdditionKind =
  | 'wet the stones'
  | 'nibs'
  | 'sugar'
  | 'milk'
  | 'butter'
  | 'flavour'
  | 'lecithin'
  | 'other';

/** A line of the timed checklist. */
export interface PlannedAddition {
  ingredientId: string;
  kind: AdditionKind;
  massMg: number;
  /** Hours after the first nibs; for `before-end` hours before the aim. */
  atHours: number;
  from: 'start' | 'before-end';
}

/** Hours at which things usually join, from the first nibs; lecithin and flavours before the end. */
export const ADDITION_HOURS = {
  sugar: { early: 0.5, late: 6 },
  milk: 8,
  butter: 7,
  flavour: 1,
  lecithin: 2,
} as const;

/** Share of the added butter that wets the stones first, where there is butter. */
const WETTING_SHARE = 0.1;

/** What an ingredient is, to the stones. */
export function additionKind(
  ingredient: Pick<Ingredient, 'composition' | 'cacao' | 'nutrition'>,
): AdditionKind {
  const { composition: c, cacao } = ingredient;
  if (cacao === 'bean') return 'nibs';
  if (cacao === 'butter' || c.cocoaButter + c.otherFat + c.milkFat > 90) return 'butter';
  if (isEmulsifier(ingredient)) return 'lecithin';
  if (crystalShare(ingredient) > 75) return 'sugar';
  if (c.milkSolids > 40) return 'milk';
  if (cacao === 'powder' || c.otherSolids + c.otherFat > 90)
    return c.otherFat > 30 || cacao === 'powder' ? 'other' : 'flavour';
  return 'other';
}

/**
 * Timed checklist of a charge: a little butter wets the preheated stones, nibs go in as fast as they keep flowing, sugar at once or
 * once the liquor runs, then butter and milk powder, flavours and lecithin in the last hours. In order of time.
 */
export function planAdditions(
  lines: readonly { ingredient: Ingredient; massMg: number }[],
  sugar: SugarSchool = 'late',
): PlannedAddition[] {
  const plan: PlannedAddition[] = [];
  for (const { ingredient, massMg } of lines) {
    if (massMg <= 0) continue;
    const kind = additionKind(ingredient);
    const line = (k: AdditionKind, mg: number, atHours: number, from: PlannedAddition['from'] = 'start') =>
      plan.push({ ingredientId: ingredient.id, kind: k, massMg: mg, atHours, from });
    if (kind === 'nibs') line(kind, massMg, 0);
    else if (kind === 'sugar') line(kind, massMg, ADDITION_HOURS.sugar[sugar]);
    else if (kind === 'butter') {
      const wet = Math.round(massMg * WETTING_SHARE);
      if (wet > 0) line('wet the stones', wet, -0.25);
      line(kind, massMg - wet, ADDITION_HOURS.butter);
    } else if (kind === 'lecithin') line(kind, massMg, ADDITION_HOURS.lecithin, 'before-end');
    else if (kind === 'flavour') line(kind, massMg, ADDITION_HOURS.flavour, 'before-end');
    else line(kind, massMg, ADDITION_HOURS.milk);
  }
  const order = (a: PlannedAddition) => (a.from === 'start' ? a.atHours : 1000 - a.atHours);
  return plan.sort((a, b) => order(a) - order(b));
}

/** What is out of order in the additions as they were made. */
export type OrderNote =
  /** Dry things went in while nothing was fluid: stones may stall. */
  | { code: 'dry-before-nibs'; ingredientId: string }
  /** Lecithin long before the end: it wears out under heat and shear, and its use is lost. */
  | { code: 'lecithin-early'; ingredientId: string; hours: number }
  /** Milk powder before the sugar is fine draws fat away from it. */
  | { code: 'milk-before-sugar'; ingredientId: string };

/** Hours before which lecithin counts as early. */
const LECITHIN_EARLY = 6;

/** Looks over additions in the order they were made, hours from the start of the step. */
export function orderNotes(
  made: readonly { ingredientId: string; kind: AdditionKind; hours: number }[],
  plannedHours: number | null,
): OrderNote[] {
  const notes: OrderNote[] = [];
  const nibs = made.findIndex((m) => m.kind === 'nibs');
  const sugar = made.findIndex((m) => m.kind === 'sugar');
  made.forEach((m, i) => {
    const dry = m.kind === 'sugar' || m.kind === 'milk' || m.kind === 'other';
    if (dry && nibs > i) notes.push({ code: 'dry-before-nibs', ingredientId: m.ingredientId });
    if (m.kind === 'milk' && sugar > i)
      notes.push({ code: 'milk-before-sugar', ingredientId: m.ingredientId });
    if (m.kind === 'lecithin' && m.hours < LECITHIN_EARLY && (plannedHours ?? 24) > 2 * LECITHIN_EARLY)
      notes.push({ code: 'lecithin-early', ingredientId: m.ingredientId, hours: m.hours });
  });
  return notes;
}

/** Highest temperature of the mass in the grinder for unroasted beans, °C. */
export const UNROASTED_CEILING_C = 45;

/** How paste in a grinder can warm and cool, by which faults of its probe are told. */
export const GRINDER_BOUNDS: Bounds = { slack: 4, fastest: 0.5, settles: 15 };
