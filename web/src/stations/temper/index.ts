/** What other stations use of tempering: a poured bowl's log, and what it offers as reasons for how its bars came out. */
export { BowlReasons, usePouredBowl } from './DoneBowls.tsx';
