import { Matrix, QrDecomposition, SingularValueDecomposition } from 'ml-matrix';

/** What {@link leastSquares} is asked. */
export interface LeastSquaresProblem {
  /** Weighted residuals (model − measured)/u at the parameters; always the same number of them. */
  residuals: (parameters: readonly number[]) => number[];
  start: readonly number[];
  /** Smallest and largest allowed values, one for each parameter. */
  lower?: readonly number[];
  upper?: readonly number[];
  /** Size below which a parameter counts as 0 when its difference step is chosen; 1e-3 where left out. */
  scale?: readonly number[];
  maxIterations?: number;
  /** Share of the sum of squares a step must gain for the search to go on; 1e-14 where left out. */
  tolerance?: number;
}

/** Where the sum of squares is least, and how well the parameters are known there. */
export interface LeastSquaresFit {
  parameters: number[];
  residuals: number[];
  sumOfSquares: number;
  /** Rows residuals, columns parameters. */
  jacobian: Matrix;
  /** (JᵀJ)⁻¹: the parameters' covariance when the residuals are in units of their own standard uncertainty. */
  covariance: Matrix;
  /** Residual standard deviation √(S/(n − p)); NaN without degrees of freedom. */
  residualSd: number;
  /** √(diag (JᵀJ)⁻¹) × residual standard deviation: for residuals whose uncertainty is not known beforehand. */
  standardErrors: number[];
  iterations: number;
  converged: boolean;
}

const DIFFERENCE = Math.cbrt(Number.EPSILON);

/**
 * Non-linear least squares by Levenberg–Marquardt: central differences, damping scaled by the columns of the
 * Jacobian (Marquardt 1963; Moré 1978) and steered by Nielsen's rule, each step solved by QR; a step that does not
 * lessen the sum of squares is taken back.
 *
 * @throws RangeError when there are fewer residuals than parameters, or a residual is not a number at the start
 */
export function leastSquares(problem: LeastSquaresProblem): LeastSquaresFit {
  const { maxIterations = 300, tolerance = 1e-14 } = problem;
  const count = problem.start.length;
  const clamp = (p: number[]) =>
    p.map((v, i) => Math.min(problem.upper?.[i] ?? Infinity, Math.max(problem.lower?.[i] ?? -Infinity, v)));
  let p = clamp([...problem.start]);
  let r = problem.residuals(p);
  if (r.length < count)
    throw new RangeError(`${count} parameters need at least as many residuals, not ${r.length}`);
  if (!r.every(Number.isFinite)) throw new RangeError('the model gives no number at the starting values');
  let sum = squares(r);
  let J = jacobianAt(problem, p);
  let scale = columnNorms(J);
  let damping = 1e-2;
  let growth = 2;
  let iterations = 0;
  let converged = false;
  while (iterations < maxIterations && !converged) {
    iterations += 1;
    const step = dampedStep(J, r, scale, damping);
    const next = clamp(p.map((v, i) => v + step[i]!));
    const moved = next.map((v, i) => v - p[i]!);
    const size = Math.hypot(...moved.map((v, i) => v * scale[i]!));
    const reach = Math.hypot(...p.map((v, i) => v * scale[i]!));
    if (size <= 1e-12 * (reach + 1e-12)) {
      converged = true;
      break;
    }
    const nr = problem.residuals(next);
    const nextSum = squares(nr);
    const predicted =
      sum -
      squares(
        J.mmul(Matrix.columnVector(moved))
          .to1DArray()
          .map((v, i) => v + r[i]!),
      );
    const gain = predicted > 0 ? (sum - nextSum) / predicted : -1;
    if (Number.isFinite(nextSum) && nextSum < sum) {
      converged = sum - nextSum <= tolerance * sum && gain > 0.1;
      [p, r, sum] = [next, nr, nextSum];
      J = jacobianAt(problem, p);
      scale = columnNorms(J).map((v, i) => Math.max(v, 0.1 * scale[i]!));
      damping = Math.max(1e-15, damping * Math.max(1 / 3, 1 - (2 * gain - 1) ** 3));
      growth = 2;
    } else {
      damping *= growth;
      growth *= 2;
      if (damping > 1e20) converged = true;
    }
  }
  const covariance = inverseGram(J);
  const residualSd = r.length > count ? Math.sqrt(sum / (r.length - count)) : Number.NaN;
  return {
    parameters: p,
    residuals: r,
    sumOfSquares: sum,
    jacobian: J,
    covariance,
    residualSd,
    standardErrors: covariance.diagonal().map((v) => Math.sqrt(v) * residualSd),
    iterations,
    converged,
  };
}

const squares = (values: readonly number[]) => values.reduce((total, v) => total + v * v, 0);

function jacobianAt({ residuals, scale, lower, upper }: LeastSquaresProblem, p: readonly number[]): Matrix {
  const columns = p.map((value, i) => {
    const h = DIFFERENCE * Math.max(Math.abs(value), scale?.[i] ?? 1e-3);
    const shifted = (by: number) => {
      const q = [...p];
      q[i] = Math.min(upper?.[i] ?? Infinity, Math.max(lower?.[i] ?? -Infinity, value + by));
      return { at: q[i]!, r: residuals(q) };
    };
    const [a, b] = [shifted(-h), shifted(h)];
    const width = b.at - a.at;
    return a.r.map((v, k) => (width === 0 ? 0 : (b.r[k]! - v) / width));
  });
  return new Matrix(columns).transpose();
}

function columnNorms(J: Matrix): number[] {
  return Array.from({ length: J.columns }, (_, i) => Math.hypot(...J.getColumn(i)) || 1e-12);
}

/** The step that minimises |J·δ + r|² + λ|D·δ|². */
function dampedStep(J: Matrix, r: readonly number[], scale: readonly number[], damping: number): number[] {
  const n = J.columns;
  const A = Matrix.zeros(J.rows + n, n);
  const b = Matrix.zeros(J.rows + n, 1);
  for (let i = 0; i < J.rows; i += 1) {
    for (let k = 0; k < n; k += 1) A.set(i, k, J.get(i, k) / scale[k]!);
    b.set(i, 0, -r[i]!);
  }
  for (let k = 0; k < n; k += 1) A.set(J.rows + k, k, Math.sqrt(damping));
  return new QrDecomposition(A)
    .solve(b)
    .to1DArray()
    .map((v, k) => v / scale[k]!);
}

/** (JᵀJ)⁻¹ through singular values, so that a direction nobody measured comes out wide instead of failing. */
function inverseGram(J: Matrix): Matrix {
  const { rightSingularVectors: V, diagonal: s } = new SingularValueDecomposition(J, { autoTranspose: true });
  const floor = 1e-14 * Math.max(...s);
  const D = Matrix.diag(s.map((v) => 1 / Math.max(v, floor) ** 2));
  return V.mmul(D).mmul(V.transpose());
}
