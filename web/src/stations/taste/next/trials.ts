import type { TastedBatch } from '@wunsch/contract';
import type { Factor, Setting, Signal, Trial } from '@wunsch/core/dialIn';

/** Newest batches that are learned from. */
const MOST = 60;

/** Grit on a card up to which nobody minds, and what more of it counts as too much. */
const GRIT_FREE = 1.5;
const GRIT_SPAN = 4;

/** How a batch was made, as far as that was measured. */
export function settingOf(b: TastedBatch): Setting {
  const read: Record<Factor, number | null> = {
    dose: b.roastDose,
    acid: b.acidLeft,
    sugar: b.sugar,
    grit: b.gritUm,
    conche: b.hours,
  };
  return Object.fromEntries(
    Object.entries(read).filter(([factor, v]) => v !== null && (factor === 'sugar' || v > 0)),
  ) as Setting;
}

/** Tasted batches as trials: likings, and how tasters found what can be dialled in. */
export function trialsOf(tasted: readonly TastedBatch[]): Trial[] {
  return tasted.slice(0, MOST).flatMap((b) => {
    const setting = settingOf(b);
    if (b.cards.length === 0 || Object.keys(setting).length === 0) return [];
    const signals: Trial['signals'] = {};
    const hear = (signal: Signal, values: readonly number[]) => {
      if (values.length > 0)
        signals[signal] = {
          mean: values.reduce((s, v) => s + v, 0) / values.length,
          tasters: values.length,
        };
    };
    for (const basic of ['sour', 'bitter', 'sweet'] as const)
      hear(
        basic,
        b.cards.flatMap((c) => c.fits[basic] ?? []),
      );
    hear(
      'gritty',
      b.cards.flatMap((c) =>
        c.grit === null ? [] : [Math.min(1, Math.max(0, (c.grit - GRIT_FREE) / GRIT_SPAN))],
      ),
    );
    return [
      { lotId: b.lotId, setting, likings: b.cards.map((c) => ({ by: c.by, liking: c.liking })), signals },
    ];
  });
}

/** How many of a batch’s tasters found a basic too much or too little; null where nobody said. */
export function saidOf(
  b: TastedBatch,
  basic: 'sour' | 'bitter' | 'sweet',
): { much: number; little: number; of: number } | null {
  const fits = b.cards.flatMap((c) => c.fits[basic] ?? []);
  if (fits.length === 0) return null;
  return {
    much: fits.filter((f) => f > 0).length,
    little: fits.filter((f) => f < 0).length,
    of: fits.length,
  };
}
