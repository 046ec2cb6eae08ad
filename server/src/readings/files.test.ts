import { eq, sql } from 'drizzle-orm';
import { v7 } from 'uuid';
import { readings } from '../db/schema/index.ts';
import { USUAL_DATABASE, Maker, openWorkshop, type TestWorkshop } from '../testing/workshop.ts';
import { stepCsv } from './exportCsv.ts';

const BEGAN = '2026-10-05T06:00:00.000Z';

describe.each(USUAL_DATABASE)('files of readings on %s', (kind) => {
  let shop: TestWorkshop;
  let maker: Maker;
  let batch: string;
  beforeAll(async () => {
    shop = await openWorkshop(kind);
    maker = new Maker(shop);
    const lot = await maker.lot('FIL', 40);
    batch = await maker.batch('FIL-1', lot.id);
  });
  afterAll(() => shop.close());

  const step = () => maker.step(batch, 'roast', { startedAt: BEGAN });
  const put = async (stepId: string, body: object) => {
    const answer = await shop.send('PUT', `/api/readings/${v7()}`, { stepId, place: 'bean', ...body });
    expect(answer.status).toBe(201);
  };
  const csvOf = async (stepId: string) => {
    const url = `/api/steps/${stepId}/readings.csv`;
    const answer = await shop.app.inject({ url, headers: { cookie: shop.cookie } });
    expect(answer.headers['content-type']).toBe('text/csv; charset=utf-8');
    return answer.body.trimEnd().split('\r\n');
  };

  test('a file’s clock is the workshop’s where it names no zone, and its day the step’s where it names none', async () => {
    const upload = async (text: string, more = '') => {
      const id = await step();
      const url = `/api/readings/${v7()}/csv?stepId=${id}${more}`;
      const headers = { cookie: shop.cookie, 'content-type': 'text/csv' };
      const answer = await shop.app.inject({ method: 'PUT', url, headers, body: text });
      expect([answer.statusCode, answer.json<{ unit?: string }>().unit]).toEqual([201, '°F']);
      return (await csvOf(id)).slice(1).map((line) => line.split(',')[0]);
    };
    const [first, second] = ['2026-10-05T06:10:00.000Z', '2026-10-05T06:11:00.000Z'];
    const berlin = '&timeZone=Europe/Berlin';
    const dated = 'Datum;Uhrzeit;Temp °F\n05.10.2026;08:10:00;77\n05.10.2026;08:11:00;79\n';
    expect(await upload(dated, berlin)).toEqual([first, second]);
    const hours = 'time,temp °F\n08:10:00,77\n08:11:00,79\n';
    expect(await upload(hours, berlin)).toEqual([first, second]);
    // Who says when it began is believed.
    expect(await upload(hours, `${berlin}&startedAt=${first}`)).toEqual([first, second]);
    expect(await upload('ms,temp °F\n0,77\n60000,79\n', `&startedAt=${first}`)).toEqual([first, second]);
  });

  test('every stored point of every probe comes out once, in order, the later delivery winning', async () => {
    const id = await step();
    const truth = new Map<number, Map<string, number>>();
    let seed = 7;
    const random = () => (seed = (seed * 16_807) % 2_147_483_647) / 2_147_483_647;
    // More deliveries than are fetched together, in no order, overlapping, some telling of the same moment anew.
    for (let k = 0; k < 130; k += 1) {
      const probe = k % 3 === 0 ? 'left' : '';
      const start = Math.floor(random() * 4000) - 200;
      const seconds = Array.from({ length: 12 }, () => Math.floor(random() * 300) - 20);
      const celsius = seconds.map(() => Math.round(random() * 2000) / 10);
      await put(id, {
        probe,
        startedAt: new Date(Date.parse(BEGAN) + start * 1000).toISOString(),
        seconds,
        celsius,
      });
      seconds.forEach((s, i) => {
        const row = truth.get(start + s) ?? new Map<string, number>();
        truth.set(start + s, row.set(probe ? 'bean left (°C)' : 'bean (°C)', celsius[i]!));
      });
    }
    const [head, ...lines] = await csvOf(id);
    const names = head!.split(',').slice(2);
    expect([...names].sort()).toEqual(['bean (°C)', 'bean left (°C)']);
    const wanted = [...truth]
      .sort((a, b) => a[0] - b[0])
      .map(([s, row]) =>
        [new Date(Date.parse(BEGAN) + s * 1000).toISOString(), s, ...names.map((n) => row.get(n) ?? '')].join(
          ',',
        ),
      );
    expect(lines).toEqual(wanted);
  });

  test('a step closed while its file is written out leaves no hole in it and no line twice', async () => {
    const id = await step();
    await maker.take(id, (await maker.lot(`FC${v7().slice(-4)}`, 5)).parcelId, 2);
    for (let k = 0; k < 140; k += 1)
      await put(id, {
        startedAt: new Date(Date.parse(BEGAN) + k * 30_000).toISOString(),
        seconds: Array.from({ length: 30 }, (_, i) => i),
        celsius: Array.from({ length: 30 }, (_, i) => 20 + k / 2 + i / 100),
      });
    // As a board would have sent them: those are joined when the step is closed.
    await shop.store.db.update(readings).set({ live: true }).where(eq(readings.stepId, id));
    const whole = await csvOf(id);
    expect(whole).toHaveLength(1 + 140 * 30);
    // Closed after the heading, and, of another taking, after the first lines.
    for (const after of [1, 2]) {
      const file = stepCsv(shop.store.db, id, BEGAN);
      let text = '';
      for (let i = 0; i < after; i += 1) text += (await file.next()).value as string;
      const deliveries = async () =>
        (await shop.store.db.select().from(readings).where(eq(readings.stepId, id))).length;
      const before = await deliveries();
      if (after === 1) await maker.close(id, 'roasted');
      else await shop.store.db.execute(sql`update readings set id = gen_random_uuid() where step_id = ${id}`);
      if (after === 1) expect(await deliveries()).toBeLessThan(before);
      for await (const part of file) text += part;
      expect(text.trimEnd().split('\r\n')).toEqual(whole);
    }
  });

  test('a step without readings gives the heading alone; one that is not there, 404', async () => {
    expect(await csvOf(await step())).toEqual(['time,seconds']);
    expect((await shop.send('GET', `/api/steps/${v7()}/readings.csv`)).status).toBe(404);
  });

  test('a long file is read beside the server’s other work, and comes out as it went in', async () => {
    const id = await step();
    const n = 60_000;
    const text = [
      'seconds,bean °C',
      ...Array.from({ length: n }, (_, i) => `${i},${100 + (i % 97) / 10}`),
    ].join('\n');
    const ended: string[] = [];
    const importing = shop
      .send('PUT', `/api/readings/${v7()}/csv?stepId=${id}&startedAt=${BEGAN}`, text)
      .finally(() => ended.push('file'));
    await new Promise((r) => setTimeout(r, 20));
    await shop.send('GET', '/api/health').finally(() => ended.push('health'));
    const answer = await importing;
    expect([answer.status, answer.body.count]).toEqual([201, n]);
    expect(ended).toEqual(['health', 'file']);
    const lines = await csvOf(id);
    expect(lines).toHaveLength(n + 1);
    expect(lines[41_235]).toBe(`${new Date(Date.parse(BEGAN) + 41_234_000).toISOString()},41234,100.9`);
  });

  test('more rows than are taken are refused before anything is read, and say how many may be', async () => {
    const id = await step();
    const answer = await shop.send('PUT', `/api/readings/${v7()}/csv?stepId=${id}`, '1,20\n'.repeat(400_000));
    expect(answer.body).toMatchObject({ status: 413, code: 'too-many-rows', params: { most: 200_000 } });
    expect(await csvOf(id)).toEqual(['time,seconds']);
  });
});
