import {
  leastSquares,
  normalDraw,
  quantile,
  requireAbove0,
  requireBetween,
  requireFinite,
  seededRandom,
} from '../numerics/index.ts';

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
  requireAbove0(mass, 'the start mass');
  if (!(moisture >= 0 && moisture < 100))
    throw new RangeError('moisture is a share of the wet mass, 0 to below 100 %');
  return mass * (1 - moisture / 100);
}

/** Moisture now, % wet basis, by weighing: 1 − m_dry/m. Throws RangeError for a mass below the dry matter. */
export function moistureByMass(mass: number, dry: number): number {
  requireAbove0(dry, 'the dry matter');
  requireFinite(mass, 'the mass');
  if (!(mass >= dry))
    throw new RangeError(
      'a mass below the dry matter cannot be: the start mass, its moisture or this weighing is wrong',
    );
  return 100 * (1 - dry / mass);
}

/** Thin-layer law: by Lewis n is near 1, Page leaves it free. */
export type DryLaw = 'lewis' | 'page';

/** Equilibrium moisture on a dry basis in ordinary drying weather; a guess to be changed. */
export const EQUILIBRIUM_DRY_BASIS = 0.05;

/** Target moisture, % wet basis, and the warning marks. */
export const DRY_TARGET = 7;
const MOULD_ABOVE = 20;
const MOULD_DAYS = 2;
const SHATTER_BELOW = 6;

/** Mould is spoken of beforehand from this chance on that two days are passed. */
const MOULD_CHANCE = 0.5;

/**
 * Uncertainty of one weighing against the law, share of the water there is at the start: sun and cloud more than the scale. It counts
 * like so many weighings; a bed's own tell how far this one really strays.
 */
const LAW = { u: 0.018, counts: 3 } as const;

/**
 * Priors on ln k (1/h), n and the equilibrium: sun drying of a thin layer takes some days; no bed dries quite by Lewis, and nobody knows
 * the moisture the air leaves to better than a point. Page's law is given more room.
 */
const PRIOR = { lnK: Math.log(0.03), lnKSd: 1, n: 1, nSd: { lewis: 0.1, page: 0.2 }, equilibriumSd: 0.0085 };

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
      /** Chance that it is still above a moisture, % wet basis, at an hour. */
      chanceAbove: (moisture: number, hours: number) => number;
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
 * posteriori and predicts when the target moisture is reached. The exponent and the equilibrium are carried along as the uncertain
 * things they are, also by Lewis, so that the range holds when a bed dries a little otherwise. Below two weighings after the start it says how many are missing.
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
  requireBetween(targetMoisture, 0, 99, 'the target moisture');
  requireBetween(equilibrium, 0, 1, 'the equilibrium moisture on a dry basis');
  const X0 = basis(start.moisture);
  const target = basis(targetMoisture);
  if (!(target > equilibrium))
    throw new RangeError('the target must lie above the moisture the air itself leaves');
  for (const w of weighings) requireFinite(w.hours, 'the hour of a weighing');
  const points = weighings
    .filter((w) => w.hours > 0)
    .map((w) => ({ hours: w.hours, dryBasis: basis(moistureByMass(w.mass, dry)) }));
  if (points.length < NEEDED) return { ok: false, needs: NEEDED - points.length };
  const bed: Bed = { first: X0, target, equilibrium, law, points };
  const usual = fitBed(bed, LAW.u, [PRIOR.lnK, 1, equilibrium]);
  const strayed = missedBy(bed, usual.parameters).reduce((sum, m) => sum + m * m, 0);
  const u = Math.sqrt((LAW.counts * LAW.u ** 2 + strayed) / (LAW.counts + points.length - 1));
  const fit = fitBed(bed, u, usual.parameters);
  const random = seededRandom(seed);
  const factor = lowerTriangle(fit.covariance.to2DArray());
  const draws = Array.from({ length: DRAWS }, () => {
    const e = [normalDraw(random), normalDraw(random), normalDraw(random)];
    const p = fit.parameters.map((m, i) => m + e.reduce((sum, v, k) => sum + factor[i]![k]! * v, 0));
    return [p[0]!, Math.max(0.3, p[1]!), Math.max(0, p[2]!)];
  });
  const hoursOf = ([lnK, n, left]: readonly number[]) => {
    if (X0 <= target) return 0;
    if (left! >= target) return Number.POSITIVE_INFINITY;
    const wanted = (target - left!) / (X0 - left!);
    return (-Math.log(wanted) / Math.exp(lnK!)) ** (1 / n!);
  };
  const wetAt = (p: readonly number[], hours: number) => {
    const X = dryBasisAt(bed, p, hours);
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
    n: fit.parameters[1]!,
    toTarget: range(draws.map(hoursOf)),
    at: (hours) => range(draws.map((p) => wetAt(p, hours))),
    chanceAbove: (moisture, hours) => draws.filter((p) => wetAt(p, hours) > moisture).length / draws.length,
  };
}

/** A bed as the law is fitted to it, moistures on a dry basis. */
interface Bed {
  first: number;
  target: number;
  equilibrium: number;
  law: DryLaw;
  points: readonly { hours: number; dryBasis: number }[];
}

/** Moisture on a dry basis from one on a wet basis, %. */
const basis = (wet: number) => wet / (100 - wet);

/** Dry-basis moisture after some hours; parameters ln k, n and the equilibrium. */
const dryBasisAt = ({ first }: Bed, [lnK, n, left]: readonly number[], hours: number) =>
  hours <= 0 ? first : left! + (first - left!) * Math.exp(-Math.exp(lnK!) * hours ** n!);

/** What the weighings miss the law by, as shares of the water that dries off. */
const missedBy = (bed: Bed, p: readonly number[]) =>
  bed.points.map((w) => (dryBasisAt(bed, p, w.hours) - w.dryBasis) / (bed.first - bed.equilibrium));

/** The law nearest to the weighings of a bed, with `u` what one of them may stray by. */
function fitBed(bed: Bed, u: number, from: readonly number[]) {
  const { equilibrium, target, law } = bed;
  return leastSquares({
    residuals: (p) => [
      ...missedBy(bed, p).map((m) => m / u),
      (p[0]! - PRIOR.lnK) / PRIOR.lnKSd,
      (p[1]! - PRIOR.n) / PRIOR.nSd[law],
      (p[2]! - equilibrium) / PRIOR.equilibriumSd,
    ],
    start: [...from],
    lower: [-12, 0.3, 0],
    upper: [4, 2.5, Math.max(equilibrium, 0.6 * target + 0.4 * equilibrium)],
    scale: [1, 1, 0.01],
  });
}

/**
 * How badly the best drying law fits weighings: half the sum of squares at its mode, in units of what a bed usually strays by.
 *
 * @param start mass and moisture at hour 0
 * @param weighings later ones, each above the dry matter
 * @throws RangeError for a weighing below the dry matter, or hours that are no numbers
 */
export function dryMisfit(start: DryStart, weighings: readonly DryWeighing[]): number {
  const dry = dryMatter(start);
  for (const w of weighings) requireFinite(w.hours, 'the hour of a weighing');
  const points = weighings.map((w) => ({ hours: w.hours, dryBasis: basis(moistureByMass(w.mass, dry)) }));
  const equilibrium = EQUILIBRIUM_DRY_BASIS;
  const bed: Bed = {
    first: basis(start.moisture),
    target: basis(DRY_TARGET),
    equilibrium,
    law: 'page',
    points,
  };
  if (!(bed.first > equilibrium)) return 0;
  return fitBed(bed, LAW.u, [PRIOR.lnK, 1, equilibrium]).sumOfSquares / 2;
}

/** Lower triangular factor L of a covariance, L Lᵀ; what rounding makes negative counts as 0. */
function lowerTriangle(c: readonly (readonly number[])[]): number[][] {
  const L = c.map((row) => row.map(() => 0));
  for (let i = 0; i < c.length; i += 1)
    for (let k = 0; k <= i; k += 1) {
      const rest = c[i]![k]! - L[i]!.slice(0, k).reduce((sum, v, j) => sum + v * L[k]![j]!, 0);
      L[i]![k] = i === k ? Math.sqrt(Math.max(0, rest)) : L[k]![k]! > 0 ? rest / L[k]![k]! : 0;
    }
  return L;
}

/** What to look out for in a drying. */
export type DryNote =
  | { code: 'mould-risk'; days: number }
  /** Hours after the last weighing at which two days above 20 % are full, and how likely it is still above then. */
  | { code: 'mould-ahead'; hours: number; chance: number }
  | { code: 'too-dry'; moisture: number }
  | { code: 'target-reached'; moisture: number };

/**
 * Names what stands out: more than two days above 20 % (mould), now or to be expected, under 6 % (beans shatter), target reached.
 *
 * @param moistures % wet basis by hour, in order
 * @param forecast what is to come, where there is a forecast
 */
export function dryNotes(
  moistures: readonly { hours: number; moisture: number }[],
  targetMoisture: number = DRY_TARGET,
  forecast?: DryForecast,
): DryNote[] {
  requireFinite(targetMoisture, 'the target moisture');
  for (const m of moistures) {
    requireFinite(m.hours, 'the hour of a weighing');
    requireBetween(m.moisture, 0, 100, 'a moisture');
  }
  const last = moistures.at(-1);
  if (!last) return [];
  const notes: DryNote[] = [];
  let above = 0;
  for (let i = 1; i < moistures.length; i += 1) {
    const [a, b] = [moistures[i - 1]!, moistures[i]!];
    const width = b.hours - a.hours;
    if (a.moisture > MOULD_ABOVE && b.moisture > MOULD_ABOVE) above += width;
    else if (a.moisture > MOULD_ABOVE || b.moisture > MOULD_ABOVE) {
      // Falling or rising through the mark: the part of the way above it.
      const high = Math.max(a.moisture, b.moisture);
      above += (width * (high - MOULD_ABOVE)) / Math.abs(a.moisture - b.moisture);
    }
  }
  if (above > MOULD_DAYS * 24) notes.push({ code: 'mould-risk', days: above / 24 });
  else if (forecast?.ok && last.moisture > MOULD_ABOVE) {
    // So many hours after the last weighing the two days will be full.
    const hours = MOULD_DAYS * 24 - above;
    const chance = forecast.chanceAbove(MOULD_ABOVE, last.hours + hours);
    if (chance >= MOULD_CHANCE) notes.push({ code: 'mould-ahead', hours, chance });
  }
  if (last.moisture < SHATTER_BELOW) notes.push({ code: 'too-dry', moisture: last.moisture });
  else if (last.moisture <= targetMoisture) notes.push({ code: 'target-reached', moisture: last.moisture });
  return notes;
}
