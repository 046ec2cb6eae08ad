import { parseTemperatureFile, thin } from './index.ts';

describe('temperature files', () => {
  test('plain seconds and °C', () => {
    const f = parseTemperatureFile('time,temp\n0,22\n60,40.5\n120,61\n');
    expect(f.readings).toEqual([
      { seconds: 0, celsius: 22 },
      { seconds: 60, celsius: 40.5 },
      { seconds: 120, celsius: 61 },
    ]);
    expect(f).toMatchObject({ unit: '°C', refused: [], duplicates: 0, outOfOrder: 0 });
  });
  test('byte-order mark, semicolons, decimal comma, mm:ss and German heads', () => {
    const f = parseTemperatureFile('\uFEFFZeit;Bohne °C\r\n0:00;22,5\r\n1:30;80,25\r\n');
    expect(f.readings).toEqual([
      { seconds: 0, celsius: 22.5 },
      { seconds: 90, celsius: 80.25 },
    ]);
  });
  test('°F from the heading, minutes from the heading', () => {
    const f = parseTemperatureFile('Minutes\tBean (F)\n0\t72\n0.5\t212\n');
    expect(f.unit).toBe('°F');
    expect(f.readings[1]).toEqual({ seconds: 30, celsius: 100 });
  });
  test('ISO instants count from the first', () => {
    const f = parseTemperatureFile('2026-10-02T08:00:00Z,22\n2026-10-02T08:00:05Z,23\n');
    expect(f.startedAt).toBe('2026-10-02T08:00:00.000Z');
    expect(f.readings[1]).toEqual({ seconds: 5, celsius: 23 });
  });
  test('nonsense rows are named, duplicates and disorder counted', () => {
    const f = parseTemperatureFile(
      'Probe 3, logged on the bench\ns,°C\n0,20\n10,banana\n30,25\n20,24\n30,26\nxx,30\n40\n50,9000\n',
    );
    expect(f.readings).toEqual([
      { seconds: 0, celsius: 20 },
      { seconds: 20, celsius: 24 },
      { seconds: 30, celsius: 26 },
    ]);
    expect(f.refused.map(({ row, reason }) => [row, reason])).toEqual([
      [4, 'value'],
      [8, 'time'],
      [9, 'columns'],
      [10, 'value'],
    ]);
    expect(f).toMatchObject({ duplicates: 1, outOfOrder: 1 });
  });
  test('columns are named, can be chosen, and blank cells of other columns are passed over', () => {
    const text = 'time,oven,bean\n0,120,22\n30,121,\n60,,40\n900,118,101\n';
    const bean = parseTemperatureFile(text, { timeColumn: 0, valueColumn: 2 });
    expect(bean.columns).toEqual(['time', 'oven', 'bean']);
    expect(bean.readings.map((r) => r.celsius)).toEqual([22, 40, 101]);
    expect(bean).toMatchObject({ refused: [], gaps: 1, timeUnit: 's' });
    const oven = parseTemperatureFile(text, { timeColumn: 0, valueColumn: 1 });
    expect(oven.readings.map((r) => r.celsius)).toEqual([120, 121, 118]);
  });
  test('200,000 rows are read', () => {
    const rows = Array.from(
      { length: 200_000 },
      (_, i) => `${i};${(20 + (i % 1000) / 10).toFixed(1).replace('.', ',')}`,
    );
    const f = parseTemperatureFile(`s;°C\n${rows.join('\n')}`);
    expect(f.readings).toHaveLength(200_000);
    expect(f.readings[12_345]).toEqual({ seconds: 12_345, celsius: 20 + 34.5 });
  });
  test('an empty file has no readings and no complaints', () =>
    expect(parseTemperatureFile('')).toMatchObject({ readings: [], refused: [] }));
});

test('thinning keeps ends and peaks', () => {
  const points = Array.from({ length: 5000 }, (_, x) => ({ x, y: x === 2500 ? 100 : Math.sin(x / 300) }));
  const thinned = thin(points, 200);
  expect(thinned).toHaveLength(200);
  expect(thinned[0]).toEqual(points[0]);
  expect(thinned.at(-1)).toEqual(points.at(-1));
  expect(thinned.some((p) => p.y === 100)).toBe(true);
});
