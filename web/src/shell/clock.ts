/** Clocks that differ by no more than this are one, ms: what a message takes on its way differs as much. */
const NEAR = 1500;

/** Beats looked at; and a beat that differs from them by more than this tells of a clock that was put right, ms. */
const BEATS = 6;
const PUT_RIGHT = 5000;

/**
 * The workshop's clock as this device knows it. A tablet whose own clock is minutes off would note a stir minutes beside the readings of the
 * probe, and ring its timers as late: so the server tells the time with each beat of its events, and all that is noted here goes by that.
 */
export class WorkshopClock {
  /** How much later the workshop's clock is than the device's, ms, by each of the last beats. */
  private heard: number[] = [];
  private offset = 0;

  constructor(private readonly device: () => number = () => Date.now()) {}

  /** Epoch ms on the workshop's clock; the device's own until a server has told. */
  now = (): number => this.device() + this.offset;

  /** Takes what the server's clock says, epoch ms; what is no time is not taken. */
  hear(serverNow: number): void {
    if (!Number.isFinite(serverNow)) return;
    const ahead = serverNow - this.device();
    if (this.heard.some((h) => Math.abs(h - ahead) > PUT_RIGHT)) this.heard = [];
    this.heard = [...this.heard, ahead].slice(-BEATS);
    // A beat can only arrive late: the one that was quickest is the nearest to the truth.
    const best = Math.max(...this.heard);
    this.offset = Math.abs(best) <= NEAR ? 0 : best;
  }
}

/** The clock of the workshop this server keeps. */
export const workshopClock = new WorkshopClock();
