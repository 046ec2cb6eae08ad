import type { YieldBook } from '@wunsch/contract';
import { kg, USUAL_DATABASE, Maker, openWorkshop, type TestWorkshop } from '../testing/workshop.ts';

describe.each(USUAL_DATABASE)('yields of a year on %s', (kind) => {
  let shop: TestWorkshop;
  const read = async (query = '') => (await shop.send('GET', `/api/yields${query}`)).body as YieldBook;
  beforeAll(async () => {
    shop = await openWorkshop(kind);
  });
  afterAll(() => shop.close());

  test('an empty workshop has no years and no yields', async () => {
    expect(await read()).toMatchObject({ years: [], yields: [], flow: [] });
  });

  test('every gram that came to a station went on, came off beside, or was lost under a name; what it hands itself counts once', async () => {
    const maker = new Maker(shop);
    const lot = await maker.lot('TL', 40);
    const batch = await maker.batch('TL-01', lot.id);
    const winnow = await maker.step(batch, 'winnow', { startedAt: '2026-03-01T08:00:00Z' });
    await maker.take(winnow, lot.parcelId, 10);
    const nibs = await maker.make(winnow, 'nibs', 7.9);
    await maker.make(winnow, 'husk', 1.6);
    await shop.send('PUT', `/api/steps/${winnow}/close`, {
      remainder: 'sweepings',
      remainderId: crypto.randomUUID(),
      endedAt: '2026-03-01T10:00:00Z',
    });
    const grind = await maker.step(batch, 'grind', { startedAt: '2026-03-02T08:00:00Z' });
    await maker.take(grind, nibs.parcelId, 7.9);
    const liquor = await maker.make(grind, 'chocolate', 7.8);
    await maker.close(grind, 'hold-up');
    const conche = await maker.step(batch, 'grind', { kind: 'conche', startedAt: '2026-03-04T08:00:00Z' });
    await maker.take(conche, liquor.parcelId, 7.8);
    await maker.make(conche, 'chocolate', 7.7);
    await maker.close(conche, 'hold-up');
    const years = (await read()).years;
    expect(years).toContain(2026);
    const all = await Promise.all(years.map((y) => read(`?year=${y}`)));
    const flow = all.flatMap((b) => b.flow);
    for (const f of flow) {
      const lost = f.losses.reduce((s, l) => s + l.massMg, 0);
      expect(f.outMg + f.besideMg + lost).toBe(f.inMg);
    }
    // Ten kilograms came out of the sack; what was ground was not brought again.
    expect(all.map((b) => b.came).filter((c) => c.massMg > 0)).toEqual([{ massMg: kg(10), lots: 1 }]);
    const at = (station: string) => flow.find((f) => f.station === station)!;
    expect(at('winnow')).toMatchObject({ inMg: kg(10), outMg: kg(7.9), besideMg: kg(1.6) });
    expect(at('winnow').losses).toEqual([{ reason: 'sweepings', massMg: kg(0.5) }]);
    expect(at('grind')).toMatchObject({
      inMg: kg(7.9),
      outMg: kg(7.7),
      losses: [{ reason: 'hold-up', massMg: kg(0.2) }],
    });
    expect(all.flatMap((b) => b.yields).find((y) => y.station === 'winnow')).toMatchObject({
      batchCode: 'TL-01',
      lotName: 'TL lot',
      by: 'AK',
      at: '2026-03-01T10:00:00.000Z',
    });
  });

  test('what drains back out of shells stands in where the mass went, and is no yield that bars are foretold by', async () => {
    const maker = new Maker(shop);
    const lot = await maker.lot('CV', 10, { material: 'tempered chocolate' });
    const shells = { pieces: 100, brimMg: 11_000, shellMg: 5000, fillingMg: 6000, capMg: 1500 };
    const moulded = async (
      code: string,
      details: object,
      [taken, made]: [number, number],
      material: string,
    ) => {
      const batch = await maker.batch(code, lot.id);
      const step = await maker.step(batch, 'mould', { details });
      await maker.take(step, lot.parcelId, taken);
      await maker.make(step, material, made, { count: 100 });
      await maker.make(step, 'rework', taken - made);
      await maker.close(step);
    };
    const mould = async () => (await read()).flow.find((f) => f.station === 'mould');
    await moulded('CV-01', { shells }, [1.1, 0.5], 'shells');
    expect((await read()).yields.filter((y) => y.station === 'mould')).toEqual([]);
    expect(await mould()).toMatchObject({ inMg: kg(1.1), outMg: kg(0.5), besideMg: kg(0.6) });
    const ofLot = async () =>
      (
        (await shop.send('GET', `/api/lots/${lot.id}`)).body as {
          yields: { station: string; value: number }[];
        }
      ).yields;
    expect(await ofLot()).toEqual([]);
    await moulded('CV-02', {}, [2, 1.9], 'bars');
    expect((await read()).yields.filter((y) => y.station === 'mould').map((y) => y.batchCode)).toEqual([
      'CV-02',
    ]);
    expect((await ofLot()).map((y) => [y.station, y.value])).toEqual([['mould', 0.95]]);
  });

  test('a void batch is left out, and a year nobody can mean is refused', async () => {
    const maker = new Maker(shop);
    const lot = await maker.lot('GO', 10);
    const gone = await maker.batch('GO-01', lot.id);
    const sort = await maker.step(gone, 'sort');
    await maker.take(sort, lot.parcelId, 2);
    await maker.make(sort, 'sorted beans', 2);
    await maker.close(sort);
    const codes = async () => (await read()).yields.map((y) => y.batchCode);
    expect(await codes()).toContain('GO-01');
    // Sorted after another batch was ground, and still named before it.
    const stations = (await read()).flow.map((f) => f.station);
    expect(stations.indexOf('sort')).toBe(0);
    expect(stations).toContain('grind');
    await shop.send('PUT', `/api/batches/${gone}/state`, { state: 'void', reason: 'typed twice' });
    expect(await codes()).not.toContain('GO-01');
    expect((await shop.send('GET', '/api/yields?year=12')).status).toBe(422);
  });

  test('a year begins where the workshop is: what ended on New Year’s morning there is of the new year', async () => {
    const maker = new Maker(shop);
    const lot = await maker.lot('NY', 10);
    const batch = await maker.batch('NY-01', lot.id);
    const sort = await maker.step(batch, 'sort', { startedAt: '2022-12-31T10:00:00Z' });
    await maker.take(sort, lot.parcelId, 5);
    await maker.make(sort, 'sorted beans', 4.9);
    await shop.send('PUT', `/api/steps/${sort}/close`, {
      remainder: 'dust',
      remainderId: crypto.randomUUID(),
      endedAt: '2022-12-31T12:00:00Z',
    });
    const of = async (year: number) => (await read(`?year=${year}`)).yields.map((y) => y.batchCode);
    expect([await of(2022), await of(2023)]).toEqual([['NY-01'], []]);
    const week = [[[480, 1020]], [], [], [], [], [], []];
    const hours = { timeZone: 'Pacific/Auckland', week };
    expect((await shop.send('PUT', `/api/work-hours/${crypto.randomUUID()}`, hours)).status).toBe(201);
    expect([await of(2022), await of(2023)]).toEqual([[], ['NY-01']]);
    expect((await read()).years).not.toContain(2022);
  });
});
