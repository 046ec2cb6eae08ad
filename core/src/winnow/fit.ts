import { leastSquares, requireNumbers, requireWhole } from '../numerics/index.ts';
import { CUT_PRIOR, PIECE_G, USUAL_CRACKED_BEAN, type CrackedBean } from './defaults.ts';
import { fallingSpeeds, losses, streams, type AirCut, type FallingSpeeds } from './separation.ts';

/** The maker's checks at one setting: husk found in nibs and nib found in husk, as shares by mass; either may be missing. */
export interface SettingChecks {
  /** Air setting as the maker counts it (gate, fan or dial), above 0; air speed is taken to go with it. */
  setting: number;
  huskInNibs?: { share: number; sampleG: number } | null;
  nibInHusk?: { share: number; sampleG: number } | null;
  passes?: number;
}

/** A fitted winnower. */
export interface FittedWinnower {
  /** Air speed for a setting of 1, m/s. */
  speedPerSetting: number;
  sharpness: number;
  /** Factors that one standard uncertainty multiplies by. */
  speedFactor: number;
  sharpnessFactor: number;
  /** Checks it rests on. */
  checks: number;
  speeds: FallingSpeeds;
  huskShare: number;
}

/** The air cut at a setting. */
export function cutAt(winnower: FittedWinnower, setting: number): AirCut {
  return { speed: winnower.speedPerSetting * setting, sharpness: winnower.sharpness };
}

/**
 * Fits the air speed and the sharpness of the cut to checks, by maximum a posteriori on logarithms: the shares' logits have
 * the uncertainty of that many pieces in the sample (and at least 8 %), the priors are wide. With no check the prior comes back.
 *
 * @throws RangeError for a setting not above 0 or a share outside [0, 1)
 */
export function fitWinnower(
  checks: readonly SettingChecks[],
  bean: CrackedBean = USUAL_CRACKED_BEAN,
): FittedWinnower {
  requireNumbers(checks, 'a check');
  for (const c of checks) if (c.passes !== undefined) requireWhole(c.passes, 'the number of passes', 1);
  for (const c of checks) {
    if (!(c.setting > 0)) throw new RangeError('an air setting must be above 0');
    for (const found of [c.huskInNibs, c.nibInHusk])
      if (found && !(found.share >= 0 && found.share < 1 && found.sampleG > 0))
        throw new RangeError('a check is a share of 0 to below 1, from a sample above 0 g');
  }
  const speeds = fallingSpeeds(bean);
  const middle =
    checks.length > 0 ? Math.exp(checks.reduce((s, c) => s + Math.log(c.setting), 0) / checks.length) : 1;
  const prior = [Math.log(CUT_PRIOR.speed / middle), Math.log(CUT_PRIOR.sharpness)];
  const spread = [Math.log(CUT_PRIOR.speedFactor), Math.log(CUT_PRIOR.sharpnessFactor)];
  const fit = leastSquares({
    residuals: (p) => {
      const r = p.map((v, i) => (v - prior[i]!) / spread[i]!);
      for (const c of checks) {
        const cut = { speed: Math.exp(p[0]!) * c.setting, sharpness: Math.exp(p[1]!) };
        const made = streams(losses(speeds, cut, c.passes ?? 1), bean.huskShare);
        if (c.huskInNibs) r.push(residual(made.huskInNibs, c.huskInNibs, PIECE_G.husk));
        if (c.nibInHusk) r.push(residual(made.nibInHusk, c.nibInHusk, PIECE_G.nib));
      }
      return r;
    },
    start: prior,
    scale: [1, 1],
  });
  const sd = fit.covariance.diagonal().map(Math.sqrt);
  return {
    speedPerSetting: Math.exp(fit.parameters[0]!),
    sharpness: Math.exp(fit.parameters[1]!),
    speedFactor: Math.exp(sd[0]!),
    sharpnessFactor: Math.exp(sd[1]!),
    checks: checks.reduce((n, c) => n + Number(Boolean(c.huskInNibs)) + Number(Boolean(c.nibInHusk)), 0),
    speeds,
    huskShare: bean.huskShare,
  };
}

/** Difference of logits over its uncertainty; half a piece stands in for none, so that a clean sample still counts. */
function residual(made: number, found: { share: number; sampleG: number }, pieceG: number): number {
  const pieces = found.sampleG / pieceG;
  const seen = (found.share * pieces + 0.5) / (pieces + 1);
  const u = Math.hypot(1 / Math.sqrt(Math.max(0.5, pieces * seen * (1 - seen))), 0.08);
  const logit = (x: number) => Math.log(x / (1 - x));
  return (logit(Math.min(1 - 1e-9, Math.max(1e-9, made))) - logit(seen)) / u;
}
