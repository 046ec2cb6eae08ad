import { v7 } from 'uuid';
import type { BatchView } from '@wunsch/contract';
import { Maker, openWorkshop, type TestWorkshop } from '../testing/workshop.ts';

let shop: TestWorkshop;
let maker: Maker;
beforeAll(async () => {
  shop = await openWorkshop();
  maker = new Maker(shop);
});
afterAll(() => shop.close());

const put = (path: string, body: object, ago?: string) =>
  shop.send('PUT', path, body, ago === undefined ? {} : { 'made-ago': ago });

test('what was made without a network stands where it was made, and the same sent again is the same', async () => {
  const lot = await maker.lot('AGO', 5);
  const batchId = await maker.batch('AGO-1', lot.id);
  const stepId = v7();
  const now = Date.now();
  const began = { batchId, station: 'roast', details: { byHand: true } };
  expect((await put(`/api/steps/${stepId}`, began, '1800')).status).toBe(201);
  const stirred = v7();
  const note = { batchId, stepId, data: { kind: 'event', name: 'stirred', note: '', value: null } };
  expect((await put(`/api/observations/${stirred}`, note, '1200.5')).status).toBe(201);
  // Its answer was lost on the way: sent again, later, it is still the one.
  expect((await put(`/api/observations/${stirred}`, note, '1260')).body).toMatchObject({ repeated: true });
  const view = (await shop.send('GET', `/api/batches/${batchId}`)).body as BatchView;
  const ago = (at: string) => (now - Date.parse(at)) / 1000;
  expect(ago(view.steps.find((s) => s.id === stepId)!.startedAt)).toBeCloseTo(1800, -1);
  expect(ago(view.observations.find((o) => o.id === stirred)!.at)).toBeCloseTo(1200, -1);
  // Who names a time themselves is believed.
  const noted = v7();
  const at = new Date(now - 60_000).toISOString();
  await put(`/api/observations/${noted}`, { ...note, at }, '900');
  const again = (await shop.send('GET', `/api/batches/${batchId}`)).body as BatchView;
  expect(again.observations.find((o) => o.id === noted)!.at).toBe(at);
});

test.each(['-5', 'soon', '1e400', '99999999999', ''])(
  'an age of "%s" is refused, and nothing is entered',
  async (ago) => {
    const id = v7();
    const { status, body } = await put(
      `/api/moulds/${id}`,
      { name: 'Bar', makes: 'bars', cavities: 5, fillMg: 60_000, count: 3 },
      ago,
    );
    expect([status, (body as { field: string }).field]).toEqual([400, 'made-ago']);
    expect((body as { detail: string }).detail).toMatch(/how many seconds ago/);
  },
);
