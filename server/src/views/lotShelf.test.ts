import { v7 } from 'uuid';
import type { BatchView, BenchView, Lot, LotView, PlanRoomView, StockItem } from '@wunsch/contract';
import { USUAL_DATABASE, kg, Maker, openWorkshop, type TestWorkshop } from '../testing/workshop.ts';

describe.each(USUAL_DATABASE)('what is left of a lot, on %s', (kind) => {
  let shop: TestWorkshop;
  let maker: Maker;
  beforeAll(async () => {
    shop = await openWorkshop(kind);
    maker = new Maker(shop);
  });
  afterAll(() => shop.close());

  const get = async <T>(url: string) => (await shop.send('GET', url)).body as T;
  const put = async (url: string, body: object) => {
    const { status, body: answer } = await shop.send('PUT', url, body);
    if (status !== 201) throw new Error(`${url}: ${JSON.stringify(answer)}`);
    return (answer as { seq: number }).seq;
  };

  test('is the same on every page, though some of it was moved, put together again, and used', async () => {
    const lot = await maker.lot('LS', 60);
    const batchId = await maker.batch('LS-01', lot.id);
    await maker.step(batchId, 'sort');
    const left = async () => {
      const stock = await get<StockItem[]>('/api/stock-items');
      const inStock = stock.filter((i) => i.lotId === lot.id && i.material === 'dry beans');
      const told = [
        inStock.reduce((sum, i) => sum + i.remainingMg, 0),
        (await get<Lot[]>('/api/lots')).find((l) => l.id === lot.id)!.remainingMg,
        (await get<LotView>(`/api/lots/${lot.id}`)).lot.remainingMg,
        (await get<BatchView>(`/api/batches/${batchId}`)).lot.remainingMg,
        (await get<PlanRoomView>('/api/plan')).lots.find((l) => l.id === lot.id)!.onHandMg,
      ].map((mg) => mg / 1e6);
      expect(new Set(told).size).toBe(1);
      return told[0];
    };
    const draws = async () => (await get<LotView>(`/api/lots/${lot.id}`)).draws.map((d) => d.massMg / 1e6);
    const inStore = async () =>
      (await get<BenchView>('/api/bench')).line.find((s) => s.station === 'beans')!.waiting;
    expect(await left()).toBe(60);
    const waiting = await inStore();

    const part = { stepId: v7(), takenId: v7(), madeId: v7(), parcelId: v7() };
    const moved = await put(`/api/moves/${v7()}`, {
      place: 'roastery',
      parcels: [{ parcelId: lot.parcelId, massMg: kg(20), part }],
    });
    expect(await left()).toBe(60);
    expect(await draws()).toEqual([]);

    // Both places are drawn from; what batches made of it is not the lot’s any more.
    const sort = await maker.step(batchId, 'sort');
    await maker.take(sort, part.parcelId, 5);
    await maker.take(sort, lot.parcelId, 3);
    await maker.make(sort, 'sorted beans', 7.8);
    expect(await left()).toBe(52);
    expect((await draws()).sort()).toEqual([3, 5]);

    const together = v7();
    await put(`/api/joinings/${v7()}`, {
      parcels: [part.parcelId, lot.parcelId].map((id) => ({ parcelId: id, takenId: v7() })),
      madeId: v7(),
      parcelId: together,
    });
    expect(await left()).toBe(52);
    expect(await inStore()).toBe(waiting);
    await maker.take(sort, together, 2);
    expect(await left()).toBe(50);
    expect((await draws()).sort()).toEqual([2, 3, 5]);
    expect((await shop.send('PUT', `/api/undos/${v7()}`, { seq: moved })).status).toBe(409);
  });
});
