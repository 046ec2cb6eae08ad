import { seededRandom } from '../numerics/index.ts';

/** Which notes one card named, of which sample, by whom. */
export interface NotedCard {
  sample: string;
  assessor: string;
  notes: readonly string[];
}

/** Whether a note was named more of some samples than of others. */
export interface NoteDifference {
  note: string;
  /** Share of assessors who named it, by sample. */
  shares: Record<string, number>;
  /** Exact p-value of Cochran’s Q. */
  p: number;
  /** After Holm’s correction over all notes. */
  adjusted: number;
  decided: boolean;
  /** Whether p was counted out (`exact`) or drawn 20,000 times because there are too many ways (`drawn`). */
  how: 'exact' | 'drawn';
}

/** Above so many different tables their chances are drawn instead of counted. */
const MOST_TABLES = 60_000;

/**
 * Which notes differ between samples. For each note Cochran’s Q (1950) on assessors × samples, exact: given how many samples each assessor
 * named it of, every choice of which ones is as likely. Only assessors who tasted all samples count; a note named on several cards of
 * the same sample by one assessor counts once. The p-values are corrected for the number of notes (Holm, 1979).
 */
export function noteDifferences(cards: readonly NotedCard[]): NoteDifference[] {
  const samples = [...new Set(cards.map((c) => c.sample))].sort();
  if (samples.length < 2) return [];
  const notes = [...new Set(cards.flatMap((c) => [...c.notes]))].sort();
  const whole = [...new Set(cards.map((c) => c.assessor))].filter((a) =>
    samples.every((s) => cards.some((c) => c.assessor === a && c.sample === s)),
  );
  if (whole.length === 0) return [];
  const named = (note: string) =>
    whole.map((a) =>
      samples.map((s) =>
        Number(cards.some((c) => c.assessor === a && c.sample === s && c.notes.includes(note))),
      ),
    );
  const found = notes.map((note) => {
    const table = named(note);
    const { p, how } = cochranQ(table);
    const shares = Object.fromEntries(
      samples.map((s, k) => [s, table.reduce((sum, row) => sum + row[k]!, 0) / whole.length]),
    );
    return { note, shares, p, how };
  });
  const order = found.map((_, i) => i).sort((a, b) => found[a]!.p - found[b]!.p);
  const adjusted = new Array<number>(found.length).fill(1);
  let least = 0;
  order.forEach((i, rank) => {
    least = Math.max(least, Math.min(1, found[i]!.p * (found.length - rank)));
    adjusted[i] = least;
  });
  return found
    .map((f, i) => ({ ...f, adjusted: adjusted[i]!, decided: adjusted[i]! < 0.05 }))
    .sort((a, b) => a.p - b.p);
}

/**
 * Exact p-value of Cochran’s Q for a table of 0 and 1 (rows assessors, columns samples). With two columns it is McNemar’s exact test.
 *
 * @throws RangeError for a table that is not rectangular or holds anything but 0 and 1
 * @example cochranQ([[1, 0], [1, 0], [1, 0], [1, 0], [1, 0]]).p // 0.0625
 */
export function cochranQ(table: readonly (readonly number[])[]): {
  q: number;
  p: number;
  how: 'exact' | 'drawn';
} {
  const k = table[0]?.length ?? 0;
  if (k < 2) throw new RangeError('Cochran’s Q compares two samples or more');
  for (const row of table) {
    if (row.length !== k) throw new RangeError('every assessor needs an answer for every sample');
    if (row.some((v) => v !== 0 && v !== 1)) throw new RangeError('a note is named (1) or not (0)');
  }
  const totals = table.map((row) => row.reduce((s, v) => s + v, 0)).filter((t) => t > 0 && t < k);
  const columns = Array.from({ length: k }, (_, c) =>
    table.reduce((s, row) => s + (isTelling(row, k) ? row[c]! : 0), 0),
  );
  if (totals.length === 0) return { q: 0, p: 1, how: 'exact' };
  const spread = (sums: readonly number[]) => sums.reduce((s, v) => s + v * v, 0);
  const observed = spread(columns);
  const sum = columns.reduce((s, v) => s + v, 0);
  const bottom = k * sum - totals.reduce((s, t) => s + t * t, 0);
  const q = ((k - 1) * (k * observed - sum * sum)) / bottom;
  const exact = countTables(totals, k, spread, observed);
  if (exact !== null) return { q, p: exact, how: 'exact' };
  return { q, p: drawTables(totals, k, spread, observed), how: 'drawn' };
}

const isTelling = (row: readonly number[], k: number) => {
  const total = row.reduce((s, v) => s + v, 0);
  return total > 0 && total < k;
};

/** Column sums grow row by row; since columns are alike, sorted sums stand for all their orders. Null above {@link MOST_TABLES}. */
function countTables(
  totals: readonly number[],
  k: number,
  spread: (sums: readonly number[]) => number,
  observed: number,
): number | null {
  let states = new Map<string, { sums: number[]; chance: number }>([
    ['', { sums: new Array<number>(k).fill(0), chance: 1 }],
  ]);
  for (const total of totals) {
    const ways = choices(k, total);
    if (states.size * ways.length > 40 * MOST_TABLES) return null;
    const next = new Map<string, { sums: number[]; chance: number }>();
    for (const { sums, chance } of states.values())
      for (const way of ways) {
        const then = sums.map((v, i) => v + way[i]!).sort((a, b) => a - b);
        const key = then.join(' ');
        const known = next.get(key);
        if (known) known.chance += chance / ways.length;
        else next.set(key, { sums: then, chance: chance / ways.length });
      }
    if (next.size > MOST_TABLES) return null;
    states = next;
  }
  let p = 0;
  for (const { sums, chance } of states.values()) if (spread(sums) >= observed) p += chance;
  return Math.min(1, p);
}

/** All rows of `k` columns with `total` ones. */
function choices(k: number, total: number): number[][] {
  if (total < 0 || total > k) return [];
  if (k === 0) return [[]];
  return [0, 1].flatMap((v) => choices(k - 1, total - v).map((rest) => [v, ...rest]));
}

function drawTables(
  totals: readonly number[],
  k: number,
  spread: (sums: readonly number[]) => number,
  observed: number,
): number {
  const random = seededRandom(totals.length * 1009 + k);
  const draws = 20_000;
  let reached = 0;
  for (let d = 0; d < draws; d += 1) {
    const sums = new Array<number>(k).fill(0);
    for (const total of totals) {
      // Selection sampling: each column is taken with the chance that still makes the total.
      let left = total;
      for (let c = 0; c < k && left > 0; c += 1)
        if (random() * (k - c) < left) {
          sums[c]! += 1;
          left -= 1;
        }
    }
    if (spread(sums) >= observed) reached += 1;
  }
  return (reached + 1) / (draws + 1);
}
