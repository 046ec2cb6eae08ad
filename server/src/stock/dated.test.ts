import { v7 } from 'uuid';
import { KEEPS_SHORTLY_DAYS, type DatedStock } from '@wunsch/contract';
import { USUAL_DATABASE, kg, Maker, openWorkshop, type TestWorkshop } from '../testing/workshop.ts';

/** A day so many days from today, `2026-12-24`; a test that runs over midnight may be told of the day before. */
const day = (days: number) => new Date(Date.now() + days * 86_400_000).toISOString().slice(0, 10);
const NOTHING = { bars: 0, deliveries: 0, fillings: 0, names: [] };

describe.each(USUAL_DATABASE)('what keeps no longer, on %s', (kind) => {
  let shop: TestWorkshop;
  let maker: Maker;
  beforeAll(async () => {
    shop = await openWorkshop(kind);
    maker = new Maker(shop);
    await shop.send('PUT', `/api/work-hours/${v7()}`, {
      timeZone: 'UTC',
      week: [[], [], [], [], [], [], []],
    });
  });
  afterAll(() => shop.close());

  const told = async () => (await shop.send('GET', '/api/stock-dated')).body as DatedStock;
  const done = async (path: string, body: object) =>
    expect((await shop.send('PUT', `/api/${path}/${v7()}`, body)).status).toBe(201);

  /** Bars of a bought chocolate, best before so many days from now. */
  async function bars(code: string, count: number, days: number) {
    const lot = await maker.lot(code, 20, { material: 'chocolate' });
    const step = await maker.step(await maker.batch(`${code}-01`, lot.id), 'mould', {
      details: { bestBefore: day(days) },
    });
    await maker.take(step, lot.parcelId, count * 0.05 + 0.1);
    const { parcelId } = await maker.make(step, 'bars', count * 0.05, { count });
    await maker.close(step, 'hold-up');
    return parcelId;
  }

  test('an empty shelf has nothing; the day it is best before is its last good one', async () => {
    expect(await told()).toEqual({ past: NOTHING, shortly: NOTHING });
    await bars('TODAY', 10, 0);
    await bars('LONG', 40, KEEPS_SHORTLY_DAYS + 1);
    expect(await told()).toEqual({
      past: NOTHING,
      shortly: { bars: 10, deliveries: 0, fillings: 0, names: ['TODAY lot'] },
    });
  });

  test('bars and deliveries count, those that keep shortest named first, until they are gone or set aside', async () => {
    const old = await bars('OLD', 24, -3);
    await bars('OLDER', 6, -40);
    const [milk] = (
      (await shop.send('GET', '/api/ingredients')).body as { id: string; key: string; name: string }[]
    ).filter((i) => i.key === 'whole-milk-powder');
    const supply = { parcelId: v7(), stepId: v7(), movementId: v7() };
    await done('supplies', {
      ingredientId: milk!.id,
      name: milk!.name,
      massMg: kg(5),
      pricePerKg: 600,
      receivedOn: day(-100),
      bestBefore: day(-10),
      ...supply,
    });
    expect((await told()).past).toEqual({
      bars: 30,
      deliveries: 1,
      fillings: 0,
      names: ['OLDER lot', milk!.name, 'OLD lot'],
    });
    await done('parcel-holds', { parcelIds: [supply.parcelId], onHold: true, reason: 'too old' });
    await done('leaves', { parcelId: old, count: 20, destination: 'sample', takenId: v7(), lossId: v7() });
    expect((await told()).past).toMatchObject({ bars: 10, deliveries: 0 });
  });
});
