import { openWorkshop, signIn, type TestWorkshop } from '../testing/workshop.ts';
import { openMemory } from '../store/memory.ts';

let shop: TestWorkshop;
beforeAll(async () => {
  shop = await openWorkshop('embedded');
});
afterAll(() => shop.close());

const as = (cookie: string) => ({ cookie });
const begin = async (cookie = shop.cookie, speed = 60) =>
  shop.send('POST', '/api/practices', { speed }, as(cookie));
const pause = (ms: number) => new Promise((r) => setTimeout(r, ms));

test('a practice is a workshop of its own: the same routes, another book, and a clock sped up', async () => {
  const before = (await shop.send('GET', '/api/trail?limit=5')).body;
  const { status, body } = await begin();
  expect(status).toBe(201);
  const inside = `/practice/${body.id}`;
  const batchId = body.path.split('/').at(-1);
  const view = async () => (await shop.send('GET', `${inside}/api/batches/${batchId}`)).body;
  const first = await view();
  expect(first.batch.code).toBe('PR-01');
  expect(first.steps.map((s: { kind: string; status: string }) => [s.kind, s.status])).toEqual([
    ['roast', 'open'],
  ]);
  await pause(1500);
  const later = await view();
  const bean = (v: typeof first) => v.series.find((s: { place: string }) => s.place === 'bean');
  // A minute and more of roast in a second and a half: beans have been warming, and both thermometers read.
  expect(bean(later).count).toBeGreaterThan((bean(first)?.count ?? 0) + 8);
  expect(bean(later).points.at(-1)[1]).toBeGreaterThan(bean(later).points[0][1] + 5);
  expect(later.series.map((s: { place: string }) => s.place).sort()).toEqual(['bean', 'oven']);
  // Nothing of it is in the workshop itself.
  expect((await shop.send('GET', '/api/trail?limit=5')).body).toEqual(before);
  expect((await shop.send('GET', `/api/batches/${batchId}`)).status).toBe(404);
  expect((await shop.send('GET', '/api/stock')).body).toEqual([]);
  expect((await shop.send('DELETE', `/api/practices/${body.id}`)).status).toBe(204);
  expect((await shop.send('GET', `${inside}/api/batches/${batchId}`)).body).toMatchObject({
    status: 404,
    code: 'no-practice',
  });
});

test('what the learner does changes the roast: another setting is followed by the oven', async () => {
  const { body } = await begin(shop.cookie, 120);
  const inside = `/practice/${body.id}`;
  const batchId = body.path.split('/').at(-1);
  const view = async () => (await shop.send('GET', `${inside}/api/batches/${batchId}`)).body;
  const [roast] = (await view()).steps;
  const { v7 } = await import('uuid');
  const set = await shop.send('PUT', `${inside}/api/observations/${v7()}`, {
    stepId: roast.id,
    data: { kind: 'event', name: 'set', value: 60, note: '' },
  });
  expect(set.status).toBe(201);
  await pause(5000);
  const oven = (await view()).series.find((s: { place: string }) => s.place === 'oven');
  expect(oven.points.at(-1)[1]).toBeLessThan(85);
});

test('it is for the one who began it, and for nobody who is not signed in', async () => {
  const { body } = await begin();
  const url = `/practice/${body.id}/api/stock`;
  expect((await shop.send('GET', url)).status).toBe(200);
  expect((await shop.send('GET', url, undefined, as(''))).status).toBe(401);
  const tam = await signIn(shop, 'Tam', 'third password');
  expect((await shop.send('GET', url, undefined, as(tam))).body.code).toBe('no-practice');
  // Nor can somebody else end it, and a signed-out stranger’s spelling gets no further.
  await shop.send('DELETE', `/api/practices/${body.id}`, undefined, as(tam));
  expect((await shop.send('GET', url)).status).toBe(200);
  expect((await shop.send('GET', url.replace('/api/', '/%61pi/'), undefined, as(''))).status).toBe(404);
  // Beginning anew closes the one before.
  const again = await begin();
  expect((await shop.send('GET', url)).status).toBe(404);
  await shop.send('DELETE', `/api/practices/${again.body.id}`);
});

test('signing out from within a practice signs out of the workshop people belong to', async () => {
  const vi = await signIn(shop, 'Vi', 'another password');
  const { body } = await begin(vi);
  expect((await shop.send('DELETE', `/practice/${body.id}/api/session`, undefined, as(vi))).status).toBe(204);
  expect((await shop.send('GET', '/api/bench', undefined, as(vi))).status).toBe(401);
  expect((await shop.send('POST', '/api/practices', { speed: 1e6 })).status).toBe(422);
});

test('a store in memory goes by its own clock, and refuses one that stands', async () => {
  const startsAt = Date.parse('2026-11-02T08:00:00Z');
  const store = await openMemory({ startsAt, speed: 1000 });
  await pause(200);
  expect(store.now() - startsAt).toBeGreaterThan(150_000);
  expect(store.kind).toBe('memory');
  await store.close();
  for (const speed of [0, -1, Number.NaN, Infinity])
    await expect(openMemory({ startsAt, speed })).rejects.toThrow(/above 0/);
});
