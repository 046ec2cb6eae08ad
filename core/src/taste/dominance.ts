import { normalQuantile, requireBetween, requireWhole } from '../numerics/index.ts';
import { leadingNotes, STRIP_SECONDS, type Stroke } from './card.ts';

/** How many of a panel felt a note foremost, second by second. */
export interface DominanceCurve {
  note: string;
  /** Share of the strips at each second from the first melt, 0 to {@link STRIP_SECONDS}. */
  share: number[];
  /** Seconds at which the share is above what chance explains. */
  significant: { from: number; to: number }[];
}

/** A panel’s strips together. */
export interface Dominance {
  strips: number;
  /** Share that each note would have if tasters chose at random. */
  chance: number;
  /** Share above which a note is felt foremost by more than chance explains, one-sided 5 %. */
  level: number;
  /** From the note that leads first to the one that leads last; only notes that ever lead. */
  curves: DominanceCurve[];
}

/**
 * The panel’s tasting strips together: at each second the share of strips on which a note leads. With p notes on offer chance gives each
 * 1/p, and the level above it is P₀ + 1.645 √(P₀(1 − P₀)/n) (Pineau et al., 2009). Notes are those that lead anywhere; so that one lone
 * note does not count as chosen from one, at least two are reckoned.
 *
 * @throws RangeError for a stroke that is not on the strip
 */
export function dominance(strips: readonly (readonly Stroke[])[]): Dominance {
  for (const s of strips.flat()) {
    requireBetween(s.from, 0, STRIP_SECONDS, 'the beginning of a stroke');
    requireBetween(s.to, s.from, STRIP_SECONDS, 'the end of a stroke');
  }
  const leads = strips.filter((s) => s.length > 0).map(leadingNotes);
  const notes = [...new Set(leads.flatMap((l) => l.flatMap((x) => x.note ?? [])))];
  const n = leads.length;
  const chance = 1 / Math.max(2, notes.length);
  if (n === 0) return { strips: 0, chance, level: 1, curves: [] };
  const level = significantShare(chance, n);
  const curves = notes.map((note) => {
    const share = Array.from(
      { length: STRIP_SECONDS + 1 },
      (_, s) =>
        leads.filter((l) => l.some((x) => x.note === note && x.from <= s && s < Math.max(x.to, x.from + 1)))
          .length / n,
    );
    return { note, share, significant: stretches(share, level) };
  });
  const middle = ({ share }: DominanceCurve) =>
    share.reduce((sum, v, s) => sum + v * s, 0) / share.reduce((sum, v) => sum + v, 1e-12);
  return { strips: n, chance, level, curves: curves.sort((a, b) => middle(a) - middle(b)) };
}

/**
 * Share above which `strips` strips agree beyond chance (one-sided 5 %), never above 1.
 *
 * @throws RangeError for a chance outside 0–1 or no strips
 */
export function significantShare(chance: number, strips: number): number {
  requireBetween(chance, 0, 1, 'the share by chance');
  requireWhole(strips, 'the number of strips', 1);
  return Math.min(1, chance + normalQuantile(0.95) * Math.sqrt((chance * (1 - chance)) / strips));
}

function stretches(share: readonly number[], level: number): { from: number; to: number }[] {
  const found: { from: number; to: number }[] = [];
  share.forEach((v, s) => {
    if (v <= level) return;
    const last = found.at(-1);
    if (last && last.to === s - 1) last.to = s;
    else found.push({ from: s, to: s });
  });
  return found;
}
