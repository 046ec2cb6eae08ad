import type { RoastPlan } from './plan.ts';

/** Moments nearer than this are the same one, s. */
export const SAME = 1e-9;

/** Follows the stages of a plan, which may end on time, on bean temperature, or when a hand says so. */
export class StageClock {
  readonly starts: number[] = [0];
  private index = 0;
  private handEnd: number | null = null;
  private over = false;

  constructor(private readonly plan: RoastPlan) {}

  get current() {
    return this.plan.stages[this.index]!;
  }

  /** When the stage that runs ends by the clock, s. */
  get due(): number {
    return this.starts.at(-1)! + (this.over ? 0 : this.current.minutes * 60);
  }

  /** A hand ends the stage that runs. */
  end(t: number): void {
    this.handEnd = t;
  }

  /** Moves on where a stage has ended; the end of the plan once, else null. */
  advance(t: number, beanC: number): number | null {
    while (!this.over) {
      const stage = this.current;
      const { due } = this;
      const reached = stage.endBeanC != null && beanC >= stage.endBeanC;
      if (!(t >= due - SAME || reached || this.handEnd !== null)) return null;
      const at = this.handEnd !== null || reached ? t : due;
      this.handEnd = null;
      this.starts.push(at);
      if (this.index === this.plan.stages.length - 1) {
        this.over = true;
        return at;
      }
      this.index += 1;
    }
    return null;
  }
}
