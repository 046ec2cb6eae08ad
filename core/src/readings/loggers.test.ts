import { parseTemperatureFile, type TemperatureFileOptions } from './index.ts';

/** The same two readings, 25 °C and a minute later 30 °C, as thermometers and their programs write them. */
const FILES: readonly [
  name: string,
  text: string,
  startedAt: string | null,
  options?: TemperatureFileOptions,
][] = [
  [
    'day and time in two columns',
    'Date,Time,Temp\n2026-11-13,10:00:00,25\n2026-11-13,10:01:00,30\n',
    '2026-11-13T10:00:00Z',
  ],
  [
    'the same in German',
    'Datum;Uhrzeit;Temperatur\n13.11.2026;10:00:00;25,0\n13.11.2026;10:01:00;30,0\n',
    '2026-11-13T10:00:00Z',
  ],
  [
    'counted rows, a clock of twelve hours, °F',
    'No.,Date,Time,Temp(F)\n1,11/02/2026,10:00:00 PM,77\n2,11/02/2026,10:01:00 PM,86\n',
    '2026-11-02T22:00:00Z',
  ],
  [
    'lines above the heading, °F in it',
    'Logger 12\nSerial,00123\nPlot Title: roast\n"#","Date Time, GMT+01:00","Temp, °F"\n1,11/13/26 10:00:00 AM,77\n2,11/13/26 10:01:00 AM,86\n',
    '2026-11-13T10:00:00Z',
  ],
  [
    'a year of two figures',
    'Zeit;Temp\n13.11.26 10:00:00;25\n13.11.26 10:01:00;30\n',
    '2026-11-13T10:00:00Z',
  ],
  ['the year first', 'time,temp\n2026/11/13 10:00:00,25\n2026/11/13 10:01:00,30\n', '2026-11-13T10:00:00Z'],
  ['dashes', 'time,temp\n13-11-2026 10:00,25\n13-11-2026 10:01,30\n', '2026-11-13T10:00:00Z'],
  ['a month’s name', 'time,temp\n13 Nov 2026 10:00:00,25\n13-Nov-26 10:01:00,30\n', '2026-11-13T10:00:00Z'],
  ['units in a row of their own', 'Time,Temp\ns,°F\n0,77\n60,86\n', null],
  ['units named above the table', 'Unit: °F\nTime,Value\n0,77\n60,86\n', null],
  ['milliseconds', 'time_ms,temp\n0,25\n60000,30\n', null],
  ['hours', 'Hours,°C\n0,25\n0.0166667,30\n', null],
  [
    'minutes below a line of the maker’s',
    'Messgerät ABC\nIntervall 60 s\n\nZeit [min];Temperatur [°F]\n0;77\n1;86\n',
    null,
  ],
  [
    'what was set beside what was',
    'Time (s),Set temp,Humidity,Air temp,Bean temp\n0,200,40,150,25\n60,200,41,160,30\n',
    null,
  ],
  ['°F beside °C', 's,Temp °F,Temp °C\n0,77,25\n60,86,30\n', null],
  [
    'hours of the day only, of a step that began at ten',
    'Time,Temp\n10:00:00,25\n10:01:00,30\n',
    '2026-11-13T09:00:00Z',
    { near: '2026-11-13T09:05:00Z', timeZone: 'Europe/Berlin' },
  ],
  [
    'hours and minutes over midnight',
    'Time,Temp\n23:59,25\n00:00,30\n',
    '2026-11-13T22:59:00Z',
    { near: '2026-11-13T23:10:00Z', timeZone: 'Europe/Berlin' },
  ],
  [
    'minutes and seconds since it began',
    'Time,Temp\n00:00,25\n01:00,30\n',
    null,
    { near: '2026-11-13T09:05:00Z' },
  ],
  [
    'a clock on the wall in summer',
    't;°C\n02.07.2026 10:00:00;25\n02.07.2026 10:01:00;30\n',
    '2026-07-02T08:00:00Z',
    { timeZone: 'Europe/Berlin' },
  ],
  [
    'instants with their zone, whatever the wall says',
    't,°C\n2026-11-13T10:00:00+02:00,25\n2026-11-13T10:01:00+02:00,30\n',
    '2026-11-13T08:00:00Z',
    { timeZone: 'America/New_York' },
  ],
];

test.each(FILES)('%s', (_, text, startedAt, options = {}) => {
  const file = parseTemperatureFile(text, options);
  expect(file.refused).toEqual([]);
  expect(file.readings.map((r) => Math.round(r.celsius))).toEqual([25, 30]);
  const [first, second] = file.readings;
  expect(second!.seconds - first!.seconds).toBeCloseTo(60, 2);
  expect(first!.seconds).toBe(0);
  expect(file.startedAt && Date.parse(file.startedAt)).toBe(startedAt && Date.parse(startedAt));
});

test('a log over the night in which clocks go back is as long as it was', () => {
  const { readings } = parseTemperatureFile('t;°C\n24.10.2026 23:00:00;25\n25.10.2026 04:00:00;26\n', {
    timeZone: 'Europe/Berlin',
  });
  expect(readings.at(-1)!.seconds).toBe(6 * 3600);
});

test('what thermometers write for no reading is named by its row, and nothing is made of it', () => {
  const { readings, refused } = parseTemperatureFile(
    's,°C\n0,20\n1,---\n2,NaN\n3,ERR\n4,21\n5,-999\n6,1372\n',
  );
  expect(readings.map((r) => r.celsius)).toEqual([20, 21]);
  expect(refused.map((r) => r.row)).toEqual([3, 4, 5, 7, 8]);
});

test('hours of the day with nothing near stay what they are', () => {
  const file = parseTemperatureFile('Time,Temp\n10:00:00,25\n10:01:00,30\n');
  expect(file).toMatchObject({ startedAt: null, isOfDay: true });
  expect(file.readings.map((r) => r.seconds)).toEqual([36_000, 36_060]);
});
