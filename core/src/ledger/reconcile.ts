import { Matrix, SingularValueDecomposition } from 'ml-matrix';
import { chiSquareTail, normalQuantile } from '../numerics/index.ts';

/** Measured masses that ought to balance. All masses in one unit of the caller's choice. */
export interface ReconcileProblem {
  /** n measured values. */
  values: readonly number[];
  /** n standard uncertainties, each above 0. */
  uncertainties: readonly number[];
  /** Balance rows A, each of n coefficients (+1 in, −1 out, 0 not in this balance); A·x = 0. */
  balances: readonly (readonly number[])[];
  /** Chance of naming an entry in sound data; default 0.05, shared over all n entries (Bonferroni). */
  significance?: number;
}

/** One set of entries that the balances cannot tell apart. */
export interface SuspectGroup {
  /** Indices into `values`. */
  members: number[];
  /** The common |z| of the measurement test. */
  z: number;
  /**
   * Best estimate of the slip: what to add to the first member's value to mend the balances (negative:
   * it reads too much). The other members' share it with their own sign in `perMember`.
   */
  shortBy: number;
  perMember: number[];
}

/** The reconciled masses and what the tests say. */
export interface Reconciliation {
  reconciled: number[];
  /** (Ax)ᵀ(AVAᵀ)⁻¹(Ax). */
  chiSquare: number;
  degreesOfFreedom: number;
  /** Chance of a χ² at least this large when the scales explain the differences. */
  pValue: number;
  /** z of each measurement; NaN where the balances do not check the entry. */
  z: number[];
  /** |z| an entry must pass to be named. */
  limit: number;
  /** True when the weights disagree more than the scales explain (p < significance). */
  disagrees: boolean;
  /** The group most likely to hold the slip, only where it passes the limit. */
  suspect: SuspectGroup | null;
  /** Index of the balance with the largest standardised residual. */
  likeliestBalance: number;
}

/** Relative size below which a column of the balances, or a variance reduction, counts as nothing. */
const TINY = 1e-9;

/**
 * Weighted least-squares reconciliation of measured masses under linear balances, with the global χ² test
 * and the measurement test: x̂ = x − V Aᵀ (A V Aᵀ)⁻¹ A x, z_i = (x_i − x̂_i)/√(V − V̂)_ii.
 * Redundant balance rows are allowed; the degrees of freedom are rank(A).
 *
 * Source: Narasimhan and Jordache, Data Reconciliation and Gross Error Detection, chapters 3 and 7.
 * @throws RangeError when the shapes differ, a value is not finite or an uncertainty is not above 0
 */
export function reconcile(problem: ReconcileProblem): Reconciliation {
  const { values, uncertainties, balances, significance = 0.05 } = problem;
  const n = values.length;
  check(problem);
  const A = new Matrix(balances.map((row) => [...row]));
  const x = Matrix.columnVector([...values]);
  const variances = uncertainties.map((u) => u * u);
  const residual = A.mmul(x);
  // V is diagonal: V Aᵀ is Aᵀ with each row scaled.
  const VAt = new Matrix(variances.map((v, i) => A.getColumn(i).map((a) => a * v)));
  const S = A.mmul(VAt);
  const svd = new SingularValueDecomposition(S, { autoTranspose: true });
  const largest = Math.max(...svd.diagonal, 0);
  const degreesOfFreedom = svd.diagonal.filter((s) => s > largest * TINY).length;
  if (degreesOfFreedom === 0) throw new RangeError('the balances check nothing: every coefficient is zero');
  const Sinv = pseudoInverse(svd, largest * TINY);
  const weights = Sinv.mmul(residual);
  const adjustment = VAt.mmul(weights).to1DArray();
  const scaled = VAt.mmul(Sinv);
  const chiSquare = residual.transpose().mmul(weights).get(0, 0);
  const pValue = chiSquareTail(chiSquare, degreesOfFreedom);
  const z = adjustment.map((a, i) => {
    // The diagonal of V Aᵀ S⁻¹ A V is all that is needed of it.
    const variance = scaled.getRow(i).reduce((sum, s, j) => sum + s * VAt.get(i, j), 0);
    return variance > TINY * variances[i]! ? a / Math.sqrt(variance) : Number.NaN;
  });
  const limit = normalQuantile(1 - significance / (2 * n));
  const disagrees = pValue < significance;
  const standardised = residual
    .to1DArray()
    .map((r, i) => Math.abs(r) / Math.sqrt(Math.max(S.get(i, i), Number.MIN_VALUE)));
  return {
    reconciled: values.map((v, i) => v - adjustment[i]!),
    chiSquare,
    degreesOfFreedom,
    pValue,
    z,
    limit,
    disagrees,
    suspect: disagrees ? findSuspect(A, Sinv, residual, z, limit) : null,
    likeliestBalance: standardised.indexOf(Math.max(...standardised)),
  };
}

function check({ values, uncertainties, balances }: ReconcileProblem): void {
  const n = values.length;
  if (uncertainties.length !== n)
    throw new RangeError(`${n} values need ${n} uncertainties, not ${uncertainties.length}`);
  if (balances.length === 0) throw new RangeError('at least one balance is needed');
  for (const [i, row] of balances.entries()) {
    if (row.length !== n)
      throw new RangeError(`balance ${i + 1} has ${row.length} coefficients for ${n} values`);
    if (!row.every(Number.isFinite))
      throw new RangeError(`balance ${i + 1} holds a coefficient that is not a number`);
  }
  values.forEach((v, i) => {
    if (!Number.isFinite(v)) throw new RangeError(`value ${i + 1} is not a number`);
    if (!(uncertainties[i]! > 0) || !Number.isFinite(uncertainties[i]!)) {
      throw new RangeError(`uncertainty ${i + 1} must be above 0`);
    }
  });
}

function pseudoInverse(svd: SingularValueDecomposition, threshold: number): Matrix {
  const inverse = Matrix.diag(svd.diagonal.map((s) => (s > threshold ? 1 / s : 0)));
  return svd.rightSingularVectors.mmul(inverse).mmul(svd.leftSingularVectors.transpose());
}

function findSuspect(
  A: Matrix,
  Sinv: Matrix,
  residual: Matrix,
  z: number[],
  limit: number,
): SuspectGroup | null {
  let worst = -1;
  z.forEach((value, i) => {
    if (Number.isFinite(value) && (worst < 0 || Math.abs(value) > Math.abs(z[worst]!) + 1e-9)) worst = i;
  });
  if (worst < 0 || Math.abs(z[worst]!) <= limit) return null;
  const column = A.getColumnVector(worst);
  const members = z.map((_, i) => i).filter((i) => proportion(column, A.getColumnVector(i)) !== 0);
  // Generalised-likelihood estimate of a single gross error along this column.
  const top = column.transpose().mmul(Sinv).mmul(residual).get(0, 0);
  const bottom = column.transpose().mmul(Sinv).mmul(column).get(0, 0);
  const excess = top / bottom;
  return {
    members,
    z: Math.abs(z[worst]!),
    shortBy: -excess / proportion(A.getColumnVector(members[0]!), column),
    perMember: members.map((i) => -excess / proportion(column, A.getColumnVector(i))),
  };
}

/** b/a when the columns point along one line, else 0. */
function proportion(a: Matrix, b: Matrix): number {
  const dot = (p: Matrix, q: Matrix) => p.transpose().mmul(q).get(0, 0);
  const [aa, bb, ab] = [dot(a, a), dot(b, b), dot(a, b)];
  if (aa === 0 || bb === 0) return 0;
  return Math.abs(ab * ab - aa * bb) <= TINY * aa * bb ? ab / aa : 0;
}
