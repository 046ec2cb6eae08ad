import { useMemo } from 'react';
import type { FillingRecord, ParcelComposition, StockItem } from '@wunsch/contract';
import { MAY_FILL } from '@wunsch/core/ledger';
import { parts, type RecipeLine } from '@wunsch/core/recipe';
import { useRead } from '../../shell/door.tsx';
import { costNow, useIngredients } from '../recipe/index.ts';

/** Fillings that were made, those on hand first. */
export function useFillings(): FillingRecord[] | undefined {
  return useRead<FillingRecord[]>('/api/fillings').data;
}

/** Parcels a filling may be made of: chocolate, cacao and fillings on hand that are free. */
export function useFillingStock(): StockItem[] {
  const { data } = useRead<StockItem[]>('/api/stock-items');
  return useMemo(
    () =>
      (data ?? []).filter(
        (p) => MAY_FILL.has(p.material) && p.material !== 'ingredient' && p.remainingMg > 0 && !p.onHold,
      ),
    [data],
  );
}

/** One thing in a pot, off the shelf or out of a parcel; what is not chosen yet is null. */
export interface PotLine {
  of: { ingredientId: string } | { parcelId: string } | null;
  massMg: number | null;
}

/** What is in a pot, as far as it is known. */
export interface Pot {
  lines: RecipeLine[];
  /** The same with as little sugar in it as there may be, where a sheet does not tell sugar from milk. */
  leastSugar: RecipeLine[];
  /** Bought chocolate whose sheet does not say all that is in it. */
  unknown: string[];
  /** Whether nothing is known of some of it, so that no figure can be told. */
  isBlind: boolean;
}

/** g of sugar in 100 g of what a sheet does not tell apart, at the least: milk chocolate holds more sugar than milk. */
const LEAST_SUGAR = 50;

/** What is in a pot; null until all of it is read. */
export function usePot(lines: readonly PotLine[]): Pot | null {
  const ingredients = useIngredients();
  const parcels = [
    ...new Set(lines.flatMap(({ of }) => (of && 'parcelId' in of ? [of.parcelId] : []))),
  ].sort();
  const { data } = useRead<ParcelComposition[]>(
    parcels.length > 0 ? `/api/compositions?of=${parcels.join(',')}` : null,
  );
  const pot: Pot = { lines: [], leastSugar: [], unknown: [], isBlind: false };
  for (const { of, massMg } of lines) {
    if (!of || !massMg) continue;
    if ('ingredientId' in of) {
      const ingredient = ingredients.get(of.ingredientId);
      if (!ingredient) return null;
      const line = { ingredient: { ...ingredient, pricePerKg: costNow(ingredient) }, massMg };
      pot.lines.push(line);
      pot.leastSugar.push(line);
      continue;
    }
    const made = data?.find((c) => c.parcelId === of.parcelId);
    if (!made) return null;
    const wholeMg = made.lines.reduce((sum, l) => sum + l.massMg, 0);
    if (wholeMg === 0) pot.isBlind = true;
    for (const { ingredient: of, massMg: share } of made.lines) {
      const ingredient = { ...of, pricePerKg: made.pricePerKg };
      const line = { ingredient, massMg: (share / wholeMg) * massMg };
      pot.lines.push(line);
      const isGuess = made.unknown.includes(of.name) && of.cacao === 'none';
      const composition = parts({ sugar: LEAST_SUGAR, otherSolids: 100 - LEAST_SUGAR });
      pot.leastSugar.push(isGuess ? { ...line, ingredient: { ...ingredient, composition } } : line);
    }
    pot.unknown.push(...made.unknown);
  }
  return { ...pot, unknown: [...new Set(pot.unknown)] };
}

/** How pieces with some fillings in them keep: the freest water that was measured, and the first day any of them is best before; null where nothing is known. */
export function keptBy(fillings: readonly FillingRecord[]): { water: number | null; until: string | null } {
  const waters = fillings.flatMap((f) => f.waterActivity ?? []);
  const days = fillings.flatMap((f) => f.bestBefore ?? []).sort();
  return { water: waters.length > 0 ? Math.max(...waters) : null, until: days[0] ?? null };
}
