/**
 * Dew point in °C from air temperature (°C, −40 to 60) and relative humidity (%, above 0 to 100), by the
 * Magnus formula with a = 17.625, b = 243.04 °C (Alduchov and Eskridge, 1996).
 *
 * @throws RangeError outside these ranges
 * @example dewPoint(21, 55) // 11.6
 */
export function dewPoint(celsius: number, humidity: number): number {
  if (!(celsius >= -40 && celsius <= 60)) throw new RangeError(`air at ${celsius} °C is outside −40–60 °C`);
  if (!(humidity > 0 && humidity <= 100))
    throw new RangeError(`a relative humidity of ${humidity} % is outside 0–100 %`);
  const [a, b] = [17.625, 243.04];
  const gamma = Math.log(humidity / 100) + (a * celsius) / (b + celsius);
  return (b * gamma) / (a - gamma);
}
