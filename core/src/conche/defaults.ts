/** How the mass meets the air. */
export const AIR_WAYS = ['sealed', 'open lid', 'fan'] as const;

/** One of them. */
export type AirWay = (typeof AIR_WAYS)[number];

/** Constants of the acid fall. */
export const CONCHE_DEFAULTS = {
  /** Rate at 60 °C with an open lid, 1/h: median and the factor of one standard deviation. A guess until sourness has been tasted. */
  rate: { median: 0.07, factor: 1.8 },
  /** Factor of the rate for 10 K. */
  q10: 2,
  referenceC: 60,
  air: { sealed: 0.4, 'open lid': 1, fan: 1.6 } satisfies Record<AirWay, number>,
  /** Sourness (0–10) at the start and the least it comes to, mean and standard deviation. */
  start: { mean: 6, sd: 2 },
  end: { mean: 2, sd: 1 },
  /** Standard uncertainty of one person's sourness score. */
  scoreU: 0.9,
} as const;

/** Batches needed before liking is shown against hours. */
export const LIKING_BATCHES_NEEDED = 4;
