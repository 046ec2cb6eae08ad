import { normalDraw, requireBetween, seededRandom, type Random } from '../numerics/index.ts';
import {
  CUT_PRIOR,
  fallingSpeeds,
  HUSK_LIMIT,
  losses,
  PIECE_G,
  separate,
  speedForLimit,
  USUAL_CRACKED_BEAN,
  type AirCut,
  type CrackedBean,
} from '../winnow/index.ts';
import type { PracticeLevel } from './bowl.ts';
import { falling, scoreOf, type Score } from './score.ts';

/** Settings of a practised winnower’s air. */
export const AIR = { least: 1, most: 10 } as const;

/** A winnower nobody has tuned yet. */
export interface PractisedWinnower {
  bean: CrackedBean;
  /** Air speed for each setting, m/s. */
  speedPerSetting: number;
  sharpness: number;
  /** From this portion on, counted from 0, the fan turns slower. */
  accident: { kind: 'belt-slips'; portion: number; factor: number } | null;
}

/** What a portion came apart into, mg. */
export interface WinnowedPortion {
  setting: number;
  /** In the nib bin: nib, and husk that stayed with it. */
  nibs: { nibMg: number; huskMg: number };
  /** In the husk bin: husk, and nib that was blown away. */
  husk: { nibMg: number; huskMg: number };
}

/** Draws the hidden figures of a winnower; at the first level it is as its kind usually is. */
export function drawWinnower(seed: number, level: PracticeLevel): PractisedWinnower {
  const random = seededRandom(seed);
  const own = level === 1 ? 0 : 1;
  const spread = (factor: number) => Math.exp(own * Math.log(factor) * normalDraw(random));
  const [speed, sharp, thick] = [spread(1.25), spread(1.2), spread(1.12)];
  return {
    // About the middle of the dial is right for a usual one.
    speedPerSetting: (CUT_PRIOR.speed / 5) * speed,
    sharpness: CUT_PRIOR.sharpness * sharp,
    bean: { ...USUAL_CRACKED_BEAN, huskThicknessMm: USUAL_CRACKED_BEAN.huskThicknessMm * thick },
    accident: level < 3 ? null : { kind: 'belt-slips', portion: 2 + Math.floor(2 * random()), factor: 0.78 },
  };
}

const cutOf = (w: PractisedWinnower, setting: number, portion: number): AirCut => ({
  sharpness: w.sharpness,
  speed: w.speedPerSetting * setting * (w.accident && portion >= w.accident.portion ? w.accident.factor : 1),
});

/**
 * Runs a portion of cracked beans through at a setting; nothing is lost on the way.
 *
 * @param portion its number, counted from 0
 * @throws RangeError for a setting off the dial
 */
export function winnowPortion(
  w: PractisedWinnower,
  { setting, massMg, portion }: { setting: number; massMg: number; portion: number },
): WinnowedPortion {
  requireBetween(setting, AIR.least, AIR.most, 'the air');
  const { huskLeft, nibLost } = separate(cutOf(w, setting, portion), w.bean);
  const huskMg = Math.round(massMg * w.bean.huskShare);
  const nibMg = massMg - huskMg;
  const [stays, goes] = [Math.round(huskMg * huskLeft), Math.round(nibMg * nibLost)];
  return {
    setting,
    nibs: { nibMg: nibMg - goes, huskMg: stays },
    husk: { nibMg: goes, huskMg: huskMg - stays },
  };
}

/** What somebody finds who picks a sample of a bin apart: whole pieces, as many as chance puts there. */
export function pickOf(
  { nibs, husk }: Pick<WinnowedPortion, 'nibs' | 'husk'>,
  of: 'husk' | 'nib',
  sampleMg: number,
  random: Random,
): { foundMg: number; pieces: number } {
  const bin = of === 'husk' ? nibs : husk;
  const share = (of === 'husk' ? bin.huskMg : bin.nibMg) / Math.max(1, bin.nibMg + bin.huskMg);
  const pieceMg = PIECE_G[of] * 1000;
  const most = Math.floor(sampleMg / pieceMg);
  const mean = (share * sampleMg) / pieceMg;
  const pieces = Math.min(most, Math.max(0, Math.round(mean + Math.sqrt(mean) * normalDraw(random))));
  return { pieces, foundMg: Math.round(pieces * pieceMg) };
}

/** All bins together. */
export function bins(portions: readonly WinnowedPortion[]): Pick<WinnowedPortion, 'nibs' | 'husk'> {
  const sum = (of: (p: WinnowedPortion) => number) => portions.reduce((s, p) => s + of(p), 0);
  return {
    nibs: { nibMg: sum((p) => p.nibs.nibMg), huskMg: sum((p) => p.nibs.huskMg) },
    husk: { nibMg: sum((p) => p.husk.nibMg), huskMg: sum((p) => p.husk.huskMg) },
  };
}

/** Share of the nib that even the best setting blows away where it meets the limit. */
export function leastNibLost(w: PractisedWinnower): number {
  const speeds = fallingSpeeds(w.bean);
  const speed = speedForLimit(HUSK_LIMIT, {
    speeds,
    sharpness: w.sharpness,
    huskShare: w.bean.huskShare,
  });
  return speed === null ? 0.1 : losses(speeds, { speed, sharpness: w.sharpness }).nibLost;
}

/**
 * Judges what was winnowed: husk left in all nibs against the limit, nib blown away against what even the best setting costs, whether both bins
 * were picked, and whether what was written down is what is there.
 *
 * @param told grams written down of each bin, mg; null where none was
 * @throws RangeError where nothing has been winnowed
 */
export function scoreWinnow(
  w: PractisedWinnower,
  portions: readonly WinnowedPortion[],
  told: { picked: readonly ('husk' | 'nib')[]; nibsMg: number | null; huskMg: number | null },
): Score {
  if (portions.length === 0) throw new RangeError('nothing has been winnowed yet');
  const { nibs, husk } = bins(portions);
  const nibsMg = nibs.nibMg + nibs.huskMg;
  const huskMg = husk.nibMg + husk.huskMg;
  const huskShare = nibs.huskMg / nibsMg;
  const lost = husk.nibMg / (nibs.nibMg + husk.nibMg);
  const least = leastNibLost(w);
  const off = (said: number | null, is: number) => (said === null ? 1 : Math.abs(said - is) / is);
  const wrong = Math.max(off(told.nibsMg, nibsMg), off(told.huskMg, huskMg));
  const both = (['husk', 'nib'] as const).filter((k) => told.picked.includes(k)).length;
  return scoreOf([
    falling('husk', 35, {
      error: Math.max(0, huskShare - HUSK_LIMIT),
      none: 1.5 * HUSK_LIMIT,
      figure: 100 * huskShare,
      wanted: 100 * HUSK_LIMIT,
    }),
    falling('nib-lost', 35, {
      error: Math.max(0, lost - least),
      none: 0.06,
      figure: 100 * lost,
      wanted: 100 * least,
    }),
    { id: 'picked', of: 15, points: Math.round(7.5 * both), figure: both, wanted: 2 },
    told.nibsMg === null || told.huskMg === null
      ? { id: 'weighed', of: 15, points: 0, figure: null, wanted: null }
      : falling('weighed', 15, { error: wrong, none: 0.05, figure: 100 * wrong, wanted: 0 }),
  ]);
}
