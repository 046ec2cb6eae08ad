/** What the pieces of a cracked bean are like, and the air they fall in. All may be changed. */
export interface CrackedBean {
  /** kg/m³. */
  huskDensity: number;
  nibDensity: number;
  /** Thickness of a husk flake, mm: median and geometric standard deviation (log-normal). */
  huskThicknessMm: number;
  huskSpread: number;
  /** Diameter of a nib piece by mass, mm: median and geometric standard deviation (log-normal). */
  nibDiameterMm: number;
  nibSpread: number;
  /** Drag coefficients: a flake falling flat, a rounded angular piece. */
  huskDrag: number;
  nibDrag: number;
  /** kg/m³ at 20 °C. */
  airDensity: number;
  /** Husk, dust and germ as a share of the cracked mass. */
  huskShare: number;
}

/**
 * Usual figures: husk 12–20 % of the roasted bean; flakes of 0.2–0.4 mm and about 700 kg/m³; nib pieces of 2–7 mm and
 * about 1,030 kg/m³. Drag of a flat plate square to the flow 1.2 and of a rounded, angular piece 0.8 at Reynolds numbers of
 * 10³ (Hoerner, Fluid-Dynamic Drag, 1965). Guesses for any one lot until a check is made.
 */
export const USUAL_CRACKED_BEAN: CrackedBean = {
  huskDensity: 700,
  nibDensity: 1030,
  huskThicknessMm: 0.28,
  huskSpread: 1.6,
  nibDiameterMm: 3.6,
  nibSpread: 1.9,
  huskDrag: 1.2,
  nibDrag: 0.8,
  airDensity: 1.204,
  huskShare: 0.14,
};

/** Husk allowed in nibs, share by mass: 1.75 % (21 CFR 163.110). */
export const HUSK_LIMIT = 0.0175;

/** Mass of one husk flake, and of one piece of nib among the husk, g; used where the pieces of a sample were not counted. */
export const PIECE_G = { husk: 0.006, nib: 0.02 } as const;

/** Prior of the air cut, m/s and factor, and of its sharpness, before a check has been made. */
export const CUT_PRIOR = { speed: 3.2, speedFactor: 1.6, sharpness: 7, sharpnessFactor: 1.7 } as const;
