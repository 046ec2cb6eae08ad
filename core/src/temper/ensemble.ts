import { evenNormals, quantileOfSorted, requireNotBelow0, requireWhole } from '../numerics/index.ts';
import { crystallise, type CrystalProblem, type TemperVerdict } from './crystal.ts';

/** How well a bowl is known: standard deviations. */
export interface BowlDoubt {
  /** Of the stirring, share; it is the same all along a path. */
  stirring?: number;
  /** Of the probe, K. */
  celsius?: number;
  /** Of the logarithm of each process's pace. */
  pace?: number;
}

/** Crystals of a bowl as ranges over time; arrays are parallel, shares of the fat, 0–1. */
export interface CrystalRanges {
  minutes: Float64Array;
  /** A tenth of what may be lies below `low`, a tenth above `high`. */
  stable: { low: Float64Array; middle: Float64Array; high: Float64Array };
  unstable: { low: Float64Array; middle: Float64Array; high: Float64Array };
  /** Share of what may be that ends in each verdict; they add up to 1. */
  odds: Record<TemperVerdict, number>;
  /** The likeliest verdict. */
  verdict: TemperVerdict;
}

/** Usual doubts: a hand stirs as it does, a probe is read to a few tenths, and no model of a bowl is exact. */
export const BOWL_DOUBT: Required<BowlDoubt> = { stirring: 0.2, celsius: 0.3, pace: 0.2 };

/**
 * Follows many bowls that might be this one: stirring, probe and paces drawn from what is not known of them, evenly spread and the
 * same each time. The ranges hold four fifths of them.
 *
 * @throws RangeError as {@link crystallise}, for fewer than 8 members and for doubts below 0
 */
export function crystalEnsemble(
  problem: CrystalProblem,
  { members = 60, doubt = {} }: { members?: number; doubt?: BowlDoubt } = {},
): CrystalRanges {
  requireWhole(members, 'the number of members', 8);
  const sd = { ...BOWL_DOUBT, ...doubt };
  for (const [what, value] of Object.entries(sd)) requireNotBelow0(value, `the doubt of ${what}`);
  const within = (value: number, low: number, high: number) => Math.min(high, Math.max(low, value));
  const runs = evenNormals(members, 5).map((draws) => {
    const [stirring, celsius, nucleation, growth, melting] = draws as [
      number,
      number,
      number,
      number,
      number,
    ];
    return crystallise({
      ...problem,
      path: problem.path.map((p) => ({
        minutes: p.minutes,
        celsius: within(p.celsius + sd.celsius * celsius, 0, 80),
        stirring: within((p.stirring ?? 1) + sd.stirring * stirring, 0, 1),
      })),
      pace: {
        nucleation: Math.exp(sd.pace * nucleation),
        growth: Math.exp(sd.pace * growth),
        melting: Math.exp(sd.pace * melting),
      },
    });
  });
  const { minutes } = runs[0]!;
  const ranges = (which: 'stable' | 'unstable') => {
    const [low, middle, high] = [0, 0, 0].map(() => new Float64Array(minutes.length)) as [
      Float64Array,
      Float64Array,
      Float64Array,
    ];
    minutes.forEach((_, k) => {
      const sorted = runs.map((r) => r[which][k]!).sort((x, y) => x - y);
      low[k] = quantileOfSorted(sorted, 0.1);
      middle[k] = quantileOfSorted(sorted, 0.5);
      high[k] = quantileOfSorted(sorted, 0.9);
    });
    return { low, middle, high };
  };
  const odds: Record<TemperVerdict, number> = { good: 0, under: 0, lost: 0, unstable: 0, thick: 0 };
  for (const { verdict } of runs) odds[verdict] += 1 / members;
  const [verdict] = (Object.entries(odds) as [TemperVerdict, number][]).reduce((a, b) =>
    b[1] > a[1] ? b : a,
  );
  return { minutes, stable: ranges('stable'), unstable: ranges('unstable'), odds, verdict };
}
