import { v7 } from 'uuid';
import type { BatchSpending, BatchView, WinnowRecord } from '@wunsch/contract';
import {
  USUAL_DATABASE,
  kg,
  Maker,
  openWorkshop,
  signIn,
  type TestWorkshop,
} from '../../testing/workshop.ts';

describe.each(USUAL_DATABASE)('winnowing on %s', (kind) => {
  let shop: TestWorkshop;
  let maker: Maker;
  beforeAll(async () => {
    shop = await openWorkshop(kind);
    maker = new Maker(shop);
  });
  afterAll(() => shop.close());

  const view = async (id: string): Promise<BatchView> => (await shop.send('GET', `/api/batches/${id}`)).body;

  async function winnowed(code: string) {
    const lot = await maker.lot(code, 10, { material: 'roasted beans' });
    const batch = await maker.batch(`${code}-1`, lot.id);
    const step = await maker.step(batch, 'winnow', { details: { setting: 'gate 2,5', passes: 1 } });
    await maker.take(step, lot.parcelId, null);
    return { lot, batch, step };
  }

  test('samples carry the setting and the passes before them', async () => {
    const { step } = await winnowed('WI');
    const picked = (of: string, found: number, sample: number) =>
      maker.note(step, { kind: 'picked', of, foundMg: found * 1000, sampleMg: sample * 1000 });
    await picked('husk', 4, 200);
    await maker.note(step, { kind: 'pass', setting: 3.5, minutes: 20 });
    await maker.note(step, { kind: 'pass', setting: null, minutes: 15 });
    await picked('nib', 3, 100);
    const records: WinnowRecord[] = (await shop.send('GET', '/api/winnowings')).body;
    const record = records.find((r) => r.stepId === step)!;
    expect(record.inMg).toBe(kg(10));
    expect(record.passes.map((p) => p.setting)).toEqual([3.5, 3.5]);
    // Before the first pass the setting written on the step counts, decimal comma and all.
    expect(record.picked[0]).toMatchObject({ of: 'husk', setting: 2.5, passes: 1 });
    expect(record.picked[1]).toMatchObject({
      of: 'nib',
      foundMg: 3000,
      sampleMg: 100_000,
      setting: 3.5,
      passes: 2,
    });
  });

  test('husk leaves with a destination and a price; the line’s balance stays as it was, and undo brings it back', async () => {
    const { batch, step } = await winnowed('HU');
    await maker.make(step, 'nibs', 8.4);
    await maker.make(step, 'husk', 1.5);
    await maker.close(step, 'dust');
    const before = await view(batch);
    const husk = before.parcels.find((p) => p.material === 'husk')!;
    const leave = { parcelId: husk.id, destination: 'tea', fetched: 450, takenId: v7(), lossId: v7() };
    const id = v7();
    const gone = await shop.send('PUT', `/api/leaves/${id}`, leave);
    expect(gone.status).toBe(201);
    const after = await view(batch);
    expect(after.parcels.find((p) => p.id === husk.id)!.remainingMg).toBe(0);
    expect(after.flow).toEqual(before.flow);
    const cost = (await shop.send('GET', `/api/batches/${batch}/cost`)).body as BatchSpending;
    expect(cost.spent.credit).toBe(-450);
    expect((await shop.send('PUT', `/api/leaves/${id}`, leave)).body.repeated).toBe(true);
    const empty = await shop.send('PUT', `/api/leaves/${v7()}`, { ...leave, takenId: v7(), lossId: v7() });
    expect(empty).toMatchObject({ status: 409, body: { code: 'oversubscribed' } });
    await shop.send('PUT', `/api/undos/${v7()}`, { seq: gone.body.seq });
    expect((await view(batch)).parcels.find((p) => p.id === husk.id)!.remainingMg).toBe(kg(1.5));
  });

  test('no more leaves than there is, and whoever only looks sends nothing away', async () => {
    const lot = await maker.lot('SA', 3);
    const body = { parcelId: lot.parcelId, massMg: kg(4), destination: 'sold', takenId: v7(), lossId: v7() };
    expect(await shop.send('PUT', `/api/leaves/${v7()}`, body)).toMatchObject({
      status: 409,
      body: { code: 'oversubscribed' },
    });
    const cookie = await signIn(shop, 'Vi', 'another password');
    expect(
      (await shop.send('PUT', `/api/leaves/${v7()}`, { ...body, massMg: kg(1) }, { cookie })).status,
    ).toBe(403);
    // Sold out of the sack, without any batch.
    expect((await shop.send('PUT', `/api/leaves/${v7()}`, { ...body, massMg: kg(1) })).status).toBe(201);
    const stock = (await shop.send('GET', '/api/stock')).body as { id: string; remainingMg: number }[];
    expect(stock.find((p) => p.id === lot.parcelId)!.remainingMg).toBe(kg(2));
  });
});
