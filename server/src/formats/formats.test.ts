import Papa from 'papaparse';
import { v7 } from 'uuid';
import { DATABASES, Maker, openWorkshop, signIn, type TestWorkshop } from '../testing/workshop.ts';
import { headingsOf, TABLES, tableCsv, type TableName } from './tables.ts';

const NAMES = Object.keys(TABLES) as TableName[];

describe.each(DATABASES)('tables on %s', (kind) => {
  let shop: TestWorkshop;
  beforeAll(async () => {
    shop = await openWorkshop(kind);
    const maker = new Maker(shop);
    const lot = await maker.lot('NK', 10, { name: '=cmd|’ /C calc’!A1', notes: 'a "quoted", line\nbroken' });
    const batch = await maker.batch('NK-01', lot.id);
    const sort = await maker.step(batch, 'sort');
    await maker.take(sort, lot.parcelId, 5);
    await maker.make(sort, 'sorted beans', 4.8);
    await maker.lose(sort, 'dust', 0.2);
    await maker.close(sort);
  });
  afterAll(() => shop.close());

  const read = async (name: string, cookie?: string) => {
    const answer = await shop.send('GET', `/api/tables/${name}.csv`, undefined, cookie ? { cookie } : {});
    return { status: answer.status, text: String(answer.body) };
  };
  const rows = async (name: string) =>
    Papa.parse<Record<string, string>>((await read(name)).text, { header: true, skipEmptyLines: true });

  test.each(NAMES)(
    '%s is a table every reader reads: one heading, as many cells in every row',
    async (name) => {
      const { data, errors, meta } = await rows(name);
      expect(errors).toEqual([]);
      expect(meta.fields).toEqual(headingsOf(name, 'GBP'));
      expect(new Set(meta.fields).size).toBe(meta.fields!.length);
      if (['lots', 'batches', 'steps', 'movements', 'stock', 'trail'].includes(name))
        expect(data.length).toBeGreaterThan(0);
    },
  );

  test('units stand in the heading, masses are exact, and nothing in a cell is taken for a formula', async () => {
    const lots = await rows('lots');
    expect(lots.data[0]).toMatchObject({
      code: 'NK',
      'arrived (g)': '10000',
      'left (g)': '5000',
      'price a kg (GBP)': '9',
      voided: 'false',
    });
    expect(lots.data[0]!.name!.startsWith("'=")).toBe(true);
    const lines = (await rows('movements')).data.filter((m) => m.batch === 'NK-01');
    const sum = (direction: string) =>
      lines.reduce((total, m) => total + (m.direction === direction ? Number(m['mass (g)']) : 0), 0);
    expect([sum('in'), sum('out'), sum('loss')]).toEqual([5000, 4800, 200]);
  });

  test('longer than one helping, nothing is left out and nothing comes twice', async () => {
    const rowsOfMany = 4100;
    const values = Array.from({ length: rowsOfMany }, () => `('${v7()}', 'note', '{}', now(), 'AK', 0)`).join(
      ',',
    );
    await shop.store.db.execute(`insert into observation (id, kind, data, at, by, seq) values ${values}`);
    let text = '';
    let parts = 0;
    for await (const part of tableCsv(shop.store.db, 'observations', 'GBP')) {
      text += part;
      parts += 1;
    }
    const { data } = Papa.parse<Record<string, string>>(text, { header: true, skipEmptyLines: true });
    expect(parts).toBe(4);
    expect(new Set(data.map((d) => d.id)).size).toBe(rowsOfMany);
    expect(data).toHaveLength(rowsOfMany);
  });

  test('plots of all lots are one GeoJSON collection, each with its lot; a lot without any adds none', async () => {
    const maker = new Maker(shop);
    const point = { type: 'Point', coordinates: [36.68, -8.16] };
    await maker.lot('GEO', 5, {
      country: 'Tanzania',
      plots: {
        type: 'FeatureCollection',
        features: [{ type: 'Feature', properties: { name: 'upper' }, geometry: point }],
      },
    });
    const answer = await shop.app.inject({
      url: '/api/plots.geojson',
      headers: { cookie: shop.cookie, host: 'localhost:4310' },
    });
    expect(answer.headers['content-type']).toContain('application/geo+json');
    expect(JSON.parse(answer.body)).toEqual({
      type: 'FeatureCollection',
      features: [
        {
          type: 'Feature',
          geometry: point,
          properties: expect.objectContaining({ name: 'upper', lot: 'GEO', country: 'Tanzania' }),
        },
      ],
    });
  });

  test('whole tables are for owners and makers; a table nobody knows is refused', async () => {
    const taster = await signIn(shop, 'Tam', 'third password');
    expect((await read('movements', taster)).status).toBe(403);
    expect((await read('passwords')).status).toBe(422);
  });
});
