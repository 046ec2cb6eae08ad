/** The clock of a practice: it goes faster than ours, can be held, and never goes back. */
export class PracticeClock {
  private base: number;
  private since: number;

  /** @throws RangeError for a speed below 0 */
  constructor(
    startsAt: number,
    private pace: number,
    private readonly ours: () => number = () => performance.now(),
  ) {
    requireSpeed(pace);
    this.base = startsAt;
    this.since = ours();
  }

  /** Seconds of it for each second of ours; 0 while it is held. */
  get speed(): number {
    return this.pace;
  }

  /** Epoch ms it shows. */
  now = (): number => Math.round(this.base + (this.ours() - this.since) * this.pace);

  /** Lets it go faster, slower, or not at all from here on. @throws RangeError for a speed below 0 */
  setSpeed(speed: number): void {
    requireSpeed(speed);
    this.base = this.base + (this.ours() - this.since) * this.pace;
    this.since = this.ours();
    this.pace = speed;
  }
}

function requireSpeed(speed: number): void {
  if (!(speed >= 0 && Number.isFinite(speed)))
    throw new RangeError(`a clock’s speed must be 0 or above, not ${speed}`);
}
