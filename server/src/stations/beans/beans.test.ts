import { v7 } from 'uuid';
import type { LotView } from '@wunsch/contract';
import {
  USUAL_DATABASE,
  kg,
  Maker,
  openWorkshop,
  signIn,
  type TestWorkshop,
} from '../../testing/workshop.ts';

/** Ids that taking dried beans in gives to what it makes. */
const driedIds = () => ({
  stepId: v7(),
  takenId: v7(),
  movementId: v7(),
  lossId: v7(),
  parcelId: v7(),
});

describe.each(USUAL_DATABASE)('lots on %s', (kind) => {
  let shop: TestWorkshop;
  let maker: Maker;
  beforeAll(async () => {
    shop = await openWorkshop(kind);
    maker = new Maker(shop);
  });
  afterAll(() => shop.close());
  const view = async (id: string): Promise<LotView> => (await shop.send('GET', `/api/lots/${id}`)).body;
  const plots = {
    type: 'FeatureCollection',
    features: [
      {
        type: 'Feature',
        properties: { name: 'north' },
        geometry: { type: 'Point', coordinates: [178.1, -17.9] },
      },
      {
        type: 'Feature',
        properties: {},
        geometry: {
          type: 'Polygon',
          coordinates: [
            [
              [178, -17],
              [178.1, -17],
              [178.1, -17.1],
              [178, -17],
            ],
          ],
        },
      },
    ],
  };

  test('a lot’s page has its own yields, and beside them what other lots yielded', async () => {
    const [old, fresh] = [await maker.lot('YO', 40), await maker.lot('YF', 40)];
    const batch = await maker.batch('YO-01', old.id);
    const winnow = await maker.step(batch, 'winnow');
    await maker.take(winnow, old.parcelId, 10);
    await maker.make(winnow, 'nibs', 7.9);
    await maker.make(winnow, 'husk', 1.8);
    await maker.close(winnow, 'sweepings');
    const own = await view(old.id);
    expect(own.yields).toMatchObject([{ station: 'winnow', batchCode: 'YO-01', value: 0.79 }]);
    expect(own.elsewhere).toEqual([]);
    const other = await view(fresh.id);
    expect(other.yields).toEqual([]);
    expect(other.elsewhere).toEqual([{ station: 'winnow', lotId: old.id, value: 0.79 }]);
  });

  test('every fact goes in and comes out, plots included', async () => {
    const { id } = await maker.lot('FA', 60, {
      certificates: 'own word',
      growerNotes: 'six days in boxes',
      ceilingC: 145,
      leadWeeks: 6,
      plots,
    });
    const { lot } = await view(id);
    expect(lot).toMatchObject({
      certificates: 'own word',
      growerNotes: 'six days in boxes',
      ceilingC: 145,
      leadWeeks: 6,
      fromLotId: null,
    });
    expect(lot.plots).toEqual(plots);
    const out = await shop.app.inject({
      url: `/api/lots/${id}/plots.geojson`,
      headers: { cookie: shop.cookie },
    });
    expect(out.headers['content-type']).toContain('application/geo+json');
    expect(out.json()).toEqual(plots);
  });

  test('plots outside the world are refused by name', async () => {
    const wrong = structuredClone(plots);
    wrong.features[0]!.geometry.coordinates = [17, 178];
    await expect(maker.lot('FB', 60, { plots: wrong })).rejects.toThrow(/not a longitude and a latitude/);
  });

  test('observations of a lot: cut test, hold, probe, traps; corrected and undone like any entry', async () => {
    const { id } = await maker.lot('OB', 60);
    const note = (data: object, more: object = {}) =>
      shop.send('PUT', `/api/observations/${v7()}`, { lotId: id, data, ...more });
    const counts = {
      brown: 90,
      'partly violet': 5,
      violet: 2,
      slaty: 1,
      mouldy: 1,
      insect: 0,
      germinated: 1,
      flat: 0,
    };
    const cut = await note({ kind: 'cutTest', counts });
    expect(cut.status).toBe(201);
    expect(
      (
        await note({
          kind: 'hold',
          method: 'freezing',
          sides: [0.8, 0.5, 0.3],
          startC: 24,
          airC: -20,
          coreC: -18,
          days: 4,
        })
      ).status,
    ).toBe(201);
    expect((await note({ kind: 'holdProbe', celsius: -18.4 })).status).toBe(201);
    expect(
      (await note({ kind: 'cutTest', counts: { ...counts, brown: 91 } }, { replaces: cut.body.id })).status,
    ).toBe(201);
    const { observations } = await view(id);
    expect(observations.map((o) => o.data.kind)).toEqual(
      expect.arrayContaining(['hold', 'holdProbe', 'cutTest']),
    );
    expect(observations.filter((o) => o.data.kind === 'cutTest')).toHaveLength(1);
    expect(
      (
        await note({
          kind: 'hold',
          method: 'freezing',
          sides: [0, 1, 1],
          startC: 20,
          airC: -20,
          coreC: -18,
          days: 4,
        })
      ).status,
    ).toBe(422);
    expect(
      (
        await shop.send('PUT', `/api/observations/${v7()}`, {
          lotId: v7(),
          data: { kind: 'note', text: 'x' },
        })
      ).status,
    ).toBe(404);
  });

  test('wet beans dry into a lot with their lineage and their cost', async () => {
    const wet = await maker.lot('WB', 40, {
      material: 'wet beans',
      pricePerKg: 300,
      freight: 1000,
      country: 'Fiji',
    });
    const id = v7();
    const body = () => ({
      fromLotId: wet.id,
      code: 'WD',
      name: 'Dried crate',
      massMg: kg(15.6),
      moisture: 6.9,
      receivedOn: '2026-10-20',
      ...driedIds(),
    });
    expect(await shop.send('PUT', `/api/lots/${v7()}/dried`, { ...body(), massMg: kg(41) })).toMatchObject({
      status: 422,
      body: { code: 'more-out-than-in' },
    });
    const made = await shop.send('PUT', `/api/lots/${id}/dried`, body());
    expect(made.status).toBe(201);
    const { lot, family } = await view(id);
    expect(lot).toMatchObject({
      material: 'dry beans',
      country: 'Fiji',
      arrivedMg: kg(15.6),
      remainingMg: kg(15.6),
      fromLotId: wet.id,
      moisture: 6.9,
    });
    expect(lot.pricePerKg * 15.6).toBeCloseTo(300 * 40, 6);
    expect(family).toEqual([expect.objectContaining({ code: 'WB', relation: 'from' })]);
    expect((await view(wet.id)).lot.remainingMg).toBe(0);
    expect(await shop.send('PUT', `/api/lots/${v7()}/dried`, { ...body(), code: 'WE' })).toMatchObject({
      status: 409,
      body: { code: 'used-up' },
    });
    const undone = await shop.send('PUT', `/api/undos/${v7()}`, { seq: made.body.seq });
    expect(undone.status).toBe(201);
    expect((await view(wet.id)).lot.remainingMg).toBe(kg(40));
  });

  test('of a wet lot in two places all is dried, and all comes back', async () => {
    const wet = await maker.lot('WP', 40, { material: 'wet beans' });
    const part = { stepId: v7(), takenId: v7(), madeId: v7(), parcelId: v7() };
    await shop.send('PUT', `/api/moves/${v7()}`, {
      place: 'second box',
      parcels: [{ parcelId: wet.parcelId, massMg: kg(25), part }],
    });
    const id = v7();
    const made = await shop.send('PUT', `/api/lots/${id}/dried`, {
      fromLotId: wet.id,
      code: 'WQ',
      name: 'Dried in two boxes',
      massMg: kg(16),
      moisture: 7,
      receivedOn: '2026-10-20',
      ...driedIds(),
    });
    expect(made.status).toBe(201);
    expect((await view(wet.id)).lot.remainingMg).toBe(0);
    expect((await view(id)).lot).toMatchObject({ arrivedMg: kg(16), remainingMg: kg(16) });
    expect((await shop.send('GET', '/api/stock-proof')).body.mass.differenceMg).toBe(0);
    const undone = await shop.send('PUT', `/api/undos/${v7()}`, { seq: made.body.seq });
    expect(undone.status).toBe(201);
    expect((await view(wet.id)).lot.remainingMg).toBe(kg(40));
  });

  test('dry beans cannot be dried into another lot', async () => {
    const { id } = await maker.lot('DB', 5);
    const answer = await shop.send('PUT', `/api/lots/${v7()}/dried`, {
      fromLotId: id,
      code: 'DC',
      name: 'x',
      massMg: kg(1),
      moisture: null,
      receivedOn: '2026-10-20',
      ...driedIds(),
    });
    expect(answer).toMatchObject({ status: 409, body: { code: 'not-wet' } });
  });

  test('held beans go to sorting only on a named word', async () => {
    const lot = await maker.lot('HO', 30, { onHold: true, holdReason: 'moths in the traps' });
    const batch = await maker.batch('HO-1', lot.id);
    const sort = await maker.step(batch, 'sort');
    await expect(maker.take(sort, lot.parcelId, 10)).rejects.toThrow(/hold/);
    await maker.take(sort, lot.parcelId, 10, { holdOverride: 'AK: core probe was cold enough' });
  });

  test('samples keep their tastings and the decision with its reasons', async () => {
    const id = v7();
    const first = {
      name: 'Sample A',
      kind: 'beans',
      country: 'Peru',
      notes: [{ day: '2026-10-01', by: 'AK', liking: 6, text: 'plum, a little smoke' }],
    };
    expect((await shop.send('PUT', `/api/samples/${id}`, first)).status).toBe(201);
    const second = { ...first, decision: 'decline', reason: 'smoke again on the second day' };
    expect((await shop.send('PUT', `/api/samples/${id}`, second, { 'if-match': '"7"' })).status).toBe(412);
    expect((await shop.send('PUT', `/api/samples/${id}`, second, { 'if-match': '"1"' })).status).toBe(201);
    const list = (await shop.send('GET', '/api/samples')).body;
    expect(list[0]).toMatchObject({ id, decision: 'decline', version: 2 });
  });

  test('photographs are kept, checked and given back byte for byte; viewers may only look', async () => {
    const { id: lotId } = await maker.lot('PH', 5);
    const png = Buffer.concat([
      Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]),
      Buffer.from('rest of a picture'),
    ]);
    const id = v7();
    const body = { lotId, name: 'Säcke.png', type: 'image/png', content: png.toString('base64') };
    expect((await shop.send('PUT', `/api/attachments/${id}`, body)).status).toBe(201);
    const file = await shop.app.inject({
      url: `/api/attachments/${id}/file`,
      headers: { cookie: shop.cookie },
    });
    expect(file.rawPayload.equals(png)).toBe(true);
    expect(file.headers['x-content-type-options']).toBe('nosniff');
    expect((await view(lotId)).attachments).toEqual([
      expect.objectContaining({ name: 'Säcke.png', size: png.length }),
    ]);
    const lie = await shop.send('PUT', `/api/attachments/${v7()}`, { ...body, type: 'application/pdf' });
    expect(lie).toMatchObject({ status: 422, body: { code: 'not-that-type' } });
    const cookie = await signIn(shop, 'Vi', 'another password');
    expect((await shop.send('PUT', `/api/attachments/${v7()}`, body, { cookie })).status).toBe(403);
  });

  test('sortings come back with rejects by reason', async () => {
    const lot = await maker.lot('SR', 30);
    const batch = await maker.batch('SR-1', lot.id);
    const sort = await maker.step(batch, 'sort');
    await maker.take(sort, lot.parcelId, 10);
    await maker.lose(sort, 'flat', 0.2);
    await maker.lose(sort, 'mouldy', 0.1);
    await maker.make(sort, 'sorted beans', 9.69);
    await maker.close(sort, 'dust', 75);
    const record = (await shop.send('GET', '/api/sortings')).body.find(
      (s: { batchCode: string }) => s.batchCode === 'SR-1',
    );
    expect(record).toMatchObject({
      inMg: kg(10),
      minutes: 75,
      rejects: expect.arrayContaining([{ reason: 'flat', massMg: kg(0.2) }]),
    });
    expect(record.rejects).toHaveLength(2);
  });

  test('the published document of the API can be read', async () => {
    const document = (await shop.send('GET', '/api/openapi.json')).body;
    expect(Object.keys(document.paths)).toEqual(
      expect.arrayContaining(['/api/door/readings', '/api/lots/{id}/dried', '/api/roasts']),
    );
  });
});
