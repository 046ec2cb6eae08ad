import { quantileOfSorted, requireFinite, seededRandom } from '../numerics/index.ts';
import { correlation } from './assessors.ts';

/** A process figure against a taste figure, batch by batch. */
export interface DriverPoint {
  process: number;
  taste: number;
}

/** How a process went with a taste: an association over batches, never a cause. */
export type Association =
  | { ok: false; batches: number; needs: number }
  | {
      ok: true;
      batches: number;
      /** Spearman’s rank correlation, −1 to 1. */
      rank: number;
      /** 95 % interval. */
      low: number;
      high: number;
      /** Whether the interval leaves 0 out. */
      shown: boolean;
    };

/** Batches below which nothing is said. */
export const ASSOCIATION_BATCHES = 6;

/**
 * Spearman’s rank correlation with a bootstrap interval over batches (500 draws with a fixed seed, so that the same batches give the
 * same interval). Few batches make a bootstrap too sure, so the interval is never narrower than the one of Fisher’s z with the variance
 * (1 + r²/2)/(n − 3) (Bonett and Wright, 2000).
 *
 * @throws RangeError for a figure that is no number
 */
export function association(points: readonly DriverPoint[]): Association {
  points.forEach(({ process, taste }, i) => {
    requireFinite(process, `the process of batch ${i + 1}`);
    requireFinite(taste, `the taste of batch ${i + 1}`);
  });
  const n = points.length;
  if (n < ASSOCIATION_BATCHES) return { ok: false, batches: n, needs: ASSOCIATION_BATCHES - n };
  const rank = spearman(points);
  if (rank === null) return { ok: false, batches: n, needs: 1 };
  const random = seededRandom(n * 7919 + 17);
  const drawn: number[] = [];
  for (let b = 0; b < 500; b += 1) {
    const r = spearman(points.map(() => points[Math.floor(random() * n)]!));
    if (r !== null) drawn.push(r);
  }
  drawn.sort((a, b) => a - b);
  const z = Math.atanh(Math.max(-0.999, Math.min(0.999, rank)));
  const half = 1.96 * Math.sqrt((1 + rank ** 2 / 2) / (n - 3));
  const low = Math.min(quantileOfSorted(drawn, 0.025), Math.tanh(z - half));
  const high = Math.max(quantileOfSorted(drawn, 0.975), Math.tanh(z + half));
  return { ok: true, batches: n, rank, low, high, shown: low > 0 || high < 0 };
}

/** Spearman’s rank correlation, ties at their middle rank; null below three points or where one side never varies. */
export function spearman(points: readonly DriverPoint[]): number | null {
  const x = ranks(points.map((p) => p.process));
  const y = ranks(points.map((p) => p.taste));
  return correlation(x.map((v, i) => [v, y[i]!]));
}

function ranks(values: readonly number[]): number[] {
  const order = values.map((_, i) => i).sort((a, b) => values[a]! - values[b]!);
  const rank = new Array<number>(values.length);
  for (let from = 0; from < order.length;) {
    let to = from;
    while (to + 1 < order.length && values[order[to + 1]!] === values[order[from]!]) to += 1;
    for (let i = from; i <= to; i += 1) rank[order[i]!] = (from + to) / 2 + 1;
    from = to + 1;
  }
  return rank;
}
