/** A source of uniform numbers in [0, 1); the core never calls a random source of its own. */
export type Random = () => number;

/** A repeatable uniform source from a 32-bit seed (mulberry32, T. Ettinger, public domain). */
export function seededRandom(seed: number): Random {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4_294_967_296;
  };
}

/** A standard normal draw by the polar method of Marsaglia. */
export function normalDraw(random: Random): number {
  for (;;) {
    const u = 2 * random() - 1;
    const v = 2 * random() - 1;
    const s = u * u + v * v;
    if (s > 0 && s < 1) return u * Math.sqrt((-2 * Math.log(s)) / s);
  }
}

/** A list in another order, drawn from a source of chance (Fisher and Yates). */
export function shuffled<T>(list: readonly T[], random: Random): T[] {
  const next = [...list];
  for (let i = next.length - 1; i > 0; i -= 1) {
    const k = Math.floor(random() * (i + 1));
    [next[i], next[k]] = [next[k]!, next[i]!];
  }
  return next;
}
