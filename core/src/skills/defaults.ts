/** Runs that are looked back on, for each person and station: who was good years ago may have fallen out of practice. */
export const RUNS_LOOKED_AT = 10;

/** Good runs, of the last {@link RUNS_LOOKED_AT}, after which somebody is ready to be signed off, where the workshop has not said otherwise. */
export const USUAL_GOOD_RUNS = 5;

/** Points of 100 in a practice with a machine of its own (level 2 or 3) that count as much. */
export const USUAL_POINTS = 80;

/** A roast hit its aim when its dose lies between these shares of it: what tasters tell apart is about a third. */
export const DOSE_HIT = [0.75, 1.33] as const;

/** Grit above the aim by this share is within what a micrometer tells apart twice over. */
export const GRIT_OVER = 0.15;
