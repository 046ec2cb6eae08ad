import { normalQuantile, requireAbove0, requireNumbers, requireWhole } from '../numerics/index.ts';
import { USUAL_CRACKED_BEAN, type CrackedBean } from './defaults.ts';
import { plateVelocity, roundedVelocity } from './terminalVelocity.ts';

/** An air cut: pieces whose terminal velocity is the air's go either way, and `sharpness` says how surely the rest do not. */
export interface AirCut {
  /** m/s. */
  speed: number;
  /** Exponent of the cut, above 0: chance of being carried 1/(1 + (v_t/v)^sharpness). */
  sharpness: number;
}

/** What comes of a pass, as shares of the husk, of the nib, and of the two streams. */
export interface Separation {
  /** Share of all husk that stays with the nibs. */
  huskLeft: number;
  /** Share of all nib that is blown away. */
  nibLost: number;
  /** Husk ÷ (husk + nib) in the nib stream, by mass. */
  huskInNibs: number;
  /** Nib ÷ (husk + nib) in the husk stream, by mass. */
  nibInHusk: number;
}

/** Points of the size distributions: equal shares by mass, each at its middle. */
const POINTS = 32;

/** A log-normal as equal shares: values at the middles of POINTS equal parts of the mass. */
const NORMALS = Array.from({ length: POINTS }, (_, i) => normalQuantile((i + 0.5) / POINTS));

/** The falling speeds of the pieces of a cracked bean, m/s, as equal shares of the husk's and of the nib's mass, slow to fast. */
export interface FallingSpeeds {
  husk: readonly number[];
  nib: readonly number[];
}

/** Falling speeds of log-normal flakes and pieces; v goes with the root of thickness and diameter. */
export function fallingSpeeds(bean: CrackedBean = USUAL_CRACKED_BEAN): FallingSpeeds {
  return {
    husk: NORMALS.map((z) =>
      plateVelocity(
        bean.huskThicknessMm * bean.huskSpread ** z,
        bean.huskDensity,
        bean.huskDrag,
        bean.airDensity,
      ),
    ),
    nib: NORMALS.map((z) =>
      roundedVelocity(
        bean.nibDiameterMm * bean.nibSpread ** z,
        bean.nibDensity,
        bean.nibDrag,
        bean.airDensity,
      ),
    ),
  };
}

/** Chance that air of this cut carries a piece away, given its terminal velocity, m/s. */
export function carried(velocity: number, { speed, sharpness }: AirCut): number {
  return 1 / (1 + (velocity / speed) ** sharpness);
}

/** Shares of husk left and nib lost after one or more passes of the nib stream at the same setting. */
export function losses(
  speeds: FallingSpeeds,
  cut: AirCut,
  passes = 1,
): Pick<Separation, 'huskLeft' | 'nibLost'> {
  requireAbove0(cut.speed, 'the air speed');
  requireAbove0(cut.sharpness, 'the sharpness of the cut');
  requireWhole(passes, 'the number of passes', 1);
  const stay = (list: readonly number[]) =>
    list.reduce((sum, v) => sum + (1 - carried(v, cut)) ** passes, 0) / list.length;
  return { huskLeft: stay(speeds.husk), nibLost: 1 - stay(speeds.nib) };
}

/**
 * What a pass through the winnower does to a cracked bean: plates and rounded pieces with spread sizes meet an air cut
 * of some sharpness.
 *
 * @throws RangeError for a speed or sharpness not above 0, fewer than one pass, or a husk share outside (0, 1)
 */
export function separate(cut: AirCut, bean: CrackedBean = USUAL_CRACKED_BEAN, passes = 1): Separation {
  requireNumbers({ cut, bean, passes }, 'the separation');
  if (!(cut.speed > 0) || !(cut.sharpness > 0))
    throw new RangeError('the air speed and the sharpness of the cut must be above 0');
  if (!(passes >= 1)) throw new RangeError('at least one pass is needed');
  if (!(bean.huskShare > 0 && bean.huskShare < 1))
    throw new RangeError('husk is a share of the cracked mass, above 0 and below 1');
  return streams(losses(fallingSpeeds(bean), cut, passes), bean.huskShare);
}

/** Purity of both streams from the shares lost. */
export function streams(
  { huskLeft, nibLost }: Pick<Separation, 'huskLeft' | 'nibLost'>,
  huskShare: number,
): Separation {
  const nibShare = 1 - huskShare;
  const [leftHusk, keptNib] = [huskShare * huskLeft, nibShare * (1 - nibLost)];
  const [goneHusk, goneNib] = [huskShare * (1 - huskLeft), nibShare * nibLost];
  return {
    huskLeft,
    nibLost,
    huskInNibs: leftHusk + keptNib > 0 ? leftHusk / (leftHusk + keptNib) : 0,
    nibInHusk: goneHusk + goneNib > 0 ? goneNib / (goneHusk + goneNib) : 0,
  };
}

/** Air speed in m/s at which the nib stream just meets the husk limit (share by mass); null where no speed of 0.3–12 m/s does. */
export function speedForLimit(
  limit: number,
  {
    speeds,
    sharpness,
    huskShare,
    passes = 1,
  }: { speeds: FallingSpeeds; sharpness: number; huskShare: number; passes?: number },
): number | null {
  return crossing(
    (speed) => streams(losses(speeds, { speed, sharpness }, passes), huskShare).huskInNibs - limit,
  );
}

/** The first air speed of 0.3–12 m/s at which a falling excess comes down to 0; null where it stays above. */
export function crossing(over: (speed: number) => number): number | null {
  // Towards strong air the nib goes too and purity turns back, so the first crossing from below is looked for.
  let [low, high] = [0.3, 0.3];
  for (let v = 0.3; v <= 12; v *= 1.1) {
    high = v;
    if (over(v) <= 0) break;
    low = v;
  }
  if (over(high) > 0) return null;
  for (let i = 0; i < 30 && high - low > 1e-7; i += 1) {
    const middle = (low + high) / 2;
    if (over(middle) > 0) low = middle;
    else high = middle;
  }
  return high;
}
