import { v7 } from 'uuid';
import { DATABASES, kg, Maker, openWorkshop, signIn, type TestWorkshop } from '../testing/workshop.ts';

describe.each(DATABASES)('answers that are kept on %s', (kind) => {
  let shop: TestWorkshop;
  let maker: Maker;
  beforeAll(async () => {
    shop = await openWorkshop(kind);
    maker = new Maker(shop);
  });
  afterAll(() => shop.close());

  const ask = (url: string, headers: Record<string, string> = {}) =>
    shop.app.inject({ url, headers: { host: 'localhost:4310', cookie: shop.cookie, ...headers } });

  test('a page that has an answer is not sent it again; once it has changed it is', async () => {
    const lot = await maker.lot('ETG', 20);
    const first = await ask('/api/stock');
    const etag = String(first.headers.etag);
    expect(etag).toMatch(/^"[\w-]{20,}"$/);
    expect(first.headers['cache-control']).toBe('private, no-cache');
    const again = await ask('/api/stock', { 'if-none-match': etag });
    expect([again.statusCode, again.body]).toEqual([304, '']);
    const batch = await maker.batch('ETG-1', lot.id);
    const roast = await maker.step(batch, 'roast');
    await maker.take(roast, lot.parcelId, 3);
    const changed = await ask('/api/stock', { 'if-none-match': etag });
    expect(changed.statusCode).toBe(200);
    expect(changed.json()[0].remainingMg).toBe(kg(17));
    expect(changed.headers.etag).not.toBe(etag);
  });

  test('whoever has entered something reads it at once, on every page it shows on', async () => {
    const lot = await maker.lot('RYW', 50);
    for (let i = 1; i <= 12; i += 1) {
      await ask('/api/bench');
      await ask('/api/batches');
      const batch = await maker.batch(`RYW-${i}`, lot.id);
      const step = await maker.step(batch, 'roast');
      expect((await ask('/api/batches')).json()[0].code).toBe(`RYW-${i}`);
      expect((await ask(`/api/batches/${batch}`)).json().steps).toHaveLength(1);
      await maker.take(step, lot.parcelId, 1);
      const stock = (await ask('/api/stock')).json() as { lotCode: string; remainingMg: number }[];
      expect(stock.find((p) => p.lotCode === 'RYW')!.remainingMg).toBe(kg(50 - i));
    }
  });

  test('many who ask at once are all answered alike; one that is refused keeps nobody waiting', async () => {
    // News of what was entered before may still be on its way from the database.
    await new Promise((r) => setTimeout(r, 300));
    const answers = await Promise.all(Array.from({ length: 30 }, () => ask('/api/bench')));
    expect(new Set(answers.map((a) => a.body)).size).toBe(1);
    expect(answers.every((a) => a.statusCode === 200)).toBe(true);
    const missing = await Promise.all(Array.from({ length: 5 }, () => ask(`/api/batches/${v7()}`)));
    expect(missing.map((a) => a.statusCode)).toEqual([404, 404, 404, 404, 404]);
    const same = v7();
    const twice = await Promise.all([ask(`/api/batches/${same}`), ask(`/api/batches/${same}`)]);
    expect(twice.map((a) => a.statusCode)).toEqual([404, 404]);
  });

  test('a change while many wait makes one answer anew, not as many as wait', async () => {
    const lot = await maker.lot('SPO', 10);
    for (let i = 0; i < 4; i += 1) {
      const asked = Array.from({ length: 20 }, () => ask('/api/bench'));
      const batch = maker.batch(`SPO-${i}`, lot.id);
      const bodies = new Set((await Promise.all(asked)).map((a) => a.body));
      await batch;
      // At most one from before, one that was spoilt and belongs to who made it, and one from after, and the notice's.
      expect(bodies.size).toBeLessThanOrEqual(4);
    }
  });

  test('what is kept is told to nobody who is not signed in, nor to one who was', async () => {
    await ask('/api/people');
    expect((await ask('/api/people', { cookie: '' })).statusCode).toBe(401);
    const vi = await signIn(shop, 'Vi', 'another password');
    expect((await ask('/api/people', { cookie: vi })).statusCode).toBe(200);
    const who = (await ask('/api/people')).json().find((p: { name: string }) => p.name === 'Vi');
    const gone = await shop.send(
      'PUT',
      `/api/people/${who.id}`,
      { name: 'Vi', initials: 'VI', role: 'viewer', active: false },
      { 'if-match': `"${who.version}"` },
    );
    expect(gone.status).toBe(201);
    expect((await ask('/api/people', { cookie: vi })).statusCode).toBe(401);
  });
});
