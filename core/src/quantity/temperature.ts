import { requireFinite } from '../numerics/index.ts';

/**
 * Degrees of a temperature in a unit, for the numbers of a chart.
 *
 * @param celsius °C
 * @throws RangeError for what is no number
 */
export function degreesIn(unit: '°C' | '°F', celsius: number): number {
  requireFinite(celsius, 'a temperature');
  return unit === '°F' ? celsius * 1.8 + 32 : celsius;
}

/**
 * The temperature, °C, that so many degrees of a unit are.
 *
 * @throws RangeError for what is no number
 */
export function celsiusOf(unit: '°C' | '°F', degrees: number): number {
  requireFinite(degrees, 'a temperature');
  return unit === '°F' ? (degrees - 32) / 1.8 : degrees;
}

/** Degrees of a unit in a kelvin. */
const PER_KELVIN = { '°C': 1, '°F': 1.8 } as const;

/**
 * How many degrees of a unit so many kelvin of difference are: a pace, a drift, a z.
 *
 * @throws RangeError for what is no number
 */
export function kelvinIn(unit: '°C' | '°F', kelvin: number): number {
  requireFinite(kelvin, 'a difference of temperature');
  return kelvin * PER_KELVIN[unit];
}

/**
 * The difference, K, that so many degrees of a unit are.
 *
 * @throws RangeError for what is no number
 */
export function kelvinOf(unit: '°C' | '°F', degrees: number): number {
  requireFinite(degrees, 'a difference of temperature');
  return degrees / PER_KELVIN[unit];
}
