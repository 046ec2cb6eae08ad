import { leastSquares, normalDraw, quantile, seededRandom } from '../numerics/index.ts';

/** One weighing of a drying batch. */
export interface DryWeighing {
  /** Hours since drying began. */
  hours: number;
  /** Mass in any unit, the same throughout. */
  mass: number;
}

/** Where drying starts from: one mass and one measured moisture (% wet basis) taken together. */
export interface DryStart {
  mass: number;
  moisture: number;
}

/** Dry matter of a batch, from one mass and the moisture measured with it. */
export function dryMatter({ mass, moisture }: DryStart): number {
  if (!(mass > 0)) throw new RangeError('the start mass must be above 0');
  if (!(moisture >= 0 && moisture < 100))
    throw new RangeError('moisture is a share of the wet mass, 0 to below 100 %');
  return mass * (1 - moisture / 100);
}

/** Moisture now, % wet basis, by weighing: 1 − m_dry/m. Throws RangeError for a mass below the dry matter. */
export function moistureByMass(mass: number, dry: number): number {
  if (!(mass >= dry))
    throw new RangeError(
      'a mass below the dry matter cannot be: the start mass, its moisture or this weighing is wrong',
    );
  return 100 * (1 - dry / mass);
}

/** Thin-layer law: Lewis has n = 1, Page leaves n free. */
export type DryLaw = 'lewis' | 'page';

/** Equilibrium moisture on a dry basis in ordinary drying weather; a guess to be changed. */
export const EQUILIBRIUM_DRY_BASIS = 0.05;

/** Target moisture, % wet basis, and the warning marks. */
export const DRY_TARGET = 7;
const MOULD_ABOVE = 20;
const MOULD_DAYS = 2;
const SHATTER_BELOW = 6;

/** Uncertainty of one weighing against the law, share of the water there is at the start: sun and cloud more than the scale. */
const LAW_U = 0.025;

/** Priors on ln k (1/h) and n: sun drying of a thin layer takes some days. */
const PRIOR = { lnK: Math.log(0.03), lnKSd: 1, n: 1, nSd: 0.2 };

/** What the weighings say of the drying. */
export type DryForecast =
  | { ok: false; needs: number }
  | {
      ok: true;
      law: DryLaw;
      /** MR = exp(−k tⁿ); k per hourⁿ. */
      k: number;
      n: number;
      /** Hours since the start to the target, with the 80 % range; Infinity where it may never come. */
      toTarget: { median: number; low: number; high: number };
      /** Moisture, % wet basis, at an hour: median and 80 % range. */
      at: (hours: number) => { median: number; low: number; high: number };
    };

/** What {@link forecastDrying} works from. */
export interface DryProblem {
  start: DryStart;
  weighings: readonly DryWeighing[];
  law?: DryLaw;
  targetMoisture?: number;
  equilibrium?: number;
  seed?: number;
}

const NEEDED = 2;
const DRAWS = 400;

/**
 * Fits thin-layer drying MR = (X − X_e)/(X₀ − X_e) = exp(−k tⁿ) (Lewis 1921; Page 1949) to weighings by maximum a
 * posteriori and predicts when the target moisture is reached. Below two weighings after the start it says how many are missing.
 *
 * @throws RangeError for a weighing below the dry matter, or a target not above the equilibrium
 */
export function forecastDrying({
  start,
  weighings,
  law = 'lewis',
  targetMoisture = DRY_TARGET,
  equilibrium = EQUILIBRIUM_DRY_BASIS,
  seed = 5,
}: DryProblem): DryForecast {
  const dry = dryMatter(start);
  const basis = (wet: number) => wet / (100 - wet);
  const X0 = basis(start.moisture);
  const target = basis(targetMoisture);
  if (!(target > equilibrium))
    throw new RangeError('the target must lie above the moisture the air itself leaves');
  const points = weighings
    .filter((w) => w.hours > 0)
    .map((w) => ({
      hours: w.hours,
      ratio: (basis(moistureByMass(w.mass, dry)) - equilibrium) / (X0 - equilibrium),
    }));
  if (points.length < NEEDED) return { ok: false, needs: NEEDED - points.length };
  const ratioAt = ([lnK, n]: readonly number[], hours: number) =>
    Math.exp(-Math.exp(lnK!) * hours ** (law === 'page' ? n! : 1));
  const fit = leastSquares({
    residuals: (p) => [
      ...points.map((w) => (ratioAt(p, w.hours) - w.ratio) / LAW_U),
      (p[0]! - PRIOR.lnK) / PRIOR.lnKSd,
      ...(law === 'page' ? [(p[1]! - PRIOR.n) / PRIOR.nSd] : []),
    ],
    start: law === 'page' ? [PRIOR.lnK, 1] : [PRIOR.lnK],
    scale: [1, 1],
  });
  const random = seededRandom(seed);
  const c = fit.covariance.to2DArray();
  const l11 = Math.sqrt(c[0]![0]!);
  const l21 = law === 'page' ? c[1]![0]! / l11 : 0;
  const l22 = law === 'page' ? Math.sqrt(Math.max(0, c[1]![1]! - l21 * l21)) : 0;
  const draws = Array.from({ length: DRAWS }, () => {
    const [a, b] = [normalDraw(random), normalDraw(random)];
    return [fit.parameters[0]! + l11 * a, (fit.parameters[1] ?? 1) + l21 * a + l22 * b];
  });
  const wanted = (target - equilibrium) / (X0 - equilibrium);
  const hoursOf = ([lnK, n]: readonly number[]) =>
    wanted >= 1
      ? 0
      : n! <= 0
        ? Number.POSITIVE_INFINITY
        : (-Math.log(wanted) / Math.exp(lnK!)) ** (1 / (law === 'page' ? n! : 1));
  const wetAt = (p: readonly number[], hours: number) => {
    const X = equilibrium + (X0 - equilibrium) * (hours <= 0 ? 1 : ratioAt(p, hours));
    return (100 * X) / (1 + X);
  };
  const range = (values: number[]) => ({
    low: quantile(values, 0.1),
    median: quantile(values, 0.5),
    high: quantile(values, 0.9),
  });
  return {
    ok: true,
    law,
    k: Math.exp(fit.parameters[0]!),
    n: law === 'page' ? fit.parameters[1]! : 1,
    toTarget: range(draws.map(hoursOf)),
    at: (hours) => range(draws.map((p) => wetAt(p, hours))),
  };
}

/** What to look out for in a drying. */
export type DryNote =
  | { code: 'mould-risk'; days: number }
  | { code: 'too-dry'; moisture: number }
  | { code: 'target-reached'; moisture: number };

/** Names what stands out: more than two days above 20 % (mould), under 6 % (beans shatter), target reached. Moistures % wet basis by hour, in order. */
export function dryNotes(
  moistures: readonly { hours: number; moisture: number }[],
  targetMoisture: number = DRY_TARGET,
): DryNote[] {
  const last = moistures.at(-1);
  if (!last) return [];
  const notes: DryNote[] = [];
  let above = 0;
  for (let i = 1; i < moistures.length; i += 1) {
    const [a, b] = [moistures[i - 1]!, moistures[i]!];
    const width = b.hours - a.hours;
    if (a.moisture > MOULD_ABOVE && b.moisture > MOULD_ABOVE) above += width;
    else if (a.moisture > MOULD_ABOVE)
      above += (width * (a.moisture - MOULD_ABOVE)) / (a.moisture - b.moisture);
  }
  if (above > MOULD_DAYS * 24) notes.push({ code: 'mould-risk', days: above / 24 });
  if (last.moisture < SHATTER_BELOW) notes.push({ code: 'too-dry', moisture: last.moisture });
  else if (last.moisture <= targetMoisture) notes.push({ code: 'target-reached', moisture: last.moisture });
  return notes;
}
