import fc from 'fast-check';
import { readDay } from '../quantity/index.ts';
import {
  FIELDS,
  fieldOf,
  guessKind,
  guessMapping,
  readTable,
  TABLE_KINDS,
  type Cell,
  type TableKind,
} from './index.ts';

const OF = { currency: 'EUR', today: '2026-11-26' };

describe('a day in a table', () => {
  test.each<[string | Date, 'dmy' | 'mdy' | 'ymd', string | null]>([
    ['3.4.2024', 'dmy', '2024-04-03'],
    ['03/04/24', 'mdy', '2024-03-04'],
    ['2024-04-03', 'dmy', '2024-04-03'],
    ['2024/4/3 09:15', 'mdy', '2024-04-03'],
    ['3. März 2024', 'mdy', '2024-03-03'],
    ['Mo, 3 Mar 2024', 'dmy', '2024-03-03'],
    ['3-Okt-23', 'dmy', '2023-10-03'],
    ['October 3, 2023', 'dmy', '2023-10-03'],
    [new Date(Date.UTC(2024, 1, 29)), 'dmy', '2024-02-29'],
    ['30.2.2024', 'dmy', null],
    ['29.2.2023', 'dmy', null],
    ['13/13/2024', 'dmy', null],
    ['0.4.2024', 'dmy', null],
    ['next week', 'dmy', null],
    ['', 'dmy', null],
    [new Date(Number.NaN), 'dmy', null],
  ])('%p read %s', (cell, order, day) => {
    expect(readDay(cell, order)).toBe(day);
  });

  test('agrees with the calendar on every day of nine years, in every spelling', () => {
    for (let t = Date.UTC(2016, 0, 1); t < Date.UTC(2025, 0, 1); t += 86_400_000) {
      const date = new Date(t);
      const day = date.toISOString().slice(0, 10);
      const [y, m, d] = day.split('-').map(Number) as [number, number, number];
      expect(readDay(`${d}.${m}.${y}`, 'dmy')).toBe(day);
      expect(readDay(`${m}/${d}/${String(y).slice(2)}`, 'mdy')).toBe(day);
      expect(readDay(date.toLocaleDateString('de-DE', { dateStyle: 'long', timeZone: 'UTC' }), 'mdy')).toBe(
        day,
      );
      expect(readDay(date.toLocaleDateString('en-US', { dateStyle: 'medium', timeZone: 'UTC' }), 'dmy')).toBe(
        day,
      );
    }
  });
});

describe('guessing', () => {
  const german: Cell[][] = [
    ['Unser Kakao', '', '', ''],
    [],
    ['Partie', 'Herkunft', 'Eingang', 'Gewicht (kg)', 'Preis/kg', 'Feuchte %', 'Lager'],
    ['NK', 'Nkondo', '13.02.2024', '62,5', '8,40', '6,8', 'Regal 2'],
    ['TL', 'Tala', '01.03.2024', '1.040', '9,10 €', '7', ''],
    ['Summe', '', '', '1102,5', '', '', ''],
  ];

  test('a German book of lots: headings, units, decimal commas and the order of days', () => {
    expect(guessKind(german)).toBe('lots');
    const mapping = guessMapping('lots', german);
    expect(mapping).toMatchObject({
      headings: 2,
      numbers: 'de',
      days: 'dmy',
      sure: { numbers: true, days: true, units: true },
    });
    expect(mapping.columns).toMatchObject({
      code: { at: 0 },
      name: { at: 1 },
      receivedOn: { at: 2 },
      massMg: { at: 3, unit: 'kg' },
      pricePerKg: { at: 4 },
      moisture: { at: 5 },
      place: { at: 6 },
    });
    const table = readTable('lots', german, mapping, OF);
    expect(table.troubles).toEqual([]);
    expect(table.skipped).toEqual([6]);
    expect(table.rows).toEqual([
      {
        row: 4,
        code: 'NK',
        name: 'Nkondo',
        receivedOn: '2024-02-13',
        massMg: 62_500_000,
        pricePerKg: 840,
        moisture: 6.8,
        place: 'Regal 2',
      },
      {
        row: 5,
        code: 'TL',
        name: 'Tala',
        receivedOn: '2024-03-01',
        massMg: 1_040_000_000,
        pricePerKg: 910,
        moisture: 7,
      },
    ]);
  });

  test('an English book of batches with numbers and dates of the spreadsheet’s own', () => {
    const rows: Cell[][] = [
      [
        'Batch',
        'Lot',
        'Date',
        'Raw beans',
        'Roasted',
        'Nibs',
        'Sugar',
        'Chocolate',
        'Bars',
        'Bar weight',
        'Notes',
      ],
      ['NK-01', 'NK', new Date(Date.UTC(2024, 3, 2)), 2500, 2360, 1870, 800, 2610, 36, 70, 'a bit sour'],
      ['NK-02', 'NK', new Date(Date.UTC(2024, 3, 9)), 2500, 2355.5, 1866, 800, 2600, 36, 70, null],
    ];
    expect(guessKind(rows)).toBe('batches');
    const mapping = guessMapping('batches', rows);
    // Nothing says what the weights are in: grams are likely, and it is said that this was supposed.
    expect(mapping.sure.units).toBe(false);
    expect(mapping.columns.beansMg).toEqual({ at: 3, unit: 'g' });
    expect(readTable('batches', rows, mapping, OF).rows[1]).toEqual({
      row: 3,
      code: 'NK-02',
      lot: 'NK',
      startedOn: '2024-04-09',
      beansMg: 2_500_000,
      roastedMg: 2_355_500,
      nibsMg: 1_866_000,
      sugarMg: 800_000,
      chocolateMg: 2_600_000,
      bars: 36,
      barMg: 70_000,
    });
  });

  test('until when bars keep may be still to come; when they were begun may not', () => {
    const rows: Cell[][] = [
      ['Charge', 'Los', 'Datum', 'Bohnen (kg)', 'Tafeln', 'MHD'],
      ['NK-01', 'NK', '02.04.2024', '2,5', '36', '31.10.2099'],
      ['NK-02', 'NK', '02.04.2099', '2,5', '36', '31.10.2099'],
    ];
    const read = readTable('batches', rows, guessMapping('batches', rows), OF);
    expect(read.rows.map((r) => [r.code, r.bestBefore])).toEqual([['NK-01', '2099-10-31']]);
    expect(read.troubles).toEqual([{ row: 3, field: 'startedOn', text: '02.04.2099', why: 'in-future' }]);
  });

  test('sales and tastings are told apart; something else is none of them', () => {
    expect(guessKind([['Date', 'Customer', 'Batch', 'Bars', 'Price each']])).toBe('sales');
    expect(guessKind([['Datum', 'Probe', 'Verkoster', 'Note', 'Bemerkungen']])).toBe('tastings');
    expect(guessKind([['Song', 'Album', 'Year', 'Length']])).toBeNull();
    expect(guessKind([])).toBeNull();
  });

  test('marks that can mean two things are no evidence, and days that can be either are not called sure', () => {
    const rows: Cell[][] = [
      ['Batch', 'Date', 'Customer', 'Bars', 'Price'],
      ['NK-01', '3/4/2024', 'Harbour', '12', '1.250'],
    ];
    const mapping = guessMapping('sales', rows, 'de');
    expect(mapping.sure).toMatchObject({ numbers: false, days: false });
    expect(mapping.numbers).toBe('de');
    const american = guessMapping('sales', [...rows, ['NK-01', '3/14/2024', 'Harbour', '2', '9.50']]);
    expect(american).toMatchObject({ days: 'mdy', numbers: 'en', sure: { numbers: true, days: true } });
  });

  test('scores on five or a hundred come to ten', () => {
    const rows = (...scores: Cell[]): Cell[][] => [
      ['Date', 'Batch', 'Score'],
      ...scores.map((s, i): Cell[] => [`2024-05-${10 + i}`, 'NK-01', s]),
    ];
    const read = (table: Cell[][]) =>
      readTable('tastings', table, guessMapping('tastings', table), OF).rows.map((r) => r.liking);
    expect(read(rows(4, 5, '3.5'))).toEqual([8, 10, 7]);
    expect(read(rows(85, 92))).toEqual([8.5, 9.2]);
    expect(read(rows(6, 9))).toEqual([6, 9]);
  });
});

describe('what cannot be read', () => {
  const heads = ['Code', 'Name', 'Received', 'Weight (kg)', 'Price', 'Moisture'];
  const why = (...cells: Cell[]) => {
    const rows: Cell[][] = [heads, ['A', 'ok', '13.1.2024', '12,5', '1,5', '7'], cells];
    const { troubles, rows: taken } = readTable('lots', rows, guessMapping('lots', rows), OF);
    return troubles.length > 0 ? troubles.map((t) => `${t.row} ${t.field} ${t.why}`) : taken.at(-1);
  };

  test('is named by row, field and reason, and leaves out its row only', () => {
    expect(why('B', 'x', '31.2.2024', '12', '1', '7')).toEqual(['3 receivedOn no-day']);
    expect(why('B', '', '1.2.2024', 'heavy', '1', '7')).toEqual(['3 name missing', '3 massMg no-mass']);
    expect(why('B', 'x', '1.2.2024', '-3', '1', '7')).toEqual(['3 massMg no-mass']);
    expect(why('B', 'x', '1.2.2024', '0', '1', '7')).toEqual(['3 massMg no-mass']);
    expect(why('B', 'x', '1.2.2024', '12.5', '1', '7')).toEqual(['3 massMg other-mark']);
    expect(why('B', 'x', '1.2.2027', '12', '1', '7')).toEqual(['3 receivedOn in-future']);
    expect(why('B', 'x', '1.2.1924', '12', '1', '7')).toEqual(['3 receivedOn too-early']);
    expect(why('B', 'x', '1.2.2024', '12', 'dear', '7')).toEqual(['3 pricePerKg no-money']);
    expect(why('B', 'x', '1.2.2024', '12', '1', '81')).toEqual(['3 moisture off-scale']);
    expect(why('a', 'x', '1.2.2024', '12', '1', '7')).toEqual(['3 code twice']);
    expect(why('B', 'x', '1.2.2024', Number.NaN, '1', '7')).toEqual(['3 massMg no-mass']);
    expect(why('B', 'x', '1.2.2024', Infinity, Number.NaN, '7')).toEqual([
      '3 massMg no-mass',
      '3 pricePerKg no-money',
    ]);
    expect(why('B', 'x'.repeat(500), '1.2.2024', '12', '1', '7')).toEqual(['3 name too-long']);
    expect(why('B', 'x', '1.2.2024', '12 lb', '1', '7')).toMatchObject({ massMg: 5_443_108 });
  });

  test('empty rows and totals are counted, not refused', () => {
    const rows: Cell[][] = [heads, [], ['', null, ' '], ['Total', '', '', '55']];
    expect(readTable('lots', rows, guessMapping('lots', rows), OF)).toEqual({
      rows: [],
      troubles: [],
      skipped: [2, 3, 4],
    });
  });

  test('a mapping that makes no sense is refused', () => {
    const mapping = guessMapping('lots', [heads]);
    expect(() => readTable('lots', [heads], mapping, { ...OF, today: 'today' })).toThrow(/must be a day/);
    expect(() => readTable('lots', [heads], { ...mapping, columns: { code: { at: -1 } } }, OF)).toThrow(
      /column from 0/,
    );
    expect(() => fieldOf('lots', 'colour')).toThrow(/it has code, name/);
  });
});

test('whatever way a book was kept, what was written in it is what is read', () => {
  const lot = fc.record({
    grams: fc.integer({ min: 1_000, max: 900_000 }),
    cents: fc.integer({ min: 1, max: 9_999 }),
    tenths: fc.integer({ min: 10, max: 200 }),
    day: fc.integer({ min: 0, max: 3000 }),
  });
  const way = fc.record({
    language: fc.constantFrom<'en' | 'de'>('en', 'de'),
    order: fc.constantFrom<'dmy' | 'mdy' | 'ymd'>('dmy', 'mdy', 'ymd'),
    unit: fc.constantFrom('g', 'kg'),
    titles: fc.integer({ min: 0, max: 4 }),
    shuffle: fc.integer({ min: 0, max: 6 }),
  });
  fc.assert(
    fc.property(
      fc.array(lot, { minLength: 1, maxLength: 20 }),
      way,
      (lots, { language, order, unit, titles, shuffle }) => {
        const number = (value: number, digits: number) =>
          value.toFixed(digits).replace('.', language === 'de' ? ',' : '.');
        const days = lots.map(({ day }) => new Date(Date.UTC(2015, 0, 1 + day)).toISOString().slice(0, 10));
        const written = (day: string) => {
          const [y, m, d] = day.split('-') as [string, string, string];
          return order === 'ymd' ? `${y}-${m}-${d}` : order === 'dmy' ? `${d}/${m}/${y}` : `${m}/${d}/${y}`;
        };
        const heads =
          language === 'de'
            ? ['Partie', 'Herkunft', 'Datum', `Menge (${unit})`, 'Preis', 'Feuchte (%)']
            : ['Lot', 'Origin', 'Date', `Weight [${unit}]`, 'Price per kg', 'Moisture'];
        const table = [
          heads,
          ...lots.map(({ grams, cents, tenths }, i) => [
            `L${i}`,
            `lot ${i}`,
            written(days[i]!),
            unit === 'g' ? String(grams) : number(grams / 1000, 3),
            number(cents / 100, 2),
            number(tenths / 10, 1),
          ]),
        ].map((row) => [...row.slice(shuffle), ...row.slice(0, shuffle)]);
        const rows: Cell[][] = [...Array.from({ length: titles }, (): Cell[] => ['my book']), ...table];
        const mapping = guessMapping('lots', rows);
        expect(mapping.headings).toBe(titles);
        // Where every day could be either, the order is asked for; here it is told.
        const told = mapping.sure.days ? mapping : { ...mapping, days: order };
        const read = readTable('lots', rows, told, OF);
        expect(read.troubles).toEqual([]);
        expect(read.rows).toEqual(
          lots.map(({ grams, cents, tenths }, i) => ({
            row: titles + 2 + i,
            code: `L${i}`,
            name: `lot ${i}`,
            receivedOn: days[i],
            massMg: grams * 1000,
            pricePerKg: cents,
            moisture: tenths / 10,
          })),
        );
      },
    ),
    { numRuns: 400 },
  );
});

test('every field has headings that lead to it, and no two required ones share one', () => {
  for (const kind of TABLE_KINDS) {
    const needed = FIELDS[kind].filter((f) => f.required);
    for (const language of [0, -1]) {
      const heads = needed.map((f) => f.headings.at(language)!);
      const { columns } = guessMapping(kind, [heads]);
      expect(Object.keys(columns).sort()).toEqual(expect.arrayContaining(needed.map((f) => f.id).sort()));
    }
  }
  expect(guessKind([FIELDS.sales.map((f) => f.headings[0]!)])).toBe<TableKind>('sales');
});
