import { readSheet } from 'read-excel-file/universal';
import { parseTemperatureFile } from '@wunsch/core/readings';
import { openReadings, openTable, TableError } from '../shell/openTable.ts';
import { csvOf, MOST_ROWS, tableOf, xlsxOf } from './tableFiles.ts';

const TABLE = {
  name: 'stock',
  heading: ['material', 'mass (g)', 'note'],
  rows: [
    ['bars', 62.5, '=1+1'],
    ['nibs', 0.001, ''],
    ['Öl, "gut"', 1e6, '@home'],
  ] as (string | number)[][],
};

const file = (name: string, ...parts: BlobPart[]) => new File(parts, name);

test('a spreadsheet’s own file is read by another reader: numbers are numbers, and a formula is text', async () => {
  const rows = await readSheet(await (await xlsxOf(TABLE)).arrayBuffer());
  expect(rows).toEqual([
    TABLE.heading,
    ['bars', 62.5, '=1+1'],
    ['nibs', 0.001, null],
    ['Öl, "gut"', 1e6, '@home'],
  ]);
  await expect(xlsxOf({ ...TABLE, rows: [[Number.NaN]] })).rejects.toThrow(/must hold a number/);
});

test('what was taken away as CSV comes back as it was, formulas defused', async () => {
  const [sheet] = await openTable(file('stock.csv', '\uFEFF', csvOf(TABLE)));
  expect(sheet!.rows).toEqual([
    TABLE.heading,
    ['bars', '62.5', "'=1+1"],
    ['nibs', '0.001', ''],
    ['Öl, "gut"', '1000000', "'@home"],
  ]);
});

test.each<[string, BlobPart]>([
  ['UTF-8', 'Größe;Stück\n1;2'],
  [
    'UTF-16',
    new Uint8Array([
      0xff,
      0xfe,
      ...new Uint8Array(Uint16Array.from('Größe;Stück\n1;2', (c) => c.charCodeAt(0)).buffer),
    ]),
  ],
  ['Windows’ western letters', Uint8Array.from('Größe;Stück\n1;2', (c) => c.charCodeAt(0))],
  ['a line that names the mark', 'sep=;\nGröße;Stück\n1;2'],
])('%s is read as it was meant', async (_, content) => {
  const [sheet] = await openTable(file('x.csv', content));
  expect(sheet!.rows).toEqual([
    ['Größe', 'Stück'],
    ['1', '2'],
  ]);
});

test.each<[string, string, number]>([
  [
    'decimal commas and a line break at the end',
    'Kürzel;Menge;Preis\nSAM;50;7,40\nPER;30,5;9,10\nLUM;60;8,00\n',
    3,
  ],
  ['decimal commas in most cells', 'Los;a;b;c\nSAM;1,5;2,5;3,5\nPER;1,5;2,5;3,5\n\n', 4],
  ['a title over it', 'Bohnen 2026\n\nLos;Menge\nSAM;1,5\nPER;2,5\n', 2],
  ['semicolons within text', 'lot,note\nSAM,"sour; floral"\nPER,"nutty; mild; dark"\n', 2],
  ['one column', 'lot\nSAM\nPER\n', 1],
  ['tabs', 'lot\tkg\nSAM\t1,5\nPER\t2,25\n', 2],
])('%s: the mark between cells is found', async (_, content, columns) => {
  const [sheet] = await openTable(file('x.csv', content));
  const last = sheet!.rows.findLast((row) => row.some((c) => c !== ''));
  expect(last).toHaveLength(columns);
});

test('an XLSX with several sheets opens with those that hold something', async () => {
  const { default: write } = await import('write-excel-file/universal');
  const made = await write([
    { data: [[{ value: 'a', type: String }]], sheet: 'first' },
    { data: [[]], sheet: 'nothing' },
    {
      data: [[{ value: new Date(Date.UTC(2024, 1, 29)), type: Date, format: 'dd.mm.yyyy' }]],
      sheet: 'third',
    },
  ]).toBlob();
  const sheets = await openTable(file('x.xlsx', await made.arrayBuffer()));
  expect(sheets.map((s) => s.name)).toEqual(['first', 'third']);
  expect(sheets[1]!.rows[0]![0]).toEqual(new Date(Date.UTC(2024, 1, 29)));
});

test.each<[string, BlobPart[], TableError['why']]>([
  ['a picture', [new Uint8Array([0x89, 0x50, 0, 0])], 'not-a-table'],
  ['a zip that is no spreadsheet', ['PK\u0003\u0004 something'], 'not-a-table'],
  ['an empty file', [''], 'empty'],
  ['blank lines', ['\n\n  \n'], 'empty'],
  ['far too many rows', ['a;b\n'.repeat(20_001)], 'too-large'],
])('%s is refused in words', async (_, parts, why) => {
  await expect(openTable(file('x', ...parts))).rejects.toMatchObject({ why });
});

test('a whole table comes out of its CSV with its numbers as numbers, codes as text, and no apostrophe before what is no formula there', () => {
  const csv = 'code,mass (g),note\r\nTL-01,1234.5,"\'=1+1, said"\r\n007,-3,\r\n';
  expect(tableOf('lots', csv)).toEqual({
    name: 'lots',
    heading: ['code', 'mass (g)', 'note'],
    rows: [
      ['TL-01', 1234.5, '=1+1, said'],
      ['007', -3, ''],
    ],
  });
  const long = `n\r\n${'1\r\n'.repeat(MOST_ROWS)}`;
  expect(() => tableOf('movements', long)).toThrow(/take the CSV/);
});

test('readings are opened from whatever a thermometer’s program wrote', async () => {
  const { default: write } = await import('write-excel-file/universal');
  const row = (time: Date, celsius: number, format: string) => [
    { value: time, type: Date, format },
    { value: celsius, type: Number },
  ];
  const heading = [
    { value: 'Zeit', type: String },
    { value: 'Temp °C', type: String },
  ];
  const moments = await write(
    [
      [
        heading,
        row(new Date(Date.UTC(2026, 10, 13, 10)), 25, 'dd.mm.yyyy hh:mm:ss'),
        row(new Date(Date.UTC(2026, 10, 13, 10, 1)), 30.5, 'dd.mm.yyyy hh:mm:ss'),
      ],
    ].map((data) => ({ data, sheet: 'log' })),
  ).toBlob();
  const text = await openReadings(file('log.xlsx', await moments.arrayBuffer()));
  expect(parseTemperatureFile(text)).toMatchObject({
    startedAt: '2026-11-13T10:00:00.000Z',
    unit: '°C',
    refused: [],
    readings: [
      { seconds: 0, celsius: 25 },
      { seconds: 60, celsius: 30.5 },
    ],
  });
  const western = Uint8Array.from('Zeit (min);Temp °F\n0;77\n1;86\n', (c) => c.charCodeAt(0));
  expect(parseTemperatureFile(await openReadings(file('log.csv', western)))).toMatchObject({
    unit: '°F',
    readings: [{ celsius: 25 }, { seconds: 60, celsius: 30 }],
  });
});

test.each<[string, BlobPart[]]>([
  ['a picture', [new Uint8Array([0x89, 0x50, 0, 0])]],
  ['a zip that is no spreadsheet', ['PK\u0003\u0004 something']],
])('%s holds no readings', async (_, parts) => {
  await expect(openReadings(file('x', ...parts))).rejects.toMatchObject({ why: 'not-a-table' });
});
