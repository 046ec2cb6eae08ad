/**
 * A clock that goes on by the same step whenever it is read, so that a search with a time budget does the same on every machine, however
 * busy. On a usual machine a search reads its clock once in about the default step.
 *
 * @param step ms
 */
export function countingClock(step = 0.7): () => number {
  let at = 0;
  return () => (at += step);
}
