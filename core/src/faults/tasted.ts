import type { Sign } from './signs.ts';

/** What of a tasting card speaks of a fault; the quick card and the full one alike. */
export interface TastedCard {
  /** Marks of the quick card, 0–10. */
  sour?: number;
  grit?: number;
  /** How basics sit, of the full card. */
  basics?: Readonly<Partial<Record<string, { fit: 'too little' | 'right' | 'too much' }>>>;
  /** Texture marks of the full card, 0–10. */
  texture?: Readonly<Partial<Record<string, number>>>;
  /** Faults by name, of the full card. */
  faults?: readonly string[];
}

/** From these marks on a taster means a fault, not a style: beyond the middle of the scale. */
const TOO_SOUR = 7;
const TOO_GRITTY = 6;
const TOO_DRY = 8;

/** Faults of the full card, as the signs a fault is looked for by. */
const NAMED: Readonly<Record<string, Sign>> = {
  smoke: 'smoky',
  ham: 'smoky',
  sour: 'sour',
  husk: 'bitter',
  stale: 'flat',
};

/**
 * Signs a tasting card tells, from which the cause is looked for; none where it found nothing wrong.
 *
 * @throws RangeError for marks that are no numbers
 */
export function signsTasted(card: TastedCard): Sign[] {
  const mark = (value: number | undefined): number => {
    if (value === undefined) return 0;
    if (!Number.isFinite(value)) throw new RangeError(`a mark is a number from 0 to 10, not ${value}`);
    return value;
  };
  const signs = new Set<Sign>();
  const tooMuch = (basic: string) => card.basics?.[basic]?.fit === 'too much';
  if (mark(card.sour) >= TOO_SOUR || tooMuch('sour')) signs.add('sour');
  if (tooMuch('bitter') || tooMuch('astringent')) signs.add('bitter');
  if (Math.max(mark(card.grit), mark(card.texture?.grit)) >= TOO_GRITTY) signs.add('gritty');
  if (mark(card.texture?.coating) >= TOO_DRY) signs.add('pasty');
  for (const fault of card.faults ?? []) {
    const sign = NAMED[fault];
    if (sign) signs.add(sign);
  }
  return [...signs];
}
