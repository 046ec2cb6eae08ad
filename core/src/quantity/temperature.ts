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
