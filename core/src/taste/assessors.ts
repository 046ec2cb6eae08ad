import { mean, requireFinite, sampleSd } from '../numerics/index.ts';
import type { PanelScore } from './panel.ts';

/** How one assessor used the scale. */
export interface AssessorUse {
  assessor: string;
  scores: number;
  low: number;
  high: number;
  /** How far their scores lie above the panel’s on the same samples. */
  above: number;
  /** Spread of their scores between samples, against the panel’s median; 1 is as the others, null below three samples. */
  width: number | null;
  /** Standard deviation of the same sample met again; null where nothing was. */
  repeat: number | null;
  /** Correlation with what the others of the panel think of the samples; null where it cannot be told. */
  agreement: number | null;
  /** One word for a kind sentence. */
  word: 'steady' | 'narrow' | 'wide' | 'apart' | 'unsteady' | 'few';
}

/** Below this share of the panel’s usual spread an assessor keeps to a part of the scale; above its inverse they use more. */
const NARROW = 0.6;

/**
 * How each assessor uses the scale, repeats themselves and agrees with the rest: to calibrate a panel, not to shame anyone.
 *
 * @throws RangeError for a score that is no number
 */
export function assessorUse(rows: readonly PanelScore[]): AssessorUse[] {
  rows.forEach((r, i) => requireFinite(r.score, `score ${i + 1}`));
  const assessors = [...new Set(rows.map((r) => r.assessor))].sort();
  const bySample = (of: readonly PanelScore[]) => {
    const map = new Map<string, number[]>();
    for (const { sample, score } of of) map.set(sample, [...(map.get(sample) ?? []), score]);
    return map;
  };
  const all = assessors.map((assessor) => {
    const mine = rows.filter((r) => r.assessor === assessor);
    const own = bySample(mine);
    const others = bySample(rows.filter((r) => r.assessor !== assessor));
    const shared = [...own].flatMap(([sample, scores]) => {
      const other = others.get(sample);
      return other ? [{ own: mean(scores), others: mean(other) }] : [];
    });
    const means = [...own.values()].map(mean);
    const again = [...own.values()].filter((s) => s.length > 1);
    const freedom = again.reduce((sum, s) => sum + s.length - 1, 0);
    const squares = again.reduce((sum, s) => sum + s.reduce((t, v) => t + (v - mean(s)) ** 2, 0), 0);
    return {
      assessor,
      scores: mine.length,
      low: Math.min(...mine.map((r) => r.score)),
      high: Math.max(...mine.map((r) => r.score)),
      above: shared.length > 0 ? mean(shared.map((s) => s.own - s.others)) : 0,
      spread: means.length >= 3 ? sampleSd(means) : null,
      repeat: freedom > 0 ? Math.sqrt(squares / freedom) : null,
      agreement: correlation(shared.map((s) => [s.own, s.others])),
    };
  });
  const spreads = all.flatMap((a) => a.spread ?? []);
  const usual = median(spreads);
  const usualRepeat = median(all.flatMap((a) => a.repeat ?? []));
  return all.map(({ spread, ...a }) => {
    const width = spread !== null && usual !== null && usual > 0 ? spread / usual : null;
    return { ...a, width, word: wordFor(a, width, usualRepeat) };
  });
}

function wordFor(
  a: { scores: number; agreement: number | null; repeat: number | null; above: number },
  width: number | null,
  usualRepeat: number | null,
): AssessorUse['word'] {
  if (width === null) return 'few';
  if (a.repeat !== null && usualRepeat !== null && usualRepeat > 0 && a.repeat > 2 * usualRepeat)
    return 'unsteady';
  if (a.agreement !== null && a.agreement < -0.2) return 'apart';
  if (width < NARROW) return 'narrow';
  if (width > 1 / NARROW) return 'wide';
  return 'steady';
}

function median(values: readonly number[]): number | null {
  if (values.length === 0) return null;
  const sorted = [...values].sort((a, b) => a - b);
  const half = Math.floor(sorted.length / 2);
  return sorted.length % 2 ? sorted[half]! : (sorted[half - 1]! + sorted[half]!) / 2;
}

/** Pearson’s correlation; null below three pairs or where one side never varies. */
export function correlation(pairs: readonly (readonly [number, number])[]): number | null {
  if (pairs.length < 3) return null;
  const [x, y] = [mean(pairs.map((p) => p[0])), mean(pairs.map((p) => p[1]))];
  let [xy, xx, yy] = [0, 0, 0];
  for (const [a, b] of pairs) {
    requireFinite(a, 'a value');
    requireFinite(b, 'a value');
    xy += (a - x) * (b - y);
    xx += (a - x) ** 2;
    yy += (b - y) ** 2;
  }
  const scale = Math.sqrt(xx * yy);
  return scale > 1e-12 * (Math.abs(x * y) + 1e-12) ? Math.max(-1, Math.min(1, xy / scale)) : null;
}
