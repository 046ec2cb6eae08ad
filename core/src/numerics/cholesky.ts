/** A lower triangle, row by row in a square array: element (i, j) at `i * size + j`. */
export interface Triangle {
  size: number;
  values: Float64Array;
}

/**
 * The Cholesky factor L of a symmetric positive definite matrix A = L·Lᵀ, of which the lower triangle is read
 * (row by row in a square array). A pivot that rounding has eaten (below `tolerance` of its diagonal) has no factor.
 * Where the first `diagonal` rows are a diagonal matrix among themselves, they cost next to nothing.
 *
 * @returns null where the matrix is not positive definite
 */
export function cholesky(a: Float64Array, size: number, tolerance = 1e-13, diagonal = 0): Triangle | null {
  const l = a.slice();
  for (let j = 0; j < size; j += 1) {
    const row = j * size;
    const whole = l[row + j]!;
    let pivot = whole;
    for (let k = j < diagonal ? j : 0; k < j; k += 1) pivot -= l[row + k]! * l[row + k]!;
    if (!(pivot > tolerance * Math.abs(whole))) return null;
    const root = Math.sqrt(pivot);
    l[row + j] = root;
    for (let i = j + 1; i < size; i += 1) {
      const other = i * size;
      let sum = l[other + j]!;
      for (let k = j < diagonal ? j : 0; k < j; k += 1) sum -= l[other + k]! * l[row + k]!;
      l[other + j] = sum / root;
    }
  }
  return { size, values: l };
}

/** Solves Lᵀ·x = b for a lower triangle L. */
export function solveTransposed({ size, values }: Triangle, b: readonly number[] | Float64Array): number[] {
  const x = Array.from(b);
  for (let i = size - 1; i >= 0; i -= 1) {
    for (let k = i + 1; k < size; k += 1) x[i]! -= values[k * size + i]! * x[k]!;
    x[i]! /= values[i * size + i]!;
  }
  return x;
}

/** Solves L·x = b for a lower triangle L. */
export function solveLower({ size, values }: Triangle, b: readonly number[] | Float64Array): number[] {
  const x = Array.from(b);
  for (let i = 0; i < size; i += 1) {
    for (let k = 0; k < i; k += 1) x[i]! -= values[i * size + k]! * x[k]!;
    x[i]! /= values[i * size + i]!;
  }
  return x;
}
