/** The dimensions a maker types. Each is stored in one unit (see {@link DIMENSIONS}). */
export type Dimension =
  | 'mass'
  | 'temperature'
  | 'duration'
  | 'length'
  | 'percent'
  | 'count'
  | 'number'
  | 'humidity';

/** One way of writing a dimension: how to recognise it and how to turn it into the stored unit. */
export interface Unit {
  /** The name used in settings and options, e.g. `kg`, `°F`, `min`. */
  readonly id: string;
  /** What is printed after the number, with no leading space. */
  readonly symbol: string;
  /** Further spellings accepted when reading, in lower case. */
  readonly spellings: readonly string[];
  /** Stored value = number × scale + offset. */
  readonly scale: number;
  readonly offset: number;
}

/** A dimension with its stored unit, the grain it is stored in, and every unit it may be written in. */
export interface DimensionSpec {
  /** Unit of the stored number, as an id of `units` (mass: mg; temperature: °C; duration: s; length: µm). */
  readonly stored: string;
  /** Stored values are whole multiples of this grain (mass 1 mg, temperature 0.001 °C, …). */
  readonly grain: number;
  readonly signed: boolean;
  /** Units which may follow each other in one entry, largest first (`5 lb 4 oz`, `2 h 15 min`). */
  readonly compound: readonly (readonly string[])[];
  readonly units: readonly Unit[];
}

const unit = (id: string, scale: number, spellings: string[], offset = 0, symbol = id): Unit => ({
  id,
  symbol,
  scale,
  offset,
  spellings: [id.toLowerCase(), ...spellings],
});

/** Milligrams in one avoirdupois pound: 0.453 592 37 kg exactly (international yard and pound agreement, 1959). */
export const MG_PER_POUND = 453_592.37;

/** Milligrams in an avoirdupois ounce. */
export const MG_PER_OUNCE = MG_PER_POUND / 16;

/** Every dimension's stored unit, grain and units. Sources: SI; the 1959 pound; °F = °C × 9/5 + 32. */
export const DIMENSIONS: Readonly<Record<Dimension, DimensionSpec>> = {
  mass: {
    stored: 'mg',
    grain: 1,
    signed: false,
    compound: [
      ['lb', 'oz'],
      ['kg', 'g'],
    ],
    units: [
      unit('g', 1000, ['gram', 'grams', 'gramm', 'gr']),
      unit('kg', 1_000_000, ['kilo', 'kilos', 'kilogram', 'kilograms', 'kilogramm', 'kgs']),
      unit('lb', MG_PER_POUND, ['lbs', 'pound', 'pounds', '#']),
      unit('oz', MG_PER_OUNCE, ['ounce', 'ounces', 'unze', 'unzen']),
      unit('mg', 1, ['milligram', 'milligrams', 'milligramm']),
      unit('t', 1_000_000_000, ['tonne', 'tonnes', 'tonnen']),
    ],
  },
  temperature: {
    stored: '°C',
    grain: 0.001,
    signed: true,
    compound: [],
    units: [
      unit('°C', 1, ['c', 'degc', 'celsius', '℃', 'grad c', 'deg c']),
      unit('°F', 5 / 9, ['f', 'degf', 'fahrenheit', '℉', 'grad f', 'deg f'], -160 / 9),
    ],
  },
  duration: {
    stored: 's',
    grain: 0.001,
    signed: false,
    compound: [['d', 'h', 'min', 's']],
    units: [
      unit('min', 60, ['m', 'mins', 'minute', 'minutes', 'minuten', "'", '′']),
      unit('h', 3600, ['hr', 'hrs', 'hour', 'hours', 'std', 'stunde', 'stunden']),
      unit('d', 86_400, ['day', 'days', 'tag', 'tage', 'tagen']),
      unit('s', 1, ['sec', 'secs', 'second', 'seconds', 'sek', 'sekunde', 'sekunden', '"', '″']),
    ],
  },
  length: {
    stored: 'µm',
    grain: 0.001,
    signed: false,
    compound: [],
    units: [
      unit('µm', 1, ['um', 'μm', 'micron', 'microns', 'mikrometer', 'mikron']),
      unit('mm', 1000, ['millimetre', 'millimeter']),
      unit('cm', 10_000, ['centimetre', 'centimeter', 'zentimeter']),
      unit('m', 1_000_000, ['metre', 'meter', 'metres', 'meters']),
      unit('mil', 25.4, ['thou', 'mils']),
    ],
  },
  percent: {
    stored: '%',
    grain: 0.0001,
    signed: false,
    compound: [],
    units: [unit('%', 1, ['percent', 'pct', 'prozent'])],
  },
  humidity: {
    stored: '%',
    grain: 0.01,
    signed: false,
    compound: [],
    units: [unit('%', 1, ['percent', 'pct', 'prozent', 'rh', '%rh', '% rh'])],
  },
  number: { stored: '', grain: 0.001, signed: false, compound: [], units: [unit('', 1, [])] },
  count: { stored: '', grain: 1, signed: false, compound: [], units: [unit('', 1, [])] },
};

/** The unit with this id in a dimension. Throws RangeError for an id the dimension does not have. */
export function unitOf(dimension: Dimension, id: string): Unit {
  const found = DIMENSIONS[dimension].units.find((u) => u.id === id);
  if (!found) {
    const known = DIMENSIONS[dimension].units.map((u) => u.id).join(', ');
    throw new RangeError(`${dimension} has no unit "${id}"; it has ${known}`);
  }
  return found;
}

/** Rounds a stored value to its dimension's grain, half away from zero. */
export function toGrain(dimension: Dimension, stored: number): number {
  const { grain } = DIMENSIONS[dimension];
  const steps = stored / grain;
  const rounded = Math.sign(steps) * Math.round(Math.abs(steps) * (1 + Number.EPSILON));
  if (grain >= 1) return rounded * grain + 0;
  const perUnit = Math.round(1 / grain);
  return rounded / perUnit + 0;
}
