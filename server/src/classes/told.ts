import { GuestScore, type ClassView, type GuestBarView } from '@wunsch/contract';
import type { GuestBar } from '@wunsch/core/classes';
import type { classGuest } from '../db/schema/index.ts';
import { allergensOf, type LoadedClass } from './load.ts';

/** A guest’s bar as it is shown. */
export const shown = (bar: GuestBar, base: LoadedClass['base']): GuestBarView => ({
  baseMg: bar.baseMg,
  sugarMg: bar.sugarMg,
  flavours: bar.flavours,
  cacaoPercent: bar.cacaoPercent,
  sugarPercent: bar.figures.sugar,
  fatPercent: bar.figures.fat,
  allergens: allergensOf(bar, base),
  flow: bar.flow,
  faults: bar.faults,
});

/** How a guest likes what they made; null until they have said. */
export const scoreOf = (row: typeof classGuest.$inferSelect) => {
  const read = GuestScore.safeParse(row.score);
  return read.success ? read.data : null;
};

/** What a class offers, with what it is called and holds. */
export const offersOf = ({ facts, shelf }: LoadedClass): ClassView['offers'] =>
  facts.flavours.map(({ ingredientId, percent }) => ({
    ingredientId,
    percent,
    name: shelf.get(ingredientId)?.name ?? '?',
    allergens: [...(shelf.get(ingredientId)?.allergens ?? [])],
  }));
