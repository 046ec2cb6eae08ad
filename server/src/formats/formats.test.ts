import Papa from 'papaparse';
import { v7 } from 'uuid';
import { TABLE_NAMES } from '@wunsch/contract';
import { USUAL_DATABASE, Maker, openWorkshop, signIn, type TestWorkshop } from '../testing/workshop.ts';
import { headingsOf, tableCsv } from './tableCsv.ts';

describe.each(USUAL_DATABASE)('tables on %s', (kind) => {
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

  test.each(TABLE_NAMES)(
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

  test('recipes and orders come line by line, with names for ids; a picking with what was paid', async () => {
    const put = async (path: string, body: object) =>
      expect((await shop.send('PUT', `/api/${path}/${v7()}`, body)).status).toBeLessThan(300);
    const all = (await shop.send('GET', '/api/ingredients')).body as { id: string; key: string }[];
    const of = (key: string) => all.find((i) => i.key === key)!.id;
    const recipe = v7();
    const lines = [
      { ingredientId: of('nibs'), massMg: 7_000_000 },
      { ingredientId: of('cane-sugar'), massMg: 3_000_000 },
    ];
    await shop.send('PUT', `/api/recipes/${recipe}`, { name: 'Seventy', kind: 'dark', lines, notes: '' });
    const customerId = v7();
    await shop.send('PUT', `/api/customers/${customerId}`, { name: 'Harbour Café', channel: 'trade' });
    await put('orders', {
      customerId,
      due: '2027-01-10T17:00:00Z',
      lines: [
        { id: v7(), recipeId: recipe, bars: 40, price: 410 },
        { id: v7(), recipeId: recipe, bars: 12 },
      ],
    });
    await put('pickings', { on: '2026-11-03', plot: 'Hill', pods: 120, wetMg: 14_000_000, paid: 3000 });
    const written = (await rows('recipes')).data.filter((r) => r.name === 'Seventy');
    expect(written.map((r) => [r.ingredient, r['mass (g)']])).toEqual([
      ['Nibs', '7000'],
      ['Cane sugar', '3000'],
    ]);
    const promised = (await rows('orders')).data;
    expect(promised.map((o) => [o.customer, o.recipe, o.bars, o['price each (GBP)']]).sort()).toEqual([
      ['Harbour Café', 'Seventy', '12', ''],
      ['Harbour Café', 'Seventy', '40', '4.1'],
    ]);
    const [picked] = (await rows('pickings')).data;
    expect(picked).toMatchObject({
      picked: '2026-11-03',
      plot: 'Hill',
      pods: '120',
      'wet beans (g)': '14000',
      'paid (GBP)': '30',
    });
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
