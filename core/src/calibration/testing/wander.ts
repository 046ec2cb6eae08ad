import { normalDraw, type Random } from '../../numerics/index.ts';

/** Errors of readings that wander together: a first-order autoregression of some spread that forgets within `forgets` s, and a noise of each reading's own. */
export function wander(
  random: Random,
  { spread, noise, forgets, every }: { spread: number; noise: number; forgets: number; every: number },
): () => number {
  const keep = Math.exp(-every / forgets);
  let common = spread * normalDraw(random);
  return () => {
    common = keep * common + Math.sqrt(1 - keep * keep) * spread * normalDraw(random);
    return common + noise * normalDraw(random);
  };
}
