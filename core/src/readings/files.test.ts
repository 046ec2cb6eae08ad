import fc from 'fast-check';
import { parseTemperatureFile } from './index.ts';

/** How a logger may write its file. */
interface Style {
  delimiter: ',' | ';' | '\t';
  comma: boolean;
  unit: 'C' | 'F';
  time: 'seconds' | 'mm:ss' | 'iso';
  mark: boolean;
  ends: '\n' | '\r\n';
  heading: boolean;
}

const style: fc.Arbitrary<Style> = fc
  .record({
    delimiter: fc.constantFrom(',' as const, ';' as const, '\t' as const),
    comma: fc.boolean(),
    unit: fc.constantFrom('C' as const, 'F' as const),
    time: fc.constantFrom('seconds' as const, 'mm:ss' as const, 'iso' as const),
    mark: fc.boolean(),
    ends: fc.constantFrom('\n' as const, '\r\n' as const),
    heading: fc.constant(true),
  })
  // A comma cannot both part columns and mark decimals.
  .filter((s) => !(s.comma && s.delimiter === ','));

const series = fc
  .array(
    fc.record({ pause: fc.integer({ min: 1, max: 40 }), celsius: fc.integer({ min: 180, max: 2200 }) }),
    { minLength: 2, maxLength: 60 },
  )
  .map((steps) => {
    let at = 0;
    return steps.map(({ pause, celsius }, i) => {
      if (i > 0) at += pause;
      return { seconds: at, celsius: celsius / 10 };
    });
  });

const BEGAN = Date.parse('2026-11-20T09:00:00Z');

function write(readings: readonly { seconds: number; celsius: number }[], s: Style): string {
  const number = (value: number) => {
    const text = value.toFixed(3);
    return s.comma ? text.replace('.', ',') : text;
  };
  const time = (seconds: number) =>
    s.time === 'seconds'
      ? String(seconds)
      : s.time === 'mm:ss'
        ? `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, '0')}`
        : new Date(BEGAN + seconds * 1000).toISOString();
  const rows = readings.map((r) =>
    [time(r.seconds), number(s.unit === 'F' ? r.celsius * 1.8 + 32 : r.celsius)].join(s.delimiter),
  );
  const heading = [s.time === 'seconds' ? 'seconds' : 'time', `bean °${s.unit}`].join(s.delimiter);
  return (s.mark ? '\uFEFF' : '') + [heading, ...rows].join(s.ends) + s.ends;
}

test('however a logger writes it, the same roast is read', () => {
  fc.assert(
    fc.property(series, style, (readings, s) => {
      const read = parseTemperatureFile(write(readings, s));
      expect(read.refused).toEqual([]);
      expect(read.unit).toBe(`°${s.unit}`);
      expect(read.readings).toHaveLength(readings.length);
      read.readings.forEach((r, i) => {
        expect(r.seconds).toBeCloseTo(readings[i]!.seconds, 3);
        expect(r.celsius).toBeCloseTo(readings[i]!.celsius, 2);
      });
    }),
    { numRuns: 150 },
  );
});

test('rows in any order come out in order; the same moment twice is told of', () => {
  fc.assert(
    fc.property(series, fc.integer(), (readings, seed) => {
      const plain: Style = {
        delimiter: ',',
        comma: false,
        unit: 'C',
        time: 'seconds',
        mark: false,
        ends: '\n',
        heading: true,
      };
      const [head, ...rows] = write(readings, plain).trim().split('\n');
      const shuffled = rows
        .map((row, i) => ({ row, key: Math.sin(seed + i * 12.9898) }))
        .sort((a, b) => a.key - b.key)
        .map(({ row }) => row);
      const read = parseTemperatureFile([head, ...shuffled].join('\n'));
      const seconds = read.readings.map((r) => r.seconds);
      expect(seconds).toEqual([...seconds].sort((a, b) => a - b));
      expect(read.readings).toHaveLength(readings.length);
    }),
    { numRuns: 60 },
  );
});

test('no text whatever makes it fall over, and every row is read, refused by number, or told to be a duplicate', () => {
  fc.assert(
    fc.property(fc.string({ maxLength: 400, unit: 'binary' }), (text) => {
      const read = parseTemperatureFile(text);
      for (const r of read.readings) {
        expect(Number.isFinite(r.seconds)).toBe(true);
        expect(Number.isFinite(r.celsius)).toBe(true);
      }
      for (const { row } of read.refused) expect(row).toBeGreaterThan(0);
    }),
    { numRuns: 300 },
  );
});
