import { mean } from '../numerics/index.ts';

/** Moths found in the traps in one week. */
export interface TrapCount {
  /** ISO day the traps were read. */
  day: string;
  count: number;
  /** Traps that stood. */
  traps: number;
}

/** A count with its limits; `signal` where it is above what chance explains. */
export interface TrapPoint extends TrapCount {
  /** Moths per trap. */
  rate: number;
  centre: number;
  upper: number;
  lower: number;
  signal: boolean;
}

/** Counts needed before limits mean anything. */
export const TRAP_COUNTS_NEEDED = 5;

/**
 * Control chart of trap counts. With the same number of traps each time a c-chart: c̄ ± 3√c̄ (Shewhart); where their number
 * varies Laney's u′-chart: ū ± 3·√(ū/nᵢ)·σ_z with σ_z = MR̄(z)/1.128 (Laney 2002). Points come back in order of day, in moths
 * per trap; limits are NaN below {@link TRAP_COUNTS_NEEDED} counts.
 *
 * @throws RangeError for a negative count or fewer than one trap
 */
export function trapChart(counts: readonly TrapCount[]): { kind: 'c' | 'laney'; points: TrapPoint[] } {
  for (const c of counts)
    if (!Number.isInteger(c.count) || !(c.count >= 0) || !Number.isInteger(c.traps) || !(c.traps >= 1))
      throw new RangeError('counts are whole numbers of 0 or more, from at least one trap');
  const sorted = [...counts].sort((a, b) => a.day.localeCompare(b.day));
  const kind = new Set(sorted.map((c) => c.traps)).size <= 1 ? 'c' : 'laney';
  const total = sorted.reduce((s, c) => s + c.count, 0);
  const traps = sorted.reduce((s, c) => s + c.traps, 0);
  const centre = traps > 0 ? total / traps : 0;
  const sigma = (c: TrapCount) => Math.sqrt(centre / c.traps);
  const z = sorted.map((c) => (sigma(c) > 0 ? (c.count / c.traps - centre) / sigma(c) : 0));
  const spread =
    kind === 'c' || z.length < 2 ? 1 : mean(z.slice(1).map((v, i) => Math.abs(v - z[i]!))) / 1.128;
  const enough = sorted.length >= TRAP_COUNTS_NEEDED;
  const points = sorted.map((c): TrapPoint => {
    const rate = c.count / c.traps;
    const reach = 3 * sigma(c) * spread;
    const upper = enough ? centre + reach : Number.NaN;
    const lower = enough ? Math.max(0, centre - reach) : Number.NaN;
    return {
      ...c,
      rate,
      centre: enough ? centre : Number.NaN,
      upper,
      lower,
      signal: enough && rate > upper * (1 + 1e-12),
    };
  });
  return { kind, points };
}
