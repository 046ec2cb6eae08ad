import { eq } from 'drizzle-orm';
import { v7 } from 'uuid';
import type { SeriesRecord } from '@wunsch/contract';
import { readings } from '../db/schema/index.ts';
import { DATABASES, Maker, openWorkshop, type TestWorkshop } from '../testing/workshop.ts';

describe.each(DATABASES)('doors for boards on %s', (kind) => {
  let shop: TestWorkshop;
  let maker: Maker;
  let token: string;
  let roast: string;
  const oven = v7();
  beforeAll(async () => {
    shop = await openWorkshop(kind);
    maker = new Maker(shop);
    await shop.send('PUT', `/api/machines/${oven}`, { name: 'Oven', station: 'roast', kind: 'fan oven' });
    token = (await shop.send('POST', `/api/machines/${oven}/token`)).body.token;
    expect(token).toBeTruthy();
  });
  afterAll(() => shop.close());

  const post = (body: unknown, path = '/api/door/readings', bearer = token) =>
    shop.send('POST', path, body, { authorization: `Bearer ${bearer}`, cookie: '' });
  const series = async (width = 5000): Promise<SeriesRecord[]> =>
    (await shop.send('GET', `/api/steps/${roast}/series?width=${width}`)).body;

  test('a wrong token, and an oven with nothing in it, are refused in words', async () => {
    expect(await post({ celsius: 20 }, undefined, 'nonsense')).toMatchObject({
      status: 401,
      body: { code: 'unknown-token' },
    });
    expect(await post({ celsius: 20 })).toMatchObject({ status: 409, body: { code: 'nothing-running' } });
  });

  test('JSON of one or many, °F, other probes, and lines all arrive', async () => {
    const lot = await maker.lot('DR', 20);
    const batch = await maker.batch('DR-1', lot.id);
    roast = await maker.step(batch, 'roast', { machineId: oven });
    await maker.take(roast, lot.parcelId, 2);
    const at = (s: number) => new Date(Date.parse('2026-10-02T08:00:00Z') + s * 1000).toISOString();
    expect((await post({ at: at(0), celsius: 22.5 })).status).toBe(202);
    expect(
      (
        await post({
          place: 'oven',
          readings: [
            { at: at(0), fahrenheit: 266 },
            { at: at(5), celsius: 131 },
          ],
        })
      ).body.accepted,
    ).toBe(2);
    expect((await post({ at: at(0), celsius: 60, place: 'oven', probe: 'tray 2' })).status).toBe(202);
    expect((await post(`${at(5)},24.1\n${at(10)},-3\n`)).status).toBe(202);
    expect((await post(`${at(15)},212\n`, '/api/door/readings?unit=F')).status).toBe(202);
    const all = await series();
    expect(all.map((s) => [s.place, s.probe, s.points])).toEqual(
      expect.arrayContaining([
        [
          'bean',
          '',
          [
            [0, 22.5],
            [5, 24.1],
            [10, -3],
            [15, 100],
          ],
        ],
        [
          'oven',
          '',
          [
            [0, 130],
            [5, 131],
          ],
        ],
        ['oven', 'tray 2', [[0, 60]]],
      ]),
    );
  });

  test('nonsense names the line or the field, and nothing of it is kept', async () => {
    expect(await post('2026-10-02T08:00:00Z,20\nbanana\n')).toMatchObject({
      status: 422,
      body: { code: 'bad-line', field: 'line 2' },
    });
    expect((await post({ celsius: 'hot' })).status).toBe(422);
    expect((await post({ celsius: 9000 })).status).toBe(422);
    expect((await series()).reduce((n, s) => n + s.count, 0)).toBe(7);
  });

  test('the batch page has them at once, and the CSV goes out and comes back the same', async () => {
    const csv = (
      await shop.app.inject({ url: `/api/steps/${roast}/readings.csv`, headers: { cookie: shop.cookie } })
    ).body;
    expect(csv.split('\r\n')[0]).toContain('bean (°C)');
    const again = await maker.step((await shop.send('GET', '/api/batches?limit=1')).body[0].id, 'roast');
    const column = csv.split('\r\n')[0]!.split(',').indexOf('bean (°C)');
    const taken = await shop.send(
      'PUT',
      `/api/readings/${v7()}/csv?stepId=${again}&timeColumn=0&valueColumn=${column}`,
      csv,
    );
    expect(taken).toMatchObject({ status: 201, body: { count: 4, refused: [] } });
    const back = (await shop.send('GET', `/api/steps/${again}/series`)).body as SeriesRecord[];
    expect(back[0]!.points).toEqual((await series()).find((s) => s.place === 'bean')!.points);
  });

  test('many readings of many probes are all there, and closing the step joins them', async () => {
    const start = Date.parse('2026-10-02T08:01:00Z');
    const posts = Array.from({ length: 200 }, (_, i) =>
      post({ at: new Date(start + i * 200).toISOString(), celsius: 30 + i / 10, probe: `p${i % 20}` }),
    );
    for (const answer of await Promise.all(posts)) expect(answer.status).toBe(202);
    const many = (await series()).filter((s) => s.probe.startsWith('p'));
    expect(many).toHaveLength(20);
    expect(many.every((s) => s.count === 10)).toBe(true);
    await maker.make(roast, 'roasted beans', 1.88);
    await maker.close(roast, 'moisture');
    const rows = await shop.store.db.select().from(readings).where(eq(readings.stepId, roast));
    expect(new Set(rows.map((r) => `${r.place} ${r.probe}`)).size).toBe(rows.length);
    expect((await series()).filter((s) => s.probe.startsWith('p')).every((s) => s.count === 10)).toBe(true);
    expect(await post({ celsius: 20 })).toMatchObject({ status: 409 });
  });

  test('a room sensor is kept when the room has changed; a scale is only shown', async () => {
    expect((await post({ celsius: 20, humidity: 55 }, '/api/door/room')).body).toEqual({ kept: true });
    expect((await post({ celsius: 20.2, humidity: 55 }, '/api/door/room')).body).toEqual({ kept: false });
    expect((await post({ celsius: 20.2, humidity: 62 }, '/api/door/room')).body).toEqual({ kept: true });
    const shown = new Promise((resolve) => shop.store.bus.onWeight(resolve));
    expect((await post({ grams: 2452.5 }, '/api/door/weights')).status).toBe(202);
    expect(await shown).toMatchObject({ name: 'Oven', massMg: 2_452_500, stable: true });
  });

  test('the roast list carries plan, hands, masses and series', async () => {
    const [first] = (await shop.send('GET', `/api/roasts?machineId=${oven}`)).body;
    expect(first).toMatchObject({ batchCode: 'DR-1', inMg: 2_000_000, tastings: 0, liking: null });
    expect(first.outMg).toBe(1_880_000);
    expect(first.series.length).toBeGreaterThan(3);
  });
});
