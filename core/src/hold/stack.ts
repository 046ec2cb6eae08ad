import { requireAbove0, requireFinite, requireNotBelow0, requireWhole } from '../numerics/index.ts';
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

  /** @throws RangeError for a side not above 0, or a temperature or material that is no number */
  constructor(readonly stack: Stack) {
    const { conductivity, diffusivity, transfer } = stack.material ?? SACKED_BEANS;
    requireFinite(stack.startC, 'the temperature of the stack');
    requireFinite(stack.airC, 'the temperature of the air');
    requireAbove0(conductivity, 'the conductivity of the stack');
    requireAbove0(diffusivity, 'the diffusivity of the stack');
    requireAbove0(transfer, 'the heat transfer from the stack to the air');
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
    requireNotBelow0(days, 'the number of days');
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
    requireFinite(coreC, 'the temperature the core is to come to');
    if (airC === startC) return coreC === startC ? 0 : null;
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

/** Why an air cannot do what a hold asks of it. */
export interface HoldRefusal {
  /** The air is not cold enough for a freezing hold, not warm enough for a heat hold, or the core needs over a year. */
  code: 'air-too-warm' | 'air-too-cool' | 'too-slow';
  /** The same air with the other sign, °C, where that would do it: a minus that may have been forgotten. */
  meantC: number | null;
}

/** A hold: how long until the core is there, and how long altogether, in days; null where the core never gets there, with the reason. */
export interface HoldTime {
  daysToCore: number | null;
  daysInAll: number | null;
  refusal: HoldRefusal | null;
}

/** Aims below this are to be frozen, above it heated, °C: nothing lives or dies of room temperature. */
const COLD_BELOW = 25;

/**
 * Hold time = time for the core to reach its target + the days it must stay there. Whether the hold freezes or heats follows from
 * the target; an air that never brings the core there, or would not keep it there, is refused and not counted as there already.
 *
 * @throws RangeError for a temperature that is no number, or days below 0
 */
export function holdTime(stack: Stack, coreC: number, stayDays: number): HoldTime {
  requireFinite(coreC, 'the temperature the core is to come to');
  requireNotBelow0(stayDays, 'the number of days at the target');
  const model = new StackModel(stack);
  const cold = coreC < COLD_BELOW;
  const does = (airC: number) => (cold ? airC < coreC : airC > coreC);
  const { airC, startC } = stack;
  const refuse = (code: HoldRefusal['code']): HoldTime => ({
    daysToCore: null,
    daysInAll: null,
    refusal: { code, meantC: !does(airC) && does(-airC) ? -airC : null },
  });
  if (!does(airC)) return refuse(cold ? 'air-too-warm' : 'air-too-cool');
  const there = cold ? startC <= coreC : startC >= coreC;
  const daysToCore = there ? 0 : model.daysTo(coreC);
  if (daysToCore === null) return refuse('too-slow');
  return { daysToCore, daysInAll: daysToCore + stayDays, refusal: null };
}

/** A stack cut by air gaps into layers along its longest side: what one part needs. */
export function splitStack(stack: Stack, parts: number): Stack {
  requireWhole(parts, 'the number of parts a stack is cut into', 1);
  const longest = stack.sides.indexOf(Math.max(...stack.sides));
  return {
    ...stack,
    sides: stack.sides.map((s, i) => (i === longest ? s / parts : s)) as unknown as Stack['sides'],
  };
}

/** What a core probe's readings say of a hold; they replace the estimate. */
export interface ProbedHold {
  /** First instant (epoch ms) at which the core was at the target and stayed there since, as far as readings tell; null where it is not. */
  reachedAt: number | null;
  /** When the days at the target are over; null as above, and while the probe is silent. */
  endsAt: number | null;
  lastC: number;
  lastAt: number;
  /** The probe has said nothing for longer than a gap may be: nobody knows whether the core is still there. */
  silent: boolean;
}

/** Longest time between two readings over which the core counts as having stayed where it was, h. */
export const LONGEST_PROBE_GAP_H = 24;

/**
 * Reads a core probe's record: the clock starts when the core reaches the target and starts again whenever it leaves it, and after
 * a gap in the readings too long to know. Without `now` the last reading is taken as now. Empty readings give null.
 *
 * @throws RangeError for a temperature or time that is no number, or days below 0
 */
export function probedHold(
  readings: readonly { at: number; celsius: number }[],
  {
    coreC,
    days,
    cold,
    now,
    longestGapH = LONGEST_PROBE_GAP_H,
  }: { coreC: number; days: number; cold: boolean; now?: number; longestGapH?: number },
): ProbedHold | null {
  requireFinite(coreC, 'the temperature the core is to come to');
  requireNotBelow0(days, 'the number of days at the target');
  requireAbove0(longestGapH, 'the longest gap between readings');
  for (const r of readings) {
    requireFinite(r.at, 'the time of a reading');
    requireFinite(r.celsius, 'a reading');
  }
  const sorted = [...readings].sort((a, b) => a.at - b.at);
  const last = sorted.at(-1);
  if (!last) return null;
  const gap = longestGapH * 3_600_000;
  let reachedAt: number | null = null;
  sorted.forEach((r, i) => {
    const there = cold ? r.celsius <= coreC : r.celsius >= coreC;
    const known = i > 0 && r.at - sorted[i - 1]!.at <= gap;
    reachedAt = there ? ((known ? reachedAt : null) ?? r.at) : null;
  });
  const silent = now !== undefined && now - last.at > gap;
  const began = reachedAt as number | null;
  return {
    reachedAt: began,
    endsAt: began === null || silent ? null : began + days * DAY * 1000,
    lastC: last.celsius,
    lastAt: last.at,
    silent,
  };
}
