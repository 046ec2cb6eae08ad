import {
  gritAt,
  micrometerUncertainty,
  TOO_FINE_UM,
  USUAL_GRIND_PRIOR,
  type GrindCurve,
} from '../grind/index.ts';
import { normalDraw, requireAbove0, requireNotBelow0, seededRandom, type Random } from '../numerics/index.ts';
import type { PracticeLevel } from './bowl.ts';
import { falling, scoreOf, type Score } from './score.ts';

/** What happens at a mill while nobody looks: it stands for some hours, or its stones come loose and grind at half the pace. */
export type MillAccident =
  | { kind: 'stood'; at: number; hours: number }
  | { kind: 'stones-loose'; at: number; factor: number };

/** A mill nobody has learned yet. Hours count from when the paste went in. */
export interface PractisedMill {
  curve: GrindCurve;
  accident: MillAccident | null;
}

/** Draws the hidden figures of a mill; at the first level it is as its kind usually is. */
export function drawMill(seed: number, level: PracticeLevel): PractisedMill {
  const random = seededRandom(seed);
  const own = level === 1 ? 0 : 0.7;
  const of = ({ median, factor }: { median: number; factor: number }) =>
    median * Math.exp(own * Math.log(factor) * normalDraw(random));
  const curve = {
    rate: of(USUAL_GRIND_PRIOR.rate),
    finest: Math.min(15, of(USUAL_GRIND_PRIOR.finest)),
    coarse: of(USUAL_GRIND_PRIOR.coarse),
  };
  const [when, which] = [random(), random()];
  const at = (0.3 + 0.4 * when) / curve.rate;
  return {
    curve,
    accident:
      level < 3
        ? null
        : which < 0.5
          ? { kind: 'stood', at, hours: 5 }
          : { kind: 'stones-loose', at, factor: 0.5 },
  };
}

/** What the paste really is after some hours, µm. @throws RangeError for hours below 0 */
export function gritOf({ curve, accident }: PractisedMill, hours: number): number {
  requireNotBelow0(hours, 'the hours');
  const since = accident ? Math.max(0, hours - accident.at) : 0;
  const ground =
    accident === null || since === 0
      ? hours
      : accident.kind === 'stood'
        ? accident.at + Math.max(0, since - accident.hours)
        : accident.at + since * accident.factor;
  return gritAt(curve, ground);
}

/** Three drops under a micrometer, µm: as it reads, in whole µm. */
export function micrometerDrops(mill: PractisedMill, hours: number, random: Random): number[] {
  const um = gritOf(mill, hours);
  return [0, 1, 2].map(() => Math.max(1, Math.round(um + micrometerUncertainty(um) * normalDraw(random))));
}

/** Readings a run should have, and how old the last may be when the paste is drawn, h. */
const READINGS = 3;
const FRESH = 3;

/**
 * Judges a practised grind at the hour the paste was drawn: its grit against the aim, that it is not so fine that it smears, and whether it was
 * read often enough and shortly before.
 *
 * @param read hours of the readings that were written down
 * @throws RangeError for hours below 0 or an aim not above 0
 */
export function scoreMill(
  mill: PractisedMill,
  { drawnAt, read, aimUm }: { drawnAt: number; read: readonly number[]; aimUm: number },
): Score {
  requireAbove0(aimUm, 'the aim');
  const um = gritOf(mill, drawnAt);
  const last = read.length > 0 ? drawnAt - Math.max(...read) : Infinity;
  return scoreOf([
    falling('grit', 60, { error: um - aimUm, none: 8, figure: um, wanted: aimUm }),
    { id: 'not-too-fine', of: 10, points: um >= TOO_FINE_UM ? 10 : 0, figure: um, wanted: TOO_FINE_UM },
    {
      id: 'read',
      of: 15,
      points: Math.round((15 * Math.min(READINGS, read.length)) / READINGS),
      figure: read.length,
      wanted: READINGS,
    },
    {
      id: 'read-last',
      of: 15,
      points: last <= FRESH ? 15 : 0,
      figure: Number.isFinite(last) ? last : drawnAt,
      wanted: FRESH,
    },
  ]);
}
