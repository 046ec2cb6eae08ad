import { useMemo } from 'react';
import type { BatchView, PouredBowl } from '@wunsch/contract';
import { recipeFigures } from '@wunsch/core/recipe';
import {
  ownPath,
  pathByMilkFat,
  pathBySheet,
  type ChocolateType,
  type OwnPath,
  type TemperPath,
} from '@wunsch/core/temper';
import { useRead } from '../../shell/door.tsx';
import { bowlLines } from '../recipe/index.ts';

/** A bowl's path and what it comes from. */
export interface PathHere {
  path: TemperPath;
  /** The chocolate's own, before hands have learned: its melting points follow it. */
  given: TemperPath;
  from: 'own' | 'sheet' | 'milk-fat' | 'usual';
  /** Where the lot has one: how many bowls it rests on, and whether it drifts. */
  own: OwnPath | null;
}

/** A shift smaller than this is not spoken of, K. */
const WORTH_SAYING = 0.15;

/**
 * The path of this chocolate: what its sheet says, or what its kind and milk fat ask; and over both, once three bowls of the lot gave good
 * bars, its own.
 */
export function usePath(view: BatchView, type: ChocolateType): PathHere {
  const { data: bowls } = useRead<PouredBowl[]>(`/api/lots/${view.batch.lotId}/bowls`);
  const { sheet } = view.lot;
  const recipeId = view.recipe?.id ?? null;
  return useMemo(() => {
    const figures = recipeFigures(bowlLines(view));
    const milkFat = figures.totalMg > 0 && figures.fat > 0 ? figures.composition.milkFat / figures.fat : null;
    const hasSheet =
      sheet !== null && (sheet.coolC !== null || sheet.workLowC !== null || sheet.workHighC !== null);
    const usual = pathBySheet(type, null);
    const byMilk = milkFat === null ? usual : pathByMilkFat(type, Math.min(1, milkFat));
    const given = hasSheet ? pathBySheet(type, sheet) : byMilk;
    // A recipe's own bowls first; the whole lot's where they are too few.
    const kind = (bowls ?? []).filter((b) => b.chocolateType === type);
    const own =
      ownPath(
        given,
        kind.filter((b) => recipeId !== null && b.recipeId === recipeId),
      ) ?? ownPath(given, kind);
    return {
      path: own?.path ?? given,
      given,
      from: own
        ? 'own'
        : hasSheet
          ? 'sheet'
          : Math.abs(byMilk.workC - usual.workC) >= WORTH_SAYING
            ? 'milk-fat'
            : 'usual',
      own,
    };
  }, [view, bowls, sheet, type, recipeId]);
}
