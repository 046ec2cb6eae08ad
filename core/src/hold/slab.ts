/** One root of ζ tan ζ = Bi and its weight 4 sin ζ/(2ζ + sin 2ζ) in the series. */
export interface SlabTerm {
  zeta: number;
  weight: number;
}

/** Terms of the slab series used; at Fo > 0.002 what is left out is below 1e-6. */
const TERMS = 40;

/**
 * Roots of ζ tan ζ = Bi in ((n−1)π, (n−½)π) with their weights at the middle of the slab, by bisection.
 *
 * @throws RangeError for a Biot number not above 0
 */
export function slabTerms(biot: number, count: number = TERMS): SlabTerm[] {
  if (!(biot > 0) || !Number.isFinite(biot)) throw new RangeError('the Biot number must be above 0');
  return Array.from({ length: count }, (_, n) => {
    let low = n * Math.PI;
    let high = low + Math.PI / 2;
    for (let i = 0; i < 60; i += 1) {
      const middle = (low + high) / 2;
      if (middle * Math.sin(middle) < biot * Math.cos(middle) === (n % 2 === 0)) low = middle;
      else high = middle;
    }
    const zeta = (low + high) / 2;
    return { zeta, weight: (4 * Math.sin(zeta)) / (2 * zeta + Math.sin(2 * zeta)) };
  });
}

/**
 * θ = (T − T∞)/(T₀ − T∞) in a slab at `position` (0 middle, 1 face): Σ C_n cos(ζ_n x) e^(−ζ_n² Fo).
 * Source: Carslaw and Jaeger, Conduction of Heat in Solids, 3.11; Incropera, 5.5.
 */
export function slabTheta(terms: readonly SlabTerm[], fourier: number, position = 0): number {
  if (fourier <= 0) return 1;
  let sum = 0;
  for (const { zeta, weight } of terms)
    sum += weight * Math.cos(zeta * position) * Math.exp(-zeta * zeta * fourier);
  return sum;
}
