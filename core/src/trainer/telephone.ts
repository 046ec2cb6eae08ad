/** A telephone that rings during a practice, and how long its caller talks on if nobody ends it; s. */
export interface Call {
  rings: number;
  lasts: number;
}

/** A stretch in which hands are not free, s of the practice. */
export interface Away {
  from: number;
  until: number;
}

/** Whether hands are elsewhere at a second. */
export const isAway = (away: readonly Away[], seconds: number): boolean =>
  away.some(({ from, until }) => seconds >= from && seconds < until);

/** What hands did while they were there: what is said to have been done from the telephone was not. */
export function whileThere<T extends { seconds: number }>(did: readonly T[], away: readonly Away[]): T[] {
  return did.filter(({ seconds }) => !isAway(away, seconds));
}

/** How a call stands. */
export type CallState = 'quiet' | 'rings' | 'talking' | 'over';

/**
 * A call as it is taken or not. It rings until it is taken, is let ring, or its caller gives up; once taken it keeps hands from their work until
 * they say that they will ring back, or the caller has said it all.
 */
export class Telephone {
  private taken: number | null = null;
  private ended: number | null = null;

  /** @throws RangeError for a call that does not begin at 0 s or later, or lasts no time */
  constructor(private readonly call: Call) {
    if (!(call.rings >= 0 && call.lasts > 0 && Number.isFinite(call.rings + call.lasts)))
      throw new RangeError(
        `a call rings at 0 s or later and lasts more than 0 s, not ${JSON.stringify(call)}`,
      );
  }

  /** How it stands at a second. */
  state(seconds: number): CallState {
    const { rings, lasts } = this.call;
    if (seconds < rings) return 'quiet';
    if (this.taken === null) return this.ended !== null || seconds >= rings + lasts ? 'over' : 'rings';
    return seconds < (this.ended ?? this.taken + lasts) ? 'talking' : 'over';
  }

  /** Takes it. @throws RangeError where it does not ring */
  take(seconds: number): void {
    this.require('rings', seconds);
    this.taken = seconds;
  }

  /** Lets it ring, or tells the caller that one will ring back. @throws RangeError where it neither rings nor is talked */
  end(seconds: number): void {
    if (this.state(seconds) !== 'rings') this.require('talking', seconds);
    this.ended = seconds;
  }

  /** When hands were not free, up to a second. */
  away(until: number): Away[] {
    if (this.taken === null) return [];
    const over = Math.min(this.ended ?? Infinity, this.taken + this.call.lasts, until);
    return over > this.taken ? [{ from: this.taken, until: over }] : [];
  }

  private require(state: CallState, seconds: number): void {
    const now = this.state(seconds);
    if (now !== state)
      throw new RangeError(
        state === 'rings'
          ? `the telephone does not ring: it is ${now}`
          : `nobody is on the telephone: it is ${now}`,
      );
  }
}
