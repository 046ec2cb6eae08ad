import { requireAbove0, requireFinite } from '../numerics/index.ts';
import { poundUnitOf } from './format.ts';
import { toGrain, unitOf, type Dimension } from './units.ts';

function rounded(dimension: Dimension, id: string, stored: number, step: number): number {
  const { scale, offset } = unitOf(dimension, id);
  return toGrain(dimension, Math.round((stored - offset) / scale / step) * step * scale + offset);
}

/**
 * A mass a form begins with: grams as they are; where the workshop weighs in pounds the nearest half pound, or half ounce below a pound, but
 * never nothing.
 *
 * @param mg mass, mg, above 0
 * @throws RangeError for what is no mass
 * @example roundMass(9_000_000, 'pounds') // 9_071_847, which is 20 lb
 */
export function roundMass(mg: number, system: 'metric' | 'pounds'): number {
  requireAbove0(mg, 'a mass');
  if (system === 'metric') return rounded('mass', 'mg', mg, 1);
  const unit = poundUnitOf(mg);
  return rounded('mass', unit, mg, 0.5) || rounded('mass', unit, mg, 0.01) || mg;
}

/**
 * A temperature a form begins with: °C as it is; in °F the nearest that a dial has.
 *
 * @param celsius °C
 * @param step steps of the dial, °F
 * @throws RangeError for what is no number
 * @example roundTemperature(122, '°F', 5) // 121.111, which is 250 °F
 */
export function roundTemperature(celsius: number, unit: '°C' | '°F', step = 1): number {
  if (unit === '°F') return dialTemperature(celsius, unit, step);
  requireAbove0(step, 'the steps of a dial');
  return dialTemperature(celsius, unit, 0.001);
}

/**
 * The nearest temperature that a dial in a unit can be set to, °C.
 *
 * @param celsius °C
 * @param step steps of the dial, degrees of the unit
 * @throws RangeError for what is no number, and steps not above 0
 * @example dialTemperature(121, '°F') // 121.111, which is 250 °F
 */
export function dialTemperature(celsius: number, unit: '°C' | '°F', step = 1): number {
  requireFinite(celsius, 'a temperature');
  requireAbove0(step, 'the steps of a dial');
  return rounded('temperature', unit, celsius, step);
}
