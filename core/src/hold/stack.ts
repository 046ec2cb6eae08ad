import { SACKED_BEANS, type StackMaterial } from './defaults.ts';
import { slabTerms, slabTheta, type SlabTerm } from './slab.ts';

/** A brick of sacks: length × width × height in m, in air on all sides. */
export interface Stack {
  sides: readonly [number, number, number];
  startC: number;
  airC: number;
  material?: StackMaterial;
}

const DAY = 86_400;
const LONGEST_DAYS = 400;

/** A stack made ready for many questions. */
export class StackModel {
  private readonly terms: SlabTerm[][];
  private readonly rates: number[];

  /** @throws RangeError for a side not above 0 */
  constructor(readonly stack: Stack) {
    const { conductivity, diffusivity, transfer } = stack.material ?? SACKED_BEANS;
    for (const side of stack.sides)
      if (!(side > 0) || !Number.isFinite(side))
        throw new RangeError('each side of the stack must be above 0 m');
    const halves = stack.sides.map((s) => s / 2);
    this.terms = halves.map((L) => slabTerms((transfer * L) / conductivity));
    this.rates = halves.map((L) => diffusivity / (L * L));
  }

  /**
   * Temperature after some days, °C: the product of three slab series. `position` runs from 0 (middle) to 1 (face) along
   * each side; the centre where left out.
   */
  at(days: number, position: readonly [number, number, number] = [0, 0, 0]): number {
    const { startC, airC } = this.stack;
    const theta = this.terms.reduce(
      (product, terms, i) => product * slabTheta(terms, this.rates[i]! * days * DAY, position[i]!),
      1,
    );
    return airC + (startC - airC) * theta;
  }

  /** Days until the centre comes to `coreC`; 0 when it is there already, null when the air never brings it there. */
  daysTo(coreC: number): number | null {
    const { startC, airC } = this.stack;
    if (airC < startC ? coreC >= startC : coreC <= startC) return 0;
    if (airC < startC ? coreC <= airC : coreC >= airC) return null;
    const reached = (days: number) => (airC < startC ? this.at(days) <= coreC : this.at(days) >= coreC);
    let high = 1;
    while (!reached(high)) {
      high *= 2;
      if (high > LONGEST_DAYS) return null;
    }
    let low = 0;
    for (let i = 0; i < 60; i += 1) {
      const middle = (low + high) / 2;
      if (reached(middle)) high = middle;
      else low = middle;
    }
    return high;
  }

  /** Temperature through the middle of the shortest side, face to face, after some days: `count` points. */
  profile(days: number, count = 41): { position: number; celsius: number }[] {
    const shortest = this.stack.sides.indexOf(Math.min(...this.stack.sides));
    return Array.from({ length: count }, (_, i) => {
      const position = (2 * i) / (count - 1) - 1;
      const at: [number, number, number] = [0, 0, 0];
      at[shortest] = Math.abs(position);
      return { position, celsius: this.at(days, at) };
    });
  }
}

/** A hold: how long until the core is there, and how long altogether, in days; null where the core never gets there. */
export interface HoldTime {
  daysToCore: number | null;
  daysInAll: number | null;
}

/** Hold time = time for the core to reach its target + the days it must stay there. */
export function holdTime(stack: Stack, coreC: number, stayDays: number): HoldTime {
  if (!(stayDays >= 0)) throw new RangeError('the days at the target must not be negative');
  const daysToCore = new StackModel(stack).daysTo(coreC);
  return { daysToCore, daysInAll: daysToCore === null ? null : daysToCore + stayDays };
}

/** A stack cut by air gaps into layers along its longest side: what one part needs. */
export function splitStack(stack: Stack, parts: number): Stack {
  if (!Number.isInteger(parts) || parts < 1)
    throw new RangeError('a stack is cut into a whole number of parts');
  const longest = stack.sides.indexOf(Math.max(...stack.sides));
  return {
    ...stack,
    sides: stack.sides.map((s, i) => (i === longest ? s / parts : s)) as unknown as Stack['sides'],
  };
}

/** What a core probe's readings say of a hold; they replace the estimate. */
export interface ProbedHold {
  /** First instant (epoch ms) at which the core was at the target and stayed there since; null where it is not. */
  reachedAt: number | null;
  /** When the days at the target are over; null as above. */
  endsAt: number | null;
  lastC: number;
}

/**
 * Reads a core probe's record: the clock starts when the core reaches the target and starts again whenever it leaves it.
 * Empty readings give null.
 */
export function probedHold(
  readings: readonly { at: number; celsius: number }[],
  { coreC, days, cold }: { coreC: number; days: number; cold: boolean },
): ProbedHold | null {
  const sorted = [...readings].sort((a, b) => a.at - b.at);
  const last = sorted.at(-1);
  if (!last) return null;
  let reachedAt: number | null = null;
  for (const r of sorted) {
    const there = cold ? r.celsius <= coreC : r.celsius >= coreC;
    reachedAt = there ? (reachedAt ?? r.at) : null;
  }
  return {
    reachedAt,
    endsAt: reachedAt === null ? null : reachedAt + days * DAY * 1000,
    lastC: last.celsius,
  };
}
