/**
 * Refusals of what cannot be computed. Every function the core exports passes its numbers through these, so that an answer is
 * never given to nonsense; each says what the number is and what would be right.
 */

/** @throws RangeError for NaN and the infinities */
export function requireFinite(value: number, what: string): void {
  if (typeof value !== 'number' || !Number.isFinite(value))
    throw new RangeError(`${what} must be a number, not ${value}`);
}

/** @throws RangeError for what is not a finite number above 0 */
export function requireAbove0(value: number, what: string): void {
  if (!(value > 0) || !Number.isFinite(value)) throw new RangeError(`${what} must be above 0, not ${value}`);
}

/** @throws RangeError for what is not a finite number of 0 or more */
export function requireNotBelow0(value: number, what: string): void {
  if (!(value >= 0) || !Number.isFinite(value))
    throw new RangeError(`${what} must be 0 or more, not ${value}`);
}

/** @throws RangeError for what is not a finite number from `low` to `high`, both included */
export function requireBetween(value: number, low: number, high: number, what: string): void {
  if (!(value >= low && value <= high))
    throw new RangeError(`${what} must lie between ${low} and ${high}, not ${value}`);
}

/** @throws RangeError for what is not a whole number of at least `least` */
export function requireWhole(value: number, what: string, least = 0): void {
  if (!Number.isInteger(value) || value < least)
    throw new RangeError(`${what} must be a whole number of ${least} or more, not ${value}`);
}

/** @throws RangeError for a list whose numbers are not all finite */
export function requireAllFinite(values: readonly number[], what: string): void {
  values.forEach((v, i) => requireFinite(v, `${what} ${i + 1}`));
}

/**
 * Refuses nonsense anywhere in a structure: every number in it must be finite. What is left out (null, undefined) is free.
 *
 * @throws RangeError naming the path to the first number that is none
 */
export function requireNumbers(value: unknown, what: string): void {
  if (typeof value === 'number') requireFinite(value, what);
  else if (Array.isArray(value)) value.forEach((v, i) => requireNumbers(v, `${what} ${i + 1}`));
  else if (value !== null && typeof value === 'object' && !ArrayBuffer.isView(value))
    for (const [name, inner] of Object.entries(value)) requireNumbers(inner, `${what}: ${name}`);
}
