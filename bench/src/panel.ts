import { CholeskyDecomposition, Matrix } from 'ml-matrix';
import { normalDraw, seededRandom } from '@wunsch/core/numerics';
import { comparePanel, type PanelScore } from '@wunsch/core/taste';
import { median, ms, printTable } from './table.ts';

const RUNS = 5;
const SHAPE = { assessors: 20, sessions: 25, samples: 4 } as const;

/** Two thousand scores: twenty assessors, twenty-five sessions, four samples, crossed. */
function scores(): PanelScore[] {
  const random = seededRandom(41);
  const draw = (n: number, sd: number) => Array.from({ length: n }, () => sd * normalDraw(random));
  const assessors = draw(SHAPE.assessors, 0.9);
  const sessions = draw(SHAPE.sessions, 0.4);
  return assessors.flatMap((a, i) =>
    sessions.flatMap((d, k) =>
      Array.from({ length: SHAPE.samples }, (_, s) => ({
        sample: `s${s}`,
        assessor: `a${i}`,
        session: `d${k}`,
        score: 6 + 0.3 * s + a + d + normalDraw(random),
      })),
    ),
  );
}

/**
 * −2 log of the restricted likelihood by the textbook’s formula: the covariance of all scores as one dense matrix, factored whole.
 */
function denseDeviance(
  rows: readonly PanelScore[],
  variances: Partial<Record<'assessor' | 'session', number>>,
  residual: number,
): number {
  const n = rows.length;
  const names = [...new Set(rows.map((r) => r.sample))].sort();
  const V = Matrix.zeros(n, n);
  for (let i = 0; i < n; i += 1)
    for (let j = 0; j < n; j += 1)
      V.set(
        i,
        j,
        (i === j ? residual : 0) +
          (rows[i]!.assessor === rows[j]!.assessor ? (variances.assessor ?? 0) : 0) +
          (rows[i]!.session === rows[j]!.session ? (variances.session ?? 0) : 0),
      );
  const X = new Matrix(rows.map((r) => names.map((s) => Number(s === r.sample))));
  const y = Matrix.columnVector(rows.map((r) => r.score));
  const factor = new CholeskyDecomposition(V);
  const [VX, Vy] = [factor.solve(X), factor.solve(y)];
  const product = X.transpose().mmul(VX);
  // Symmetric but for rounding, which the factor does not accept.
  const inner = new CholeskyDecomposition(product.add(product.transpose()).div(2));
  const beta = inner.solve(X.transpose().mmul(Vy));
  const rest = y.sub(X.mmul(beta));
  const logOf = (c: CholeskyDecomposition) =>
    c.lowerTriangularMatrix.diagonal().reduce((sum, v) => sum + 2 * Math.log(v), 0);
  const p = names.length;
  return (
    logOf(factor) +
    logOf(inner) +
    rest.transpose().mmul(factor.solve(rest)).get(0, 0) +
    (n - p) * Math.log(2 * Math.PI)
  );
}

/** A panel’s whole fit with all its differences, beside a single evaluation of the likelihood with a dense matrix: a search takes dozens. */
export function panel(): void {
  const rows = scores();
  const times: number[] = [];
  let found = comparePanel(rows);
  for (let r = 0; r < RUNS; r += 1) {
    const start = performance.now();
    found = comparePanel(rows);
    times.push(performance.now() - start);
  }
  if (!found.ok) throw new Error(found.reason);
  const start = performance.now();
  const dense = denseDeviance(rows, found.variances, found.residual);
  const denseMs = performance.now() - start;
  if (Math.abs(dense - found.deviance) > 1e-4)
    throw new Error(`the dense likelihood is ${dense}, ours ${found.deviance}`);
  printTable(`a panel of ${rows.length} scores`, [
    ['whole fit, all differences, median of 5', ms(median(times))],
    ['one likelihood with a dense matrix', ms(denseMs)],
    ['both say −2 log L', found.deviance.toFixed(4)],
    ['ratio', `${(denseMs / median(times)).toFixed(0)} times`],
  ]);
}
