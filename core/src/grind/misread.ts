import type { GrindPrior } from './defaults.ts';
import { grindMisfit, type GritReading } from './forecast.ts';
import { micrometerUncertainty } from './reading.ts';

/** Fewer readings of a segment than this contradict nobody. */
const LEAST = 3;

/** A reading is named where the others are so much likelier without it, as a logarithm: nearly five of its standard uncertainties. */
const LIKELIER = 12;

/** Grit does not grow: by more than this factor, and so many standard uncertainties, a later reading is coarser by mistake only. */
const GROWS = { factor: 1.3, us: 3 } as const;

/** The last reading may not be so much finer than the one before it unless its hours have ground that: half of what is left after as many hours again. */
const LEAST_SHARE = 0.5;

/**
 * Readings of a grind that were mistyped or misread (310 for 31, 2.7 for 27): without them the curve fits the others far better, and stones cannot have
 * done them, since grit never grows and does not fall faster than it ever has. A mill that slows is none: its readings come in order.
 *
 * @param readings of a whole run; segments are looked at one by one
 * @returns those of them that do not belong, at most a third of a segment's
 * @throws RangeError for readings that are no numbers, or not above 0 µm
 */
export function misreadGrit(readings: readonly GritReading[], prior?: GrindPrior): GritReading[] {
  const segments = [...new Set(readings.map((r) => r.segment ?? 0))];
  return segments.flatMap((segment) => {
    let kept = readings.filter((r) => (r.segment ?? 0) === segment).toSorted((a, b) => a.hours - b.hours);
    const named: GritReading[] = [];
    const most = Math.floor(kept.length / LEAST);
    while (named.length < most) {
      const worst = worstOf(kept, prior);
      if (!worst) break;
      named.push(worst);
      kept = kept.filter((r) => r !== worst);
    }
    return named;
  });
}

/** The reading the others gain most without, where stones cannot have done it; null where there is none. */
function worstOf(readings: readonly GritReading[], prior: GrindPrior | undefined): GritReading | null {
  if (readings.length < LEAST) return null;
  const together = grindMisfit(readings, prior);
  // No misfit lies below 0: there is nothing to gain.
  if (together <= LIKELIER) return null;
  let best: { reading: GritReading; gain: number } | null = null;
  for (const reading of readings) {
    const gain =
      together -
      grindMisfit(
        readings.filter((r) => r !== reading),
        prior,
      );
    if (gain > (best?.gain ?? LIKELIER)) best = { reading, gain };
  }
  return best && isImpossible(readings, best.reading) ? best.reading : null;
}

/** Coarser than what came before it, finer than what came after it, or fallen faster at the end than ever before. */
function isImpossible(readings: readonly GritReading[], reading: GritReading): boolean {
  const i = readings.indexOf(reading);
  const [before, after] = [readings[i - 1], readings[i + 1]];
  if ((before && grows(before, reading)) || (after && grows(reading, after))) return true;
  const earlier = readings[i - 2];
  if (after || !before || !earlier) return false;
  // As steep as it fell last, carried on over the hours since.
  const fall = Math.log(Math.max(1.05, earlier.um / before.um)) / Math.max(0.1, before.hours - earlier.hours);
  return reading.um < LEAST_SHARE * before.um * Math.exp(-fall * (reading.hours - before.hours));
}

function grows(a: GritReading, b: GritReading): boolean {
  const u = (r: GritReading) => r.uUm ?? micrometerUncertainty(r.um);
  return b.um > GROWS.factor * a.um && b.um - a.um > GROWS.us * Math.hypot(u(a), u(b));
}
