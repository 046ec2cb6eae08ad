import { v7 } from 'uuid';
import type { BatchView } from '@wunsch/contract';
import { USUAL_DATABASE, kg, Maker, openWorkshop, type TestWorkshop } from '../testing/workshop.ts';

describe.each(USUAL_DATABASE)('weighings carry how sure the scale is, on %s', (kind) => {
  let shop: TestWorkshop;
  let maker: Maker;
  beforeAll(async () => {
    shop = await openWorkshop(kind);
    maker = new Maker(shop);
  });
  afterAll(() => shop.close());

  const scale = (id: string, facts: object, version = 0) =>
    shop.send(
      'PUT',
      `/api/machines/${id}`,
      { name: 'Scale', station: 'sort', kind: 'scale', ...facts },
      version > 0 ? { 'if-match': `"${version}"` } : {},
    );

  test('the finest that carries it; none before one is known, none for a guess, and what was said counts', async () => {
    const lot = await maker.lot('SC', 20);
    const batchId = await maker.batch('SC-01', lot.id);
    const sort = await maker.step(batchId, 'sort');
    const us = async () => {
      const view = (await shop.send('GET', `/api/batches/${batchId}`)).body as BatchView;
      return view.movements.filter((m) => m.stepId === sort).map((m) => m.uMg);
    };
    const put = (body: object) => shop.send('PUT', `/api/movements/${v7()}`, { stepId: sort, ...body });
    await maker.take(sort, lot.parcelId, 12);
    const fine = v7();
    await scale(fine, { uMg: 29, maxMg: kg(2) });
    await scale(v7(), { uMg: 600, maxMg: kg(60) });
    await maker.take(sort, lot.parcelId, 3);
    const reject = (more: object) => put({ direction: 'loss', reason: 'trim', massMg: kg(0.02), ...more });
    await reject({});
    await reject({ source: 'estimated' });
    await reject({ uMg: 5000 });
    await scale(fine, { uMg: 29, maxMg: kg(2), active: false }, 1);
    await reject({});
    expect(await us()).toEqual([null, 600, 29, null, 5000, 600]);
  });
});
