import fc from 'fast-check';
import {
  CURRENCIES,
  minorDigits,
  habitsOfRegion,
  usualMoney,
  DIMENSIONS,
  celsiusOf,
  degreesIn,
  formatMoney,
  kelvinIn,
  kelvinOf,
  majorUnits,
  formatInField,
  formatMass,
  formatQuantity,
  parseMoney,
  parseQuantity,
  roundMass,
  dialTemperature,
  roundTemperature,
  toGrain,
  type Dimension,
} from './index.ts';

const mass = (text: string, unit = 'g', locale: 'en' | 'de' = 'en') =>
  parseQuantity(text, { dimension: 'mass', unit, locale });

describe('parseQuantity', () => {
  test.each([
    ['2.4 kg', 2_400_000],
    ['2450', 2_450_000],
    ['2,450', 2_450_000],
    ['5lb 4oz', Math.round(453_592.37 * 5.25)],
    ['5 lb 4', Math.round(453_592.37 * 5.25)],
    ['1 kg 250 g', 1_250_000],
    ['.5kg', 500_000],
    ['1 234,5'.replace(',', '.'), 1_234_500],
    ['0', 0],
  ])('reads the mass %s', (text, mg) => expect(mass(text)).toMatchObject({ ok: true, value: mg }));

  test.each([
    ['12,5 kg', 12_500_000],
    ['1.234 g', 1_234_000],
    ['1.234,5', 1_234_500],
  ])('reads %s in German', (text, mg) =>
    expect(mass(text, 'g', 'de')).toMatchObject({ ok: true, value: mg }),
  );

  test.each([
    ['1:30', 'h', 5400],
    ['1:30', 'min', 90],
    ['0:05:20', 'min', 320],
    ['2h15', 'min', 8100],
    ['2 h 15 min', 'h', 8100],
    ['90', 'min', 5400],
    ['3 days', 'h', 259_200],
    ['1d 4h', 'h', 100_800],
  ])('reads the duration %s in a field of %s', (text, unit, seconds) =>
    expect(parseQuantity(text, { dimension: 'duration', unit })).toMatchObject({ ok: true, value: seconds }),
  );

  test.each([
    ['290F', 143.333],
    ['-18', -18],
    ['−4 °F', -20],
    ['31,5 °C', null],
  ])('reads the temperature %s', (text, celsius) => {
    const read = parseQuantity(text, { dimension: 'temperature', unit: '°C' });
    if (celsius === null)
      expect(read).toMatchObject({ ok: false, reason: 'wrong-decimal-mark', suggestion: { value: 31.5 } });
    else expect(read).toMatchObject({ ok: true, value: celsius });
  });

  test('asks about a °F number in a °C field', () => {
    const read = parseQuantity('290', { dimension: 'temperature', unit: '°C', min: 40, max: 260 });
    expect(read).toMatchObject({
      ok: false,
      reason: 'out-of-range',
      min: 40,
      max: 260,
      suggestion: { value: 143.333, unit: '°F' },
    });
  });

  test('asks about kilograms typed as grams', () => {
    const read = parseQuantity('2.4', { dimension: 'mass', unit: 'g', min: 100_000, max: 30_000_000 });
    expect(read).toMatchObject({ reason: 'out-of-range', suggestion: { value: 2_400_000, unit: 'kg' } });
  });

  test.each([
    ['', 'empty'],
    ['   ', 'empty'],
    ['abc', 'not-a-number'],
    ['1.2.3', 'not-a-number'],
    ['1e3', 'unknown-unit'],
    ['--5', 'not-a-number'],
    ['12 bananas', 'unknown-unit'],
    ['-5', 'negative'],
    ['5lb 20oz', 'part-too-large'],
    ['4oz 5lb', 'unit-order'],
    ['5.5lb 4oz', 'unit-order'],
    ['NaN', 'not-a-number'],
    ['Infinity', 'not-a-number'],
    ['12 34', 'not-a-number'],
    ['0.0001', 'below-grain'],
    ['99999999999999999', 'not-a-number'],
  ])('refuses %j: %s', (text, reason) => expect(mass(text)).toMatchObject({ ok: false, reason }));

  test('names the units it knows', () => {
    expect(mass('12 bananas')).toMatchObject({ units: ['g', 'kg', 'lb', 'oz', 'mg', 't'] });
  });

  test('never throws, whatever is typed', () => {
    fc.assert(
      fc.property(
        fc.string(),
        fc.constantFrom<Dimension>('mass', 'temperature', 'duration', 'length', 'percent', 'count'),
        (text, dimension) => {
          const unit = DIMENSIONS[dimension].units[0]!.id;
          const read = parseQuantity(text, { dimension, unit });
          expect(typeof read.ok).toBe('boolean');
          if (read.ok) expect(Number.isFinite(read.value)).toBe(true);
        },
      ),
    );
  });

  test('parse(format(x)) is x in every unit and locale', () => {
    for (const [dimension, spec] of Object.entries(DIMENSIONS) as [
      Dimension,
      (typeof DIMENSIONS)[Dimension],
    ][]) {
      const largest = dimension === 'mass' ? 1_000_000_000_000 : 1_000_000_000;
      const low = spec.signed ? -270_000 : 0;
      for (const unit of spec.units) {
        fc.assert(
          fc.property(
            fc.integer({ min: low, max: largest }),
            fc.constantFrom('en' as const, 'de' as const),
            (steps, locale) => {
              const stored = toGrain(dimension, steps * spec.grain);
              const text = formatQuantity(stored, { dimension, unit: unit.id, locale });
              expect(parseQuantity(text, { dimension, unit: unit.id, locale })).toEqual({
                ok: true,
                value: stored,
                unit: unit.id,
              });
            },
          ),
          { numRuns: 150 },
        );
      }
    }
  });
});

test.each([
  [0, '0 oz'],
  [1400, '0.049 oz'],
  [10_000, '0.35 oz'],
  [48_765, '1.72 oz'],
  [56_699, '2.0 oz'],
  [-10_000, '-0.35 oz'],
  [200_000, '7.1 oz'],
  [453_592, '1.00 lb'],
])('%i mg is read as %s: what is stirred in by the ounce has as many decimals as it needs', (mg, text) =>
  expect(formatMass(mg, 'pounds').replace('\u00a0', ' ').replace('−', '-')).toBe(text),
);

describe('what stands in a field', () => {
  test.each([
    [40_000, 'oz', '1.411'],
    [453_592_370, 'lb', '1,000'],
    [2_453_026, 'lb', '5.408'],
    [500, 'oz', '0.0176'],
    [1_234_567, 'g', '1,234.567'],
    [0, 'lb', '0'],
  ])('%i mg in %s is %s', (mg, unit, text) => {
    expect(formatInField(mg, { dimension: 'mass', unit })).toBe(text);
  });

  test('reads back within half of its last digit, never with a nought at its end', () => {
    const milligrams = { oz: 28_349.523125, lb: 453_592.37, kg: 1_000_000 };
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 5_000_000 }),
        fc.constantFrom('oz' as const, 'lb' as const, 'kg' as const),
        (mg, unit) => {
          const text = formatInField(mg, { dimension: 'mass', unit });
          const decimals = text.split('.')[1] ?? '';
          const half = (milligrams[unit] * 10 ** -decimals.length) / 2;
          expect(parseQuantity(text, { dimension: 'mass', unit })).toMatchObject({ ok: true });
          expect(Math.abs(Number(text.replaceAll(',', '')) * milligrams[unit] - mg)).toBeLessThanOrEqual(
            Math.max(half, 0.5) * 1.000001,
          );
          expect(decimals).not.toMatch(/0$/);
        },
      ),
    );
  });
});

describe('money', () => {
  test.each([
    ['£9.44', 'GBP', 'en', 944],
    ['9,44 €', 'EUR', 'de', 944],
    ['1.234,50', 'EUR', 'de', 123_450],
    ['1200', 'JPY', 'en', 1200],
  ] as const)('reads %s', (text, currency, locale, minor) =>
    expect(parseMoney(text, currency, locale)).toEqual({ ok: true, value: minor }),
  );

  test('refuses a fraction of a penny and a negative price', () => {
    expect(parseMoney('1.234', 'GBP')).toMatchObject({ ok: false, reason: 'below-grain' });
    expect(parseMoney('-1', 'GBP')).toMatchObject({ ok: false, reason: 'negative' });
  });

  test('reads back what it writes', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 1e10 }),
        fc.constantFrom('GBP', 'EUR', 'JPY', 'KWD', 'CHF'),
        fc.constantFrom('en' as const, 'de' as const),
        (minor, currency, locale) => {
          expect(parseMoney(formatMoney(minor, currency, locale), currency, locale)).toEqual({
            ok: true,
            value: minor,
          });
        },
      ),
    );
  });
});

test.each([
  [1250, 'GBP', 0, 12.5],
  [1250.4, 'EUR', 0, 12.5],
  [1250, 'JPY', 0, 1250],
  [1250, 'UGX', 0, 1250],
  [1250, 'KWD', 0, 1.25],
  [197.346, 'GBP', 2, 1.9735],
  [-30, 'GBP', 0, -0.3],
])('%p minor units of %s are whole ones as a spreadsheet wants them', (minor, currency, finer, major) =>
  expect(majorUnits(minor, currency, finer)).toBeCloseTo(major, 10),
);

test('an amount that is none is refused', () =>
  expect(() => majorUnits(NaN, 'GBP')).toThrow('an amount of money must be a number'));

test('what is below nothing has its sign before the currency’s', () => {
  expect(formatMoney(-920, 'USD')).toBe('−$9.20');
  expect(formatMoney(-920, 'EUR', 'de')).toBe('−9,20\u00a0€');
  expect(formatMoney(-0.2, 'USD')).toBe('$0.00');
});

describe('what a form begins with', () => {
  const inLb = (mg: number) => Math.round((mg / 453_592.37) * 100) / 100;
  test.each([
    [9_000_000, 20],
    [4_500_000, 10],
    [3_000_000, 6.5],
    [500_000, 1],
    [200_000, 7 / 16],
  ])('%p mg is round in pounds, or in ounces below one', (mg, pounds) =>
    expect(inLb(roundMass(mg, 'pounds'))).toBeCloseTo(pounds, 2),
  );

  test('in grams it stays; a small thing does not become nothing', () => {
    expect(roundMass(1_234_567, 'metric')).toBe(1_234_567);
    expect(roundMass(2000, 'pounds')).toBe(1984);
  });

  test('°F has the steps of the dial, °C what it was', () => {
    expect(degreesIn('°F', roundTemperature(122, '°F', 5))).toBeCloseTo(250, 2);
    expect(degreesIn('°F', roundTemperature(41.5, '°F'))).toBeCloseTo(107, 2);
    expect(roundTemperature(41.5, '°C', 5)).toBe(41.5);
    expect(degreesIn('°F', dialTemperature(123.4, '°F'))).toBeCloseTo(254, 2);
    expect(dialTemperature(123.4, '°C')).toBe(123);
    expect(dialTemperature(-2.4, '°C', 5)).toBeCloseTo(0, 9);
    expect(() => roundTemperature(NaN, '°F')).toThrow('must be a number');
    expect(() => roundMass(Infinity, 'pounds')).toThrow('must be above 0');
  });

  test('degrees there and back', () =>
    fc.assert(
      fc.property(fc.double({ min: -50, max: 250, noNaN: true }), (c) => {
        for (const unit of ['°C', '°F'] as const) {
          expect(celsiusOf(unit, degreesIn(unit, c))).toBeCloseTo(c, 9);
          // The same difference between two temperatures, wherever they lie.
          expect(kelvinIn(unit, 10)).toBeCloseTo(degreesIn(unit, c + 10) - degreesIn(unit, c), 6);
          expect(kelvinOf(unit, kelvinIn(unit, c))).toBeCloseTo(c, 9);
        }
      }),
    ));
});

test('every currency that can be chosen has the decimals of its minor unit, by the tables of the runtime', () => {
  // Hundredths by the standard, which nobody pays with any more.
  const unused = ['ALL', 'COP', 'HUF', 'IDR', 'LAK', 'MGA', 'MMK', 'PKR'];
  for (const currency of CURRENCIES.filter((c) => !unused.includes(c)))
    expect([
      currency,
      new Intl.NumberFormat('en', { style: 'currency', currency }).resolvedOptions().maximumFractionDigits,
    ]).toEqual([currency, minorDigits(currency)]);
  expect(unused.map(minorDigits)).toEqual(unused.map(() => 2));
});

test.each([
  // 1.80 of a euro: the figure itself where one is worth about as much, two digits of what it comes to elsewhere.
  ['EUR', 180],
  ['USD', 180],
  ['SEK', 2000],
  ['INR', 18_000],
  ['JPY', 310],
  ['XOF', 1200],
  ['IDR', 3_400_000],
  ['KWD', 630],
  ['XXX', 0],
])('a usual price in %s has the right number of digits', (currency, minor) =>
  expect(usualMoney(180, currency)).toBe(minor),
);

test.each([
  ['US', 'USD', '°F'],
  ['GB', 'GBP', '°C'],
  ['DE', 'EUR', '°C'],
  ['CH', 'CHF', '°C'],
  ['CI', 'XOF', '°C'],
  ['GH', 'GHS', '°C'],
  ['EC', 'USD', '°C'],
  ['PW', 'USD', '°F'],
  ['AQ', null, '°C'],
  ['', null, '°C'],
  ['U', null, '°C'],
  ['419', null, '°C'],
])('a workshop of %s begins with %s and %s', (region, currency, temperatureUnit) =>
  expect(habitsOfRegion(region)).toEqual({ currency, temperatureUnit }),
);

test('what regions share is money that is known', () => {
  for (const region of 'AT EC LI KI SN CM AG NC'.split(' '))
    expect(CURRENCIES).toContain(habitsOfRegion(region).currency);
});
