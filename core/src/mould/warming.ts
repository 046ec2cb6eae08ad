import { requireAbove0, requireFinite } from '../numerics/index.ts';

/** Density of chocolate, kg/m³, and its heat below the melt, J/(kg·K): usual values of food engineering. */
const DENSITY = 1270;
const HEAT = 1600;

/** Heat that still air and radiation bring to a bar, W/(m²·K). */
export const STILL_AIR = 8;

/** Thickness of a bar from its mass, mm: bars of the same proportions, 9 mm at 60 g. */
export function barThickness(massMg: number): number {
  requireAbove0(massMg, 'the mass of a bar');
  return 9 * Math.cbrt(massMg / 60_000);
}

/** A bar that warms in a room. */
export interface WarmingProblem {
  massMg: number;
  /** °C of the bar, of the room, and the one it must reach. */
  fromC: number;
  roomC: number;
  untilC: number;
  /** Bars lying on one another warm together: how many thick. */
  stack?: number;
}

/**
 * Minutes until a bar out of the cold is at a temperature, warmed from both faces by still air, even within (Biot number below 0.1 for a
 * single bar): t = τ·ln((room − from)/(room − until)), τ = ρ·c·L/2h. 0 where it is there already; null where the room never brings it there.
 *
 * @throws RangeError for a mass not above 0 or temperatures that are no numbers
 */
export function minutesToWarm({ massMg, fromC, roomC, untilC, stack = 1 }: WarmingProblem): number | null {
  requireFinite(fromC, 'the temperature of the bar');
  requireFinite(roomC, 'the temperature of the room');
  requireFinite(untilC, 'the temperature to reach');
  requireAbove0(stack, 'the number of bars on one another');
  const thickness = (barThickness(massMg) * stack) / 1000;
  if (fromC >= untilC) return 0;
  if (roomC <= untilC) return null;
  const seconds = (DENSITY * HEAT * thickness) / (2 * STILL_AIR);
  return (seconds / 60) * Math.log((roomC - fromC) / (roomC - untilC));
}
