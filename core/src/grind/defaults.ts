/** A log-normal prior: median and the factor that one standard deviation multiplies by. */
export interface LogNormalPrior {
  median: number;
  factor: number;
}

/** What is known of a grinder before this run's readings. */
export interface GrindPrior {
  /** Rate constant k, 1/h. */
  rate: LogNormalPrior;
  /** Grit the stones end at, d∞, µm. */
  finest: LogNormalPrior;
  /** Grit above d∞ when the segment starts, d0 − d∞, µm. */
  coarse: LogNormalPrior;
  /** Earlier runs the prior rests on; 0 for the trade's usual ranges. */
  runs: number;
}

/** The trade's usual ranges for small stone grinders: from about 100 µm to 20 µm in one to two days. */
export const USUAL_GRIND_PRIOR: GrindPrior = {
  rate: { median: 0.09, factor: 1.8 },
  finest: { median: 13, factor: 1.25 },
  coarse: { median: 80, factor: 2 },
  runs: 0,
};

/** Where on its range a machine lies is known less well than one run differs from the next: the spread between runs on one machine. */
export const RUN_FACTOR = { rate: 1.2, finest: 1.08, coarse: 1.5 } as const;

/** Standard uncertainty of one micrometer reading: a part in µm and a part of the reading. */
export const READING_U_UM = 1;
/** The part of a micrometer reading's uncertainty that goes with the reading. */
export const READING_U_RELATIVE = 0.05;

/** Aim when the recipe names none, µm. */
export const DEFAULT_AIM_UM = 20;

/** Below this it turns gummy, µm. */
export const TOO_FINE_UM = 12;

/** Readings needed before a stopping time is predicted. */
export const READINGS_NEEDED = 3;
