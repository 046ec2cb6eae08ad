/** Degrees of a temperature in a unit, for the numbers of a chart. @param celsius °C */
export const degreesIn = (unit: '°C' | '°F', celsius: number): number =>
  unit === '°F' ? celsius * 1.8 + 32 : celsius;

/** The temperature, °C, that so many degrees of a unit are. */
export const celsiusOf = (unit: '°C' | '°F', degrees: number): number =>
  unit === '°F' ? (degrees - 32) / 1.8 : degrees;
