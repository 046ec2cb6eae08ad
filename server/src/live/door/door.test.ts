import { eq } from 'drizzle-orm';
import { v7 } from 'uuid';
import type { SeriesRecord } from '@wunsch/contract';
import { readings } from '../../db/schema/index.ts';
import { USUAL_DATABASE, Maker, openWorkshop, type TestWorkshop } from '../../testing/workshop.ts';

describe.each(USUAL_DATABASE)('doors for boards on %s', (kind) => {
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
    roast = await maker.step(batch, 'roast', { machineId: oven, startedAt: '2026-10-02T07:59:00Z' });
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
    // An oven's token opens no scale's door, nor does that of a machine that is at work no more.
    expect((await post({ grams: 2452.5 }, '/api/door/weights')).body).toMatchObject({ code: 'not-a-scale' });
    const scale = v7();
    const facts = { name: 'Scale', station: 'mould', kind: 'scale' };
    await shop.send('PUT', `/api/machines/${scale}`, facts);
    const other = (await shop.send('POST', `/api/machines/${scale}/token`)).body.token;
    expect((await post({ grams: 2452.5 }, '/api/door/weights', other)).status).toBe(202);
    expect(await shown).toMatchObject({ name: 'Scale', massMg: 2_452_500, stable: true });
  });

  test('a sensor in a draught does not fill the book: five changes in five minutes are enough', async () => {
    const said: unknown[] = [];
    for (let k = 0; k < 12; k += 1)
      said.push((await post({ celsius: 20, humidity: k % 2 ? 45 : 65 }, '/api/door/room')).body.kept);
    const kept = said.filter(Boolean).length;
    expect(kept).toBeGreaterThanOrEqual(2);
    expect(kept).toBeLessThanOrEqual(5);
    expect(said.slice(5)).toEqual(said.slice(5).map(() => false));
  });

  test('a board whose clock is wrong spoils nothing: its readings are put aside, and the batch tells of it once', async () => {
    const lot = await maker.lot('CLK', 5);
    const batch = await maker.batch('CLK-1', lot.id);
    const step = await maker.step(batch, 'roast', { machineId: oven });
    await maker.take(step, lot.parcelId, 2);
    const start = Date.now();
    const good = Array.from({ length: 20 }, (_, i) => ({
      at: new Date(start + i * 1000).toISOString(),
      celsius: 100 + i,
    }));
    expect((await post({ readings: good })).body).toMatchObject({ accepted: 20 });
    for (const at of ['1970-01-01T00:02:00Z', '2035-01-01T00:00:00Z'])
      expect((await post({ readings: [{ at, celsius: 99 }, { celsius: 130 }] })).body).toMatchObject({
        accepted: 1,
        putAside: 1,
        warning: expect.stringContaining('clock of the board is wrong'),
      });
    // Years no store can hold are refused before anything is kept.
    for (const at of ['0000-01-01T00:00:00Z', '-200000-01-01T00:00:00Z', '+275760-01-01T00:00:00Z'])
      expect((await post({ at, celsius: 99 })).status).toBe(422);
    expect((await post({ celsius: 99, probe: 'a\u0000b' })).status).toBe(422);
    const mine = (await shop.send('GET', `/api/steps/${step}/series?width=5000`)).body as SeriesRecord[];
    expect(mine).toHaveLength(1);
    expect(mine[0]!.count).toBe(22);
    expect(mine[0]!.points.map(([, c]) => c).filter((c) => c !== 130)).toEqual(good.map((g) => g.celsius));
    const view = (await shop.send('GET', `/api/batches/${batch}`)).body;
    const told = view.observations.filter((o: { data: { name?: string } }) => o.data.name === 'board-clock');
    expect(told).toHaveLength(1);
    // And the workshop goes on taking entries.
    await maker.note(step, { kind: 'note', text: 'all well' });
    await maker.make(step, 'roasted beans', 1.9);
    await maker.close(step, 'moisture');
  });

  test('tens of thousands of lines at once are read in one go, more are refused', async () => {
    const lot = await maker.lot('LNS', 5);
    const batch = await maker.batch('LNS-1', lot.id);
    const step = await maker.step(batch, 'roast', { machineId: oven });
    await maker.take(step, lot.parcelId, 2);
    const from = Date.now() - 20_000_000;
    const lines = Array.from(
      { length: 20_000 },
      (_, i) => `${new Date(from + i * 1000).toISOString()},${20 + (i % 100)}`,
    );
    expect((await post(`${lines.join('\n')}\n`)).body).toMatchObject({ accepted: 20_000 });
    expect((await post(',20\n'.repeat(40_000))).body).toMatchObject({ status: 413, code: 'too-many-lines' });
    const [mine] = (await shop.send('GET', `/api/steps/${step}/series?width=100`)).body as SeriesRecord[];
    expect(mine!.count).toBe(20_000);
    await shop.send('PUT', `/api/steps/${step}/void`, {});
  });

  test('a machine that is at work no more has no say, but for what is still in it', async () => {
    const old = v7();
    await shop.send('PUT', `/api/machines/${old}`, { name: 'Old', station: 'roast' });
    const lot = await maker.lot('OLD', 4);
    const load = await maker.step(await maker.batch('OLD-1', lot.id), 'roast', { machineId: old });
    const its = (await shop.send('POST', `/api/machines/${old}/token`)).body.token;
    const version = (await shop.send('GET', `/api/machines/${old}`)).body.machine.version;
    await shop.send(
      'PUT',
      `/api/machines/${old}`,
      { name: 'Old', station: 'roast', active: false },
      { 'if-match': `"${version}"` },
    );
    expect(await post({ celsius: 20 }, undefined, its)).toMatchObject({
      status: 202,
      body: { stepId: load },
    });
    await shop.send('PUT', `/api/steps/${load}/void`, {});
    expect(await post({ celsius: 20 }, undefined, its)).toMatchObject({ status: 401 });
  });

  test('the roast list carries plan, hands, masses and series', async () => {
    const [first] = (await shop.send('GET', `/api/roasts?machineId=${oven}`)).body.filter(
      (r: { batchCode: string }) => r.batchCode === 'DR-1',
    );
    expect(first).toMatchObject({ batchCode: 'DR-1', inMg: 2_000_000, tastings: 0, liking: null });
    expect(first.outMg).toBe(1_880_000);
    expect(first.series.length).toBeGreaterThan(3);
  });
});
