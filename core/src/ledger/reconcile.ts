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

/** Relative size below which a singular value, or the share of an entry that is checked, counts as nothing. */
const TINY = 1e-9;

/**
 * Weighted least-squares reconciliation of measured masses under linear balances, with the global χ² test
 * and the measurement test: x̂ = x − V Aᵀ (A V Aᵀ)⁻¹ A x, z_i = (x_i − x̂_i)/√(V − V̂)_ii.
 * Redundant balance rows are allowed; the degrees of freedom are rank(A).
 *
 * Everything is worked out in units of the entries' own uncertainties, each balance scaled to one, so that a 60 kg roast and a scale
 * that reads 0.01 g may stand in the same problem: with B = D A V^½ = U Σ Wᵀ the adjustment is V^½ W Σ⁻¹ Uᵀ D A x.
 *
 * Source: Narasimhan and Jordache, Data Reconciliation and Gross Error Detection, chapters 3 and 7.
 * @throws RangeError when the shapes differ, a value is not finite or an uncertainty is not above 0
 */
export function reconcile(problem: ReconcileProblem): Reconciliation {
  const { values, uncertainties, balances, significance = 0.05 } = problem;
  const n = values.length;
  check(problem);
  const whitened = balances.map((row) => row.map((a, i) => a * uncertainties[i]!));
  const sizes = whitened.map((row) => Math.hypot(...row));
  const scaled = whitened.map((row, j) => row.map((v) => (sizes[j]! > 0 ? v / sizes[j]! : 0)));
  const residual = balances.map((row) => row.reduce((sum, a, i) => sum + a * values[i]!, 0));
  const standardised = residual.map((r, j) => (sizes[j]! > 0 ? r / sizes[j]! : 0));
  const svd = new SingularValueDecomposition(new Matrix(scaled), { autoTranspose: true });
  const largest = Math.max(...svd.diagonal, 0);
  const used = svd.diagonal.flatMap((s, k) => (s > largest * TINY && s > 0 ? [k] : []));
  const degreesOfFreedom = used.length;
  if (degreesOfFreedom === 0) throw new RangeError('the balances check nothing: every coefficient is zero');
  const { leftSingularVectors: U, rightSingularVectors: W, diagonal } = svd;
  // Coordinates of the misfit along the checked directions.
  const along = used.map((k) => standardised.reduce((sum, r, j) => sum + U.get(j, k) * r, 0) / diagonal[k]!);
  const misfit = Array.from({ length: n }, (_, i) =>
    used.reduce((sum, k, m) => sum + W.get(i, k) * along[m]!, 0),
  );
  const checked = Array.from({ length: n }, (_, i) => used.reduce((sum, k) => sum + W.get(i, k) ** 2, 0));
  const chiSquare = along.reduce((sum, v) => sum + v * v, 0);
  const pValue = chiSquareTail(chiSquare, degreesOfFreedom);
  const z = misfit.map((v, i) => (checked[i]! > TINY ? v / Math.sqrt(checked[i]!) : Number.NaN));
  const limit = normalQuantile(1 - significance / (2 * n));
  const disagrees = pValue < significance;
  const worst = standardised.map(Math.abs);
  return {
    reconciled: values.map((v, i) => v - uncertainties[i]! * misfit[i]!),
    chiSquare,
    degreesOfFreedom,
    pValue,
    z,
    limit,
    disagrees,
    suspect: disagrees ? findSuspect({ balances, uncertainties, misfit, checked, z, limit }) : null,
    likeliestBalance: worst.indexOf(Math.max(...worst)),
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

function findSuspect(known: {
  balances: ReconcileProblem['balances'];
  uncertainties: readonly number[];
  misfit: readonly number[];
  checked: readonly number[];
  z: readonly number[];
  limit: number;
}): SuspectGroup | null {
  const { balances, uncertainties, misfit, checked, z, limit } = known;
  let worst = -1;
  z.forEach((value, i) => {
    if (Number.isFinite(value) && (worst < 0 || Math.abs(value) > Math.abs(z[worst]!) + 1e-9)) worst = i;
  });
  if (worst < 0 || Math.abs(z[worst]!) <= limit) return null;
  const column = (i: number) => balances.map((row) => row[i]!);
  const members = z.flatMap((_, i) => (proportion(column(worst), column(i)) !== 0 ? [i] : []));
  // Generalised-likelihood estimate of a single gross error in this entry.
  const excess = (uncertainties[worst]! * misfit[worst]!) / checked[worst]!;
  const perMember = members.map((i) => -excess / proportion(column(worst), column(i)));
  return { members, z: Math.abs(z[worst]!), shortBy: perMember[0]!, perMember };
}

/** b/a when the columns point along one line, else 0. */
function proportion(a: readonly number[], b: readonly number[]): number {
  const dot = (p: readonly number[], q: readonly number[]) => p.reduce((sum, v, i) => sum + v * q[i]!, 0);
  const [aa, bb, ab] = [dot(a, a), dot(b, b), dot(a, b)];
  if (aa === 0 || bb === 0) return 0;
  return Math.abs(ab * ab - aa * bb) <= TINY * aa * bb ? ab / aa : 0;
}
