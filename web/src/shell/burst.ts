/** Keys nearer than this are one burst, ms: no hand types four signs so fast, and every scanner does, those without a cable too. */
const TOGETHER = 90;

/** Least signs of a code. */
const LEAST = 4;

/**
 * Tells a scanner that types from a hand that does: a burst of signs that ends in Enter is a code, anything else was keys. Keys wait for
 * the end of their burst, so that no sign of a code does what its key would.
 */
export class KeyBurst {
  private signs: string[] = [];
  private timer: ReturnType<typeof setTimeout> | null = null;

  constructor(
    private readonly on: {
      code: (text: string) => void;
      /** One key that was no part of a code. */
      key: (key: string) => void;
    },
  ) {}

  /** A sign was typed. */
  press(sign: string): void {
    this.signs.push(sign);
    if (this.timer) clearTimeout(this.timer);
    this.timer = setTimeout(() => this.keys(), TOGETHER);
  }

  /** Enter was pressed; whether that ended a code. */
  enter(): boolean {
    const text = this.signs.join('');
    if (text.length < LEAST) {
      this.keys();
      return false;
    }
    this.clear();
    this.on.code(text);
    return true;
  }

  /** Forgets what was begun. */
  clear(): void {
    if (this.timer) clearTimeout(this.timer);
    this.timer = null;
    this.signs = [];
  }

  private keys(): void {
    const { signs } = this;
    this.clear();
    for (const sign of signs) this.on.key(sign);
  }
}
