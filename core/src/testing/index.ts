/**
 * How often a trial that takes long is made: some times whenever the tests are run, and many times in `npm run trials`, where `WUNSCH_TRIALS` is
 * set. What is expected of the shares that come out must hold for both.
 *
 * @param usually tries of every run
 * @param inTrials tries of the long one
 */
export const often = (usually: number, inTrials: number): number =>
  process.env.WUNSCH_TRIALS ? inTrials : usually;
