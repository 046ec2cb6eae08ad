/** Wrong passwords in a row before the next try has to wait. */
const FREE = 5;

/** The first wait, and the longest one, ms; each further wrong password doubles it. */
const FIRST_WAIT = 30_000;
const LONGEST_WAIT = 15 * 60_000;

/** After so long without a wrong password they are forgotten, ms. */
const FORGET = 24 * 3_600_000;

/** Most names and addresses kept in mind. */
const MOST = 2000;

/** Wrong passwords given for one name from one address. */
export interface WrongTries {
  name: string;
  from: string;
  count: number;
  /** Epoch ms of the last one. */
  at: number;
}

/**
 * Keeps wrong passwords in mind by name and address together: whoever guesses waits longer and longer, and the person whose
 * name is guessed at signs in as ever from anywhere else.
 */
export class Tries {
  private readonly known = new Map<string, WrongTries>();

  constructor(private readonly now: () => number = Date.now) {}

  private keyOf(name: string, from: string): string {
    return `${from}\n${name.trim().toLowerCase()}`;
  }

  /** Seconds this name has to wait at this address; 0 where it may try. */
  wait(name: string, from: string): number {
    const tries = this.known.get(this.keyOf(name, from));
    if (!tries || tries.count < FREE) return 0;
    const wait = Math.min(FIRST_WAIT * 2 ** (tries.count - FREE), LONGEST_WAIT);
    return Math.max(0, Math.ceil((tries.at + wait - this.now()) / 1000));
  }

  /** Notes a wrong password. */
  wrong(name: string, from: string): void {
    const key = this.keyOf(name, from);
    const before = this.known.get(key);
    this.known.delete(key);
    this.known.set(key, { name, from, count: (before?.count ?? 0) + 1, at: this.now() });
    for (const [old, { at }] of this.known) {
      if (this.known.size <= MOST && this.now() - at < FORGET) break;
      this.known.delete(old);
    }
  }

  /** Forgets them after the right password. */
  right(name: string, from: string): void {
    this.known.delete(this.keyOf(name, from));
  }

  /** What was tried in vain within a day, newest first. */
  list(): WrongTries[] {
    return [...this.known.values()].filter(({ at }) => this.now() - at < FORGET).reverse();
  }
}
