import { requireFinite, requireNumbers } from '../numerics/index.ts';
const { exp } = Math;

/** A bean temperature over time: seconds since beans-in, °C; in order of time. */
export interface BeanReading {
  seconds: number;
  celsius: number;
  /** Typed by a hand: its time is that of the typing. */
  byHand?: boolean;
}

const GAS_CONSTANT = 8.314462618;

/** Reference temperature of the rates, 120 °C in K. */
const REFERENCE_K = 393.15;

/** Activation energies, J/mol, and the acid rate at 120 °C, 1/s: workshop defaults, not promises about a bean. */
export const DOSE_ENERGY = 110_000;
/** Activation energy of the acid's leaving, J/mol. */
export const ACID_ENERGY = 60_000;
/** Rate at which sharp acid leaves at 120 °C, 1/s. */
export const ACID_RATE = 1e-3;

/** Rate relative to 120 °C (Arrhenius). */
export function relativeRate(celsius: number, energy: number): number {
  requireFinite(celsius, 'the temperature');
  return exp((-energy / GAS_CONSTANT) * (1 / (celsius + 273.15) - 1 / REFERENCE_K));
}

/**
 * Roast dose: ∫ exp(−E/R (1/T − 1/393.15 K)) dt, in minutes that would count the same at a steady 120 °C.
 * Trapezium rule on the readings; 10 min at a steady 120 °C give 10. Fewer than two readings give 0.
 */
export function roastDose(readings: readonly BeanReading[], energy: number = DOSE_ENERGY): number {
  return integrate(readings, (c) => relativeRate(c, energy)) / 60;
}

/** Share of the sharp acid left (0–1) after a roast, first order with the rate at 120 °C. */
export function acidLeft(readings: readonly BeanReading[]): number {
  return exp(-integrate(readings, (c) => ACID_RATE * relativeRate(c, ACID_ENERGY)));
}

function integrate(readings: readonly BeanReading[], rate: (celsius: number) => number): number {
  requireNumbers(readings, 'a reading');
  let sum = 0;
  for (let i = 1; i < readings.length; i += 1) {
    const [a, b] = [readings[i - 1]!, readings[i]!];
    sum += ((rate(a.celsius) + rate(b.celsius)) / 2) * (b.seconds - a.seconds);
  }
  return sum;
}
