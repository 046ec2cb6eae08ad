import { EigenvalueDecomposition, Matrix } from 'ml-matrix';
import { cholesky, requireAllFinite, solveLower, solveTransposed, type Triangle } from '../numerics/index.ts';

/** A linear mixed model: y = X·β + Σ Z·b + e, with one variance for each grouping. */
export interface MixedModel {
  y: readonly number[];
  /** One row a score: the fixed part’s columns, of full rank. */
  fixed: readonly (readonly number[])[];
  /** Groupings with a random level each: for every score, which level it belongs to. Crossed, nested, unbalanced: all the same. */
  random: Readonly<Record<string, readonly string[]>>;
}

/** A fitted {@link MixedModel}. */
export interface MixedFit {
  /** Fixed effects, in the order of the columns. */
  fixed: number[];
  standardErrors: number[];
  /** Covariance of the fixed effects, row by row. */
  covariance: number[][];
  /** Variance of each grouping, and of what is left. */
  variances: Record<string, number>;
  residual: number;
  /** Predicted level of each grouping (best linear unbiased prediction). */
  levels: Record<string, Record<string, number>>;
  fitted: number[];
  /** −2 log of the restricted likelihood. */
  deviance: number;
  /**
   * A combination Σ cᵢ·βᵢ: its estimate, standard error, and Satterthwaite’s degrees of freedom.
   *
   * @throws RangeError for another number of coefficients than fixed effects
   */
  contrast(coefficients: readonly number[]): Contrast;
}

/** An estimate with what is needed for its interval. */
export interface Contrast {
  estimate: number;
  standardError: number;
  freedom: number;
}

/**
 * Restricted maximum likelihood for a model of crossed random intercepts: the deviance is profiled over the fixed effects and the
 * residual variance (Bates, Mächler, Bolker and Walker, 2015, section 3.4) so that only the relative standard deviations θ ≥ 0 are
 * searched. One Cholesky factor of the cross-products gives everything at a θ; scores enter it only once, so that a thousand more
 * cost nothing. The deviance is even in θ, hence smooth where a variance is 0, and Newton’s method finds that too.
 *
 * @throws RangeError when lengths differ, a number is none, the fixed part is not of full rank, or no score is left over to judge the noise by
 */
export function fitMixedModel({ y, fixed, random }: MixedModel): MixedFit {
  const n = y.length;
  const p = fixed[0]?.length ?? 0;
  requireAllFinite(y, 'score');
  if (fixed.length !== n) throw new RangeError(`the fixed part has ${fixed.length} rows for ${n} scores`);
  if (p === 0) throw new RangeError('the fixed part needs a column');
  fixed.forEach((row, i) => {
    if (row.length !== p) throw new RangeError(`row ${i + 1} of the fixed part has another length`);
    requireAllFinite(row, `row ${i + 1} of the fixed part, column`);
  });
  if (n <= p) throw new RangeError(`${p} fixed effects need at least ${p + 1} scores, not ${n}`);
  const groups = Object.entries(random).map(([name, of]) => {
    if (of.length !== n) throw new RangeError(`grouping ${name} names ${of.length} levels for ${n} scores`);
    const names = [...new Set(of)];
    if (names.length < 2 || names.length >= n)
      throw new RangeError(
        `grouping ${name} needs at least two levels, and fewer than there are scores, not ${names.length}`,
      );
    const at = new Map(names.map((level, i) => [level, i]));
    return { name, names, at: of.map((level) => at.get(level)!) };
  });
  // The largest grouping first: within a grouping the cross-products are a diagonal, and a diagonal costs nothing.
  groups.sort((a, b) => b.names.length - a.names.length);
  const products = crossProducts(y, fixed, groups);
  const theta = searchTheta(
    groups.map(() => 1),
    (t) => factorAt(products, t)?.deviance ?? Infinity,
  );
  const best = factorAt(products, theta);
  if (!best) throw new RangeError('the fixed part’s columns must not follow from one another');
  const { variance } = best;
  const inverse = fixedInverse(products, best);
  const covariance = inverse.map((row) => row.map((v) => v * variance));
  const coefficients = solutions(products, best);
  const beta = coefficients.slice(products.q).map((b, k) => b + products.start[k]!);
  const levels: MixedFit['levels'] = {};
  let first = 0;
  groups.forEach(({ name, names }, g) => {
    levels[name] = Object.fromEntries(names.map((l, i) => [l, theta[g]! * coefficients[first + i]!]));
    first += names.length;
  });
  return {
    fixed: beta,
    standardErrors: covariance.map((row, i) => Math.sqrt(row[i]!)),
    covariance,
    variances: Object.fromEntries(groups.map(({ name }, g) => [name, theta[g]! ** 2 * variance])),
    residual: variance,
    levels,
    fitted: y.map(
      (_, i) =>
        fixed[i]!.reduce((sum, x, k) => sum + x * beta[k]!, 0) +
        groups.reduce((sum, { name, names, at }) => sum + levels[name]![names[at[i]!]!]!, 0),
    ),
    deviance: best.deviance,
    contrast: satterthwaite(products, theta, Math.sqrt(variance), beta, covariance),
  };
}

interface Group {
  names: string[];
  at: number[];
}

interface Products {
  n: number;
  p: number;
  q: number;
  /** Levels of the first grouping. */
  diagonal: number;
  /** Group of each random column. */
  group: number[];
  /** Cross-products of [Z X y], row by row; y is what a plain least-squares fit leaves, so that nothing cancels. */
  a: Float64Array;
  size: number;
  /** Fixed effects of that plain fit. */
  start: number[];
}

function crossProducts(
  y: readonly number[],
  fixed: readonly (readonly number[])[],
  groups: readonly Group[],
): Products {
  const [n, p] = [y.length, fixed[0]!.length];
  const start = plainFit(y, fixed);
  const rest = y.map((v, i) => v - fixed[i]!.reduce((sum, x, k) => sum + x * start[k]!, 0));
  const q = groups.reduce((sum, g) => sum + g.names.length, 0);
  const size = q + p + 1;
  const a = new Float64Array(size * size);
  const offsets: number[] = [];
  groups.reduce((at, g) => (offsets.push(at), at + g.names.length), 0);
  for (let i = 0; i < n; i += 1) {
    const dense = [...fixed[i]!, rest[i]!];
    const columns = groups.map((g, k) => offsets[k]! + g.at[i]!);
    columns.forEach((c, k) => {
      for (let m = 0; m <= k; m += 1) a[c * size + columns[m]!]! += 1;
      dense.forEach((v, d) => (a[(q + d) * size + c]! += v));
    });
    dense.forEach((v, d) => {
      for (let m = 0; m <= d; m += 1) a[(q + d) * size + q + m]! += v * dense[m]!;
    });
  }
  return {
    n,
    p,
    q,
    diagonal: groups[0]?.names.length ?? 0,
    group: groups.flatMap((g, k) => g.names.map(() => k)),
    a,
    size,
    start,
  };
}

function plainFit(y: readonly number[], fixed: readonly (readonly number[])[]): number[] {
  const p = fixed[0]!.length;
  const a = new Float64Array(p * p);
  const b = new Array<number>(p).fill(0);
  fixed.forEach((row, i) =>
    row.forEach((v, k) => {
      b[k]! += v * y[i]!;
      for (let m = 0; m <= k; m += 1) a[k * p + m]! += v * row[m]!;
    }),
  );
  const l = cholesky(a, p, 1e-10);
  if (!l) throw new RangeError('the fixed part’s columns must not follow from one another');
  return solveTransposed(l, solveLower(l, b));
}

interface Factor {
  factor: Triangle;
  deviance: number;
  /** Residual variance at this θ. */
  variance: number;
  logRandom: number;
  logFixed: number;
  rest: number;
}

/** Everything at relative standard deviations θ; null where the fixed part is not of full rank. */
function factorAt({ n, p, q, diagonal, group, a, size }: Products, theta: readonly number[]): Factor | null {
  const m = a.slice();
  const scale = Float64Array.from({ length: size }, (_, i) => (i < q ? theta[group[i]!]! : 1));
  for (let i = 0; i < size; i += 1) {
    const row = i * size;
    const own = scale[i]!;
    const end = i < q ? i : q - 1;
    for (let j = 0; j <= end; j += 1) m[row + j] = m[row + j]! * own * scale[j]!;
    if (i < q) m[row + i]! += 1;
  }
  // What is left of y may be as good as nothing (scores that agree exactly); a floor keeps its logarithm a number.
  m[size * size - 1] = m[size * size - 1]! * (1 + 1e-12) + 1e-12;
  const factor = cholesky(m, size, 1e-16, diagonal);
  if (!factor) return null;
  const pivot = (i: number) => factor.values[i * size + i]!;
  let [logRandom, logFixed] = [0, 0];
  for (let i = 0; i < q; i += 1) logRandom += 2 * Math.log(pivot(i));
  for (let i = q; i < q + p; i += 1) logFixed += 2 * Math.log(pivot(i));
  const rest = pivot(q + p) ** 2;
  const variance = rest / (n - p);
  const deviance = logRandom + logFixed + (n - p) * (1 + Math.log(2 * Math.PI * variance));
  return { factor, deviance, variance, logRandom, logFixed, rest };
}

/** (XᵀV⁻¹X)⁻¹ in units of the residual variance. */
function fixedInverse({ p, q, size }: Products, { factor }: Factor): number[][] {
  const values = new Float64Array(p * p);
  for (let i = 0; i < p; i += 1)
    for (let j = 0; j <= i; j += 1) values[i * p + j] = factor.values[(q + i) * size + q + j]!;
  const l = { size: p, values };
  return Array.from({ length: p }, (_, i) =>
    solveTransposed(
      l,
      solveLower(
        l,
        Array.from({ length: p }, (__, k) => Number(k === i)),
      ),
    ),
  );
}

/** Spherical random effects, then what the fixed effects are beyond the plain fit. */
function solutions({ size }: Products, { factor }: Factor): number[] {
  const inner = size - 1;
  const values = new Float64Array(inner * inner);
  for (let i = 0; i < inner; i += 1)
    for (let j = 0; j <= i; j += 1) values[i * inner + j] = factor.values[i * size + j]!;
  return solveTransposed({ size: inner, values }, factor.values.subarray(inner * size, inner * size + inner));
}

/**
 * The θ ≥ 0 of least deviance: damped Newton steps on central differences; then each θ that does no better than 0 is 0.
 */
function searchTheta(start: readonly number[], deviance: (theta: readonly number[]) => number): number[] {
  const k = start.length;
  if (k === 0) return [];
  const from = (scale: number) =>
    descend(
      start.map((t) => t * scale),
      deviance,
    );
  let best = from(1);
  // A variance that came out as good as 0 may have been stepped over: once more from small ones.
  if (best.theta.some((t) => Math.abs(t) < 0.01)) {
    const again = from(0.2);
    if (again.value < best.value - 1e-9) best = again;
  }
  let { theta, value } = best;
  theta = theta.map(Math.abs);
  for (let g = 0; g < k; g += 1) {
    const without = theta.map((t, i) => (i === g ? 0 : t));
    const then = deviance(without);
    if (then <= value + 1e-7) [theta, value] = [without, Math.min(value, then)];
  }
  return theta;
}

function descend(
  from: readonly number[],
  deviance: (theta: readonly number[]) => number,
): { theta: number[]; value: number } {
  const k = from.length;
  let theta = [...from];
  let value = deviance(theta);
  let damping = 1e-3;
  for (let turn = 0; turn < 60; turn += 1) {
    const { gradient, hessian } = differences(deviance, theta, value);
    if (Math.hypot(...gradient) < 1e-7 * (1 + Math.abs(value))) break;
    let moved = false;
    for (let attempt = 0; attempt < 10 && !moved; attempt += 1) {
      const h = new Float64Array(k * k);
      for (let i = 0; i < k; i += 1)
        for (let j = 0; j <= i; j += 1)
          h[i * k + j] = hessian[i]![j]! + (i === j ? damping * (1 + Math.abs(hessian[i]![i]!)) : 0);
      const l = cholesky(h, k);
      const step = l && solveTransposed(l, solveLower(l, gradient));
      const next = step && theta.map((t, i) => t - step[i]!);
      const then = next ? deviance(next) : Infinity;
      if (next && then < value) {
        moved = true;
        const gain = value - then;
        [theta, value] = [next, then];
        damping = Math.max(1e-10, damping / 10);
        if (gain < 1e-9 * (1 + Math.abs(value))) return { theta, value };
      } else damping = Math.max(damping * 10, 1e-6);
    }
    if (!moved) break;
  }
  return { theta, value };
}

/** Gradient and Hessian by central differences. */
function differences(f: (at: readonly number[]) => number, at: readonly number[], centre: number) {
  const k = at.length;
  const h = at.map((t) => 1e-4 * Math.max(0.1, Math.abs(t)));
  const moved = (...by: [number, number][]) => {
    const x = [...at];
    for (const [i, d] of by) x[i]! += d * h[i]!;
    return f(x);
  };
  const up = at.map((_, i) => moved([i, 1]));
  const down = at.map((_, i) => moved([i, -1]));
  const gradient = at.map((_, i) => (up[i]! - down[i]!) / (2 * h[i]!));
  const hessian = at.map((_, i) => new Array<number>(k).fill((up[i]! - 2 * centre + down[i]!) / h[i]! ** 2));
  for (let i = 0; i < k; i += 1)
    for (let j = 0; j < i; j += 1) {
      const cross =
        moved([i, 1], [j, 1]) - moved([i, 1], [j, -1]) - moved([i, -1], [j, 1]) + moved([i, -1], [j, -1]);
      hessian[i]![j] = hessian[j]![i] = cross / (4 * h[i]! * h[j]!);
    }
  return { gradient, hessian };
}

/** An inverse and what it is multiplied by; none where the fixed part is not of full rank there. */
interface Scaled {
  inverse: number[][] | null;
  scale: number;
}

/** Satterthwaite’s degrees of freedom (as in Kuznetsova, Brockhoff and Christensen, 2017): from how well the variances are known. */
function satterthwaite(
  products: Products,
  theta: readonly number[],
  sigma: number,
  beta: readonly number[],
  covariance: readonly (readonly number[])[],
): MixedFit['contrast'] {
  const { n, p } = products;
  const deviance = (v: readonly number[]) => {
    const at = factorAt(products, v.slice(0, -1));
    const s = v.at(-1)! * sigma;
    return at
      ? at.logRandom + at.logFixed + (n - p) * Math.log(2 * Math.PI * s * s) + at.rest / (s * s)
      : Infinity;
  };
  // The noise in units of what it was found to be, so that the scale of the scores does not matter.
  const point = [...theta, 1];
  let spread: Matrix | null = null;
  const known = () => {
    if (spread) return spread;
    const { hessian } = differences(deviance, point, deviance(point));
    const { eigenvectorMatrix: v, realEigenvalues: e } = new EigenvalueDecomposition(new Matrix(hessian), {
      assumeSymmetric: true,
    });
    // A direction the scores say nothing of has no part in it.
    const most = Math.max(...e);
    const inverse = Matrix.diag(e.map((x) => (x > 1e-6 * most ? 2 / x : 0)));
    spread = v.mmul(inverse).mmul(v.transpose());
    return spread;
  };
  /** The covariance beside each parameter, to both sides: the same whatever combination is asked for, and dear. */
  type Beside = { step: number; up: Scaled; down: Scaled };
  let beside: Beside[] | null = null;
  const besides = () => {
    beside ??= point.map((x, i) => {
      const step = 1e-4 * Math.max(0.1, Math.abs(x));
      const shifted = (by: number): Scaled => {
        const v = point.map((u, k) => (k === i ? u + by : u));
        const at = factorAt(products, v.slice(0, -1));
        return { inverse: at && fixedInverse(products, at), scale: (v.at(-1)! * sigma) ** 2 };
      };
      return { step, up: shifted(step), down: shifted(-step) };
    });
    return beside;
  };
  return (coefficients) => {
    if (coefficients.length !== p)
      throw new RangeError(`${p} coefficients are needed, not ${coefficients.length}`);
    requireAllFinite(coefficients, 'coefficient');
    const used = coefficients.flatMap((c, i) => (c === 0 ? [] : [[i, c] as const]));
    const form = (of: readonly (readonly number[])[]) =>
      used.reduce((sum, [i, a]) => sum + a * used.reduce((inner, [j, b]) => inner + b * of[i]![j]!, 0), 0);
    const variance = form(covariance);
    const varianceOf = ({ inverse, scale }: Scaled) => (inverse ? form(inverse) * scale : Number.NaN);
    const gradient = besides().map(({ step, up, down }) => (varianceOf(up) - varianceOf(down)) / (2 * step));
    const g = Matrix.columnVector(gradient);
    const bottom = g.transpose().mmul(known()).mmul(g).get(0, 0);
    const freedom = bottom > 0 ? (2 * variance ** 2) / bottom : n - p;
    return {
      estimate: coefficients.reduce((sum, c, i) => sum + c * beta[i]!, 0),
      standardError: Math.sqrt(Math.max(0, variance)),
      freedom: Math.min(Math.max(1, freedom), n),
    };
  };
}
