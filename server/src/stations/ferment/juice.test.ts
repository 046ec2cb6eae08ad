import { eq } from 'drizzle-orm';
import { v7 } from 'uuid';
import { LotUpdate, type LotView, type StockItem, type StockProof, type StockValues } from '@wunsch/contract';
import { parcel as parcelTable } from '../../db/schema/index.ts';
import { USUAL_DATABASE, kg, Maker, openWorkshop, type TestWorkshop } from '../../testing/workshop.ts';

describe.each(USUAL_DATABASE)('juice of fresh beans on %s', (kind) => {
  let shop: TestWorkshop;
  let maker: Maker;
  beforeAll(async () => {
    shop = await openWorkshop(kind);
    maker = new Maker(shop);
  });
  afterAll(() => shop.close());

  const get = async <T>(path: string) => (await shop.send('GET', path)).body as T;
  const view = (id: string) => get<LotView>(`/api/lots/${id}`);
  const undo = (seq: number) => shop.send('PUT', `/api/undos/${v7()}`, { seq });
  const drain = async (parcelId: string, juiceKg: number, more: object = {}) => {
    const ids = {
      juice: { movementId: v7(), parcelId: v7() },
      rest: { movementId: v7(), parcelId: v7() },
    };
    const answer = await shop.send('PUT', `/api/drainings/${v7()}`, {
      parcelId,
      takenId: v7(),
      juice: { ...ids.juice, massMg: kg(juiceKg) },
      rest: ids.rest,
      ...more,
    });
    return { ...answer, ...ids, seq: answer.body?.seq as number };
  };
  const dry = async (fromLotId: string, code: string, massKg: number) => {
    const id = v7();
    const answer = await shop.send('PUT', `/api/lots/${id}/dried`, {
      fromLotId,
      code,
      name: `${code} dried`,
      massMg: kg(massKg),
      moisture: 7,
      receivedOn: '2026-10-20',
      stepId: v7(),
      takenId: v7(),
      movementId: v7(),
      lossId: v7(),
      parcelId: v7(),
    });
    return { ...answer, id, seq: answer.body?.seq as number };
  };
  /** What is on hand of a lot: material, mass, place, and what it has cost in whole minor units. */
  const onHand = async (lotId: string) => {
    const { items } = await get<StockValues>('/api/stock-values');
    return (await get<StockItem[]>('/api/stock-items'))
      .filter((i) => i.lotId === lotId)
      .map((i) => [
        i.material,
        i.remainingMg / 1e6,
        i.place,
        Math.round(items.find((v) => v.parcelId === i.id)!.value),
      ])
      .sort();
  };
  const share = async (joint: 'mass' | 'value', jointValues: object = {}) => {
    const { workshop } = await get<{ workshop: { version: number } & object }>('/api/session');
    const { version, ...settings } = workshop;
    const told = await shop.send(
      'PUT',
      '/api/workshop',
      { ...settings, joint, jointValues },
      { 'if-match': `"${String(version)}"` },
    );
    expect(told.status).toBe(201);
  };
  const even = async () => expect((await get<StockProof>('/api/stock-proof')).mass.differenceMg).toBe(0);
  const wetLot = (code: string, more: object = {}) =>
    maker.lot(code, 40, { material: 'wet beans', pricePerKg: 300, place: 'box', ...more });

  test('it is weighed in one act, the rest goes on fermenting, and one undo puts it back', async () => {
    const lot = await wetLot('JA');
    for (const all of [40, 41])
      expect(await drain(lot.parcelId, all)).toMatchObject({
        status: 422,
        body: { code: 'more-out-than-in', field: 'juice.massMg' },
      });
    expect(await onHand(lot.id)).toEqual([['wet beans', 40, 'box', 12_000]]);
    const done = await drain(lot.parcelId, 4, { place: 'fridge' });
    expect(done.status).toBe(201);
    // By mass a kg of either costs what a kg of the beans did.
    const [juice, rest] = [
      ['juice', 4, 'fridge', 1200],
      ['wet beans', 36, 'box', 10_800],
    ];
    expect(await onHand(lot.id)).toEqual([juice, rest]);
    expect(await view(lot.id)).toMatchObject({ juiceMg: kg(4), draws: [], lot: { remainingMg: kg(36) } });
    await even();
    // A weight that was misread takes the rest along.
    await maker.correct(done.juice.movementId, 3);
    expect(await view(lot.id)).toMatchObject({ juiceMg: kg(3), lot: { remainingMg: kg(37) } });
    await even();
    expect((await undo(done.seq)).status).toBe(201);
    expect(await onHand(lot.id)).toEqual([['wet beans', 40, 'box', 12_000]]);
    expect((await view(lot.id)).juiceMg).toBe(0);
    await even();
  });

  test('by value it takes its part of the cost, freight too, and the dried beans carry the rest', async () => {
    const lot = await wetLot('JB', { freight: 4000 });
    await share('value', { juice: 900, 'wet beans': 200 });
    const { rest } = await drain(lot.parcelId, 4);
    // 160.00 for 40 kg: 4 kg at 9.00 against 36 kg at 2.00 is a third.
    const third = 16_000 / 3;
    expect(await onHand(lot.id)).toEqual([
      ['juice', 4, 'box', Math.round(third)],
      ['wet beans', 36, 'box', Math.round(2 * third)],
    ]);
    // Drained again, the rest shares what it has by then.
    await drain(rest.parcelId, 2, { place: 'jar' });
    const left = (2 * third * 34 * 2) / (34 * 2 + 2 * 9);
    const made = await dry(lot.id, 'JBD', 14);
    expect(made.status).toBe(201);
    const { lot: dried } = await view(made.id);
    expect(dried.pricePerKg * 14 + dried.freight).toBeCloseTo(left, 6);
    expect(dried.pricePerKg * 14).toBeCloseTo(3 * dried.freight, 6);
    expect((await view(lot.id)).lot.remainingMg).toBe(0);
    await even();
    await share('mass');
  });

  test('the hands at it are paid by both, and are not lost in drying', async () => {
    const lot = await wetLot('JC', { pricePerKg: 0 });
    await drain(lot.parcelId, 4, { handsOnMinutes: 60 });
    const { labourRate } = (await get<{ workshop: { labourRate: number } }>('/api/session')).workshop;
    const made = await dry(lot.id, 'JCD', 14);
    expect((await view(made.id)).lot.pricePerKg * 14).toBeCloseTo(0.9 * labourRate, 6);
  });

  test('a price put right afterwards is carried on, and a price of the maker’s own is left alone', async () => {
    const lot = await wetLot('JH', { freight: 4000, name: 'Ridge' });
    const { rest } = await drain(lot.parcelId, 4, { handsOnMinutes: 60 });
    const made = await dry(lot.id, 'JHD', 14);
    const all = async () => (({ lot: l }) => l.pricePerKg * 14 + l.freight)(await view(made.id));
    const { labourRate } = (await get<{ workshop: { labourRate: number } }>('/api/session')).workshop;
    expect(await all()).toBeCloseTo(0.9 * (16_000 + labourRate), 6);
    const change = async (id: string, part: object) => {
      const { lot: now } = await view(id);
      const facts = { ...LotUpdate.parse(now), ...part };
      return shop.send('PUT', `/api/lots/${id}/facts`, facts, { 'if-match': `"${now.version}"` });
    };
    expect((await change(lot.id, { pricePerKg: 500, place: 'cellar', name: 'Ridge, upper' })).status).toBe(
      201,
    );
    expect(await all()).toBeCloseTo(0.9 * (24_000 + labourRate), 6);
    expect((await change(lot.id, { freight: 0 })).status).toBe(201);
    expect(await all()).toBeCloseTo(0.9 * (20_000 + labourRate), 6);
    expect((await view(made.id)).lot.freight).toBe(0);
    // What goes on fermenting lies where its lot does, under its name; the juice lies where it was put.
    const [row] = await shop.store.db.select().from(parcelTable).where(eq(parcelTable.id, rest.parcelId));
    expect(row).toMatchObject({ place: 'cellar', label: 'Ridge, upper' });
    await change(made.id, { pricePerKg: 1234 });
    expect((await change(lot.id, { pricePerKg: 100 })).status).toBe(201);
    expect((await view(made.id)).lot.pricePerKg).toBe(1234);
  });

  test('that a lot cost nothing is carried on to what was dried of it', async () => {
    const lot = await wetLot('JK', { pricePerKg: 0, isFree: true });
    const made = await dry(lot.id, 'JKD', 14);
    expect((await view(made.id)).lot).toMatchObject({ pricePerKg: 0, isFree: true });
    const { lot: now } = await view(lot.id);
    const told = await shop.send(
      'PUT',
      `/api/lots/${lot.id}/facts`,
      { ...LotUpdate.parse(now), isFree: false, pricePerKg: 350 },
      { 'if-match': `"${now.version}"` },
    );
    expect(told.status).toBe(201);
    expect((await view(made.id)).lot).toMatchObject({ isFree: false, pricePerKg: (350 * 40) / 14 });
  });

  test('pods that were opened share as the beans in them', async () => {
    const lot = await wetLot('JD', { material: 'pods' });
    await share('value', { juice: 900, 'wet beans': 200 });
    await drain(lot.parcelId, 1);
    expect(await onHand(lot.id)).toEqual([
      ['juice', 1, 'box', Math.round((12_000 * 9) / (9 + 78))],
      ['pods', 39, 'box', Math.round((12_000 * 78) / (9 + 78))],
    ]);
    await share('mass');
  });

  test('it drains from fresh beans alone, from none that are set aside, and is put into nothing', async () => {
    const dryLot = await maker.lot('JE', 5);
    expect(await drain(dryLot.parcelId, 1)).toMatchObject({ status: 422, body: { code: 'may-not-enter' } });
    expect((await drain(v7(), 1)).status).toBe(404);
    const lot = await wetLot('JF');
    await shop.send('PUT', `/api/parcel-holds/${v7()}`, {
      parcelIds: [lot.parcelId],
      onHold: true,
      reason: 'smells of ham',
    });
    expect(await drain(lot.parcelId, 1)).toMatchObject({ status: 409, body: { code: 'set-aside' } });
    const { juice } = await drain((await wetLot('JG')).parcelId, 4);
    const batch = await maker.batch('JE-01', dryLot.id);
    const roast = await maker.step(batch, 'roast');
    const taken = await shop.send('PUT', `/api/movements/${v7()}`, {
      stepId: roast,
      direction: 'in',
      massMg: kg(1),
      parcelId: juice.parcelId,
    });
    expect(taken).toMatchObject({ status: 422, body: { code: 'may-not-enter' } });
    await even();
  });
});
