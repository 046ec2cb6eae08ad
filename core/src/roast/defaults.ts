/** A default with its unit and where it comes from. All are to be changed to the bean and the oven. */
export interface Default {
  value: number;
  unit: string;
  source: string;
}

const of = (value: number, unit: string, source: string): Default => ({ value, unit, source });

/** What is taken for a bean until something better is known. Usual figures of the trade; guesses are named as such. */
export const BEAN_DEFAULTS = {
  conductivity: of(0.2, 'W/m·K', 'usual for whole beans'),
  density: of(1050, 'kg/m³', 'usual for whole beans'),
  heatCapacityDry: of(1900, 'J/kg·K', 'usual for dry cacao'),
  heatCapacityWater: of(4180, 'J/kg·K', 'liquid water'),
  heatOfDrying: of(2.3e6, 'J/kg', 'water, at roasting temperatures'),
  dryingRate: of(1.4e-3, '1/s at 120 °C', 'usual; differs between beans'),
  dryingEnergy: of(45_000, 'J/mol', 'usual'),
  equilibriumMoisture: of(0.005, 'kg water/kg dry', 'a guess for hot dry air'),
  moisture: of(7, '% wet basis', 'middle of the wanted 6.5–8 %'),
  beansPer100g: of(100, 'beans', 'usual'),
} as const satisfies Record<string, Default>;

/** How much faster or slower beans dry than is usual: standard deviation of the logarithm; a guess. */
export const DRYING_LOG_SD = 0.2;

/** Surface heat transfer by kind of oven, W/m²·K. */
export const SURFACE_TRANSFER = { still: 15, fan: 30, drum: 45 } as const;

/** What is taken for an oven until its own roasts have taught better; all guesses for a small fan oven. */
export const OVEN_DEFAULTS = {
  powerPerKg: of(900, 'W per kg of usable charge', 'guess from small fan ovens'),
  heatCapacity: of(9000, 'J/K', 'guess: air, trays and inner walls'),
  wallLoss: of(9, 'W/K', 'guess: about 0.9 kW to hold 120 °C'),
  lag: of(45, 's', 'guess: time constant of the thermostat’s sensor'),
  band: of(8, 'K', 'guess: full power this far below the setting'),
  doorLoss: of(50, 'W/K', 'guess: open door'),
} as const satisfies Record<string, Default>;

/**
 * How the lethality of the coldest part is counted. The figures must come from a competent person who has validated
 * the roast; these defaults only give the gauge a scale.
 */
export const KILL_STEP_DEFAULTS = {
  dMinutes: of(1.5, 'min at the reference', 'placeholder; to be set by a competent person'),
  zKelvin: of(25, 'K', 'placeholder; to be set by a competent person'),
  referenceC: of(120, '°C', 'as the roast dose'),
} as const satisfies Record<string, Default>;

/** Concentric shells of the bean in the model; ten is the least, more change the answer by less than 0.1 K. */
export const SHELLS = 12;

/** Time step of the model, s. */
export const TIME_STEP = 2;
