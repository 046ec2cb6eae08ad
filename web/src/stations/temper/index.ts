/** What other stations use of tempering: what a bowl's log offers as reasons for how its bars came out. */
export { BowlReasons } from './DoneBowls.tsx';
