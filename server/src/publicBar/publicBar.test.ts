import { v7 } from 'uuid';
import type { BatchPages, CaseBrief, PublicBar } from '@wunsch/contract';
import { SHOWN } from '@wunsch/contract';
import { USUAL_DATABASE, Maker, openWorkshop, type TestWorkshop } from '../testing/workshop.ts';

/** Words that stand in the workshop's records and must never be read outside unless they were chosen. */
const SECRETS = {
  lotNote: 'SECRET-NOTE',
  place: 'SECRET-SHELF',
  customer: 'SECRET-CUSTOMER',
  certificates: 'SECRET-PAPER',
  price: '98765',
};

describe.each(USUAL_DATABASE)('a bar’s public page on %s', (kind) => {
  let shop: TestWorkshop;
  let batchId: string;
  let ada: { id: string; name: string };

  const nobody = (method: 'GET' | 'POST', url: string, body?: object, remote = '192.0.2.7') =>
    shop.app.inject({
      method,
      url,
      remoteAddress: remote,
      headers: { host: 'bars.example' },
      ...(body && { payload: body }),
    });
  const publish = (id: string, body: object) => shop.send('PUT', `/api/pages/${id}`, body);
  const read = async (query = '') => (await nobody('GET', `/api/bar/NK01A${query}`)).json() as PublicBar;

  beforeAll(async () => {
    shop = await openWorkshop(kind);
    const maker = new Maker(shop);
    const nk = await maker.lot('NK', 40, {
      material: 'nibs',
      name: 'North Kilombo',
      country: 'Tanzania',
      region: 'Morogoro',
      harvest: '2026',
      grower: 'Amani group',
      notes: SECRETS.lotNote,
      certificates: SECRETS.certificates,
      place: SECRETS.place,
      pricePerKg: Number(SECRETS.price),
      plots: {
        type: 'FeatureCollection',
        features: [
          { type: 'Feature', properties: {}, geometry: { type: 'Point', coordinates: [36.68213, -8.16487] } },
        ],
      },
    });
    batchId = await maker.batch('NK-01', nk.id);
    const grind = await maker.step(batchId, 'grind', {
      startedAt: '2026-10-01T08:00:00Z',
      details: { aimUm: 20 },
    });
    await maker.take(grind, nk.parcelId, 10);
    await maker.note(grind, { kind: 'grit', method: 'micrometer', um: 19 });
    const chocolate = await maker.make(grind, 'chocolate', 9.5);
    await maker.close(grind, 'hold-up');
    const mould = await maker.step(batchId, 'mould', {
      startedAt: '2026-10-05T08:00:00Z',
      details: { barCode: 'NK01A', bestBefore: '2028-04-05', labelName: 'Kilombo 100' },
    });
    await maker.take(mould, chocolate.parcelId, 9.5);
    const bars = await maker.make(mould, 'bars', 9.5, { count: 190, place: SECRETS.place });
    await maker.close(mould);
    const customer = v7();
    await shop.send('PUT', `/api/customers/${customer}`, { name: SECRETS.customer, channel: 'trade' });
    await shop.send('PUT', `/api/deliveries/${v7()}`, {
      customerId: customer,
      lines: [{ parcelId: bars.parcelId, count: 20, stepId: v7(), takenId: v7(), lossId: v7() }],
    });
    ada = ((await shop.send('GET', '/api/people')).body as (typeof ada)[]).find((p) => p.name === 'Ada')!;
  });
  afterAll(() => shop.close());

  test('is off: a bar that exists and one that does not get the same answer', async () => {
    const [real, made] = [await nobody('GET', '/api/bar/NK01A'), await nobody('GET', '/api/bar/XX99Z')];
    expect([real.statusCode, made.statusCode]).toEqual([404, 404]);
    expect(real.json()).toEqual(made.json());
    const report = await nobody('POST', '/api/bar/NK01A/report', { id: v7(), text: 'grey' }, '192.0.2.8');
    expect(report.statusCode).toBe(404);
  });

  test('switched on, it shows what every wrapper says and nothing else; no cookie is set', async () => {
    expect((await publish(batchId, { of: 'batch', isOn: true })).status).toBe(201);
    const answer = await nobody('GET', '/api/bar/nk01a');
    expect(answer.statusCode).toBe(200);
    expect(answer.cookies).toEqual([]);
    const page = answer.json() as PublicBar;
    expect(page).toMatchObject({ name: 'Kilombo 100', code: 'NK01A', bestBefore: '2028-04-05' });
    for (const part of ['origin', 'growers', 'map', 'ribbon', 'days', 'making', 'people'] as const)
      expect(page[part]).toBeNull();
    expect(page.label.ingredients.map((r) => r.text).join('')).toMatch(/ingredients/i);
    expect(answer.body).not.toMatch(/Amani|Morogoro|36\.6|"19"/);
    for (const secret of Object.values(SECRETS)) expect(answer.body).not.toContain(secret);
  });

  test('each part appears when it is chosen; places are told to a tenth of a degree; secrets never', async () => {
    await publish(batchId, { of: 'batch', isOn: true, shows: [...SHOWN], words: 'Come and see us.' });
    const answer = await nobody('GET', '/api/bar/NK01A');
    const page = answer.json() as PublicBar;
    expect(page.origin).toEqual([
      { name: 'North Kilombo', country: 'Tanzania', region: 'Morogoro', harvest: '2026' },
    ]);
    expect(page).toMatchObject({ growers: ['Amani group'], map: [[36.7, -8.2]], words: 'Come and see us.' });
    expect(page.days!.map((d) => d.day)).toEqual(['2026-10-01', '2026-10-05']);
    expect(page.ribbon!.find((r) => r.station === 'grind')).toMatchObject({ grams: 95, lost: 5 });
    expect(page.making!.gritUm).toBeCloseTo(19, 5);
    for (const secret of Object.values(SECRETS)) expect(answer.body).not.toContain(secret);
  });

  test('people are named only where they themselves have agreed', async () => {
    expect((await read()).people).toEqual([]);
    expect((await shop.send('PUT', `/api/people/${v7()}/named`, { isNamed: true })).status).toBe(403);
    await shop.send('PUT', `/api/people/${ada.id}/named`, { isNamed: true });
    expect((await read()).people).toEqual(['Ada']);
  });

  test('it speaks the language asked for', async () => {
    expect((await read('?language=de')).label.ingredients[0]!.text).toMatch(/Zutaten/);
  });

  test('“something is wrong” becomes a case with its photograph; sent twice it is one', async () => {
    const id = v7();
    const png = Buffer.concat([
      Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]),
      Buffer.alloc(16),
    ]).toString('base64');
    const told = {
      id,
      text: 'grey streaks',
      kept: 'on the window sill',
      signs: ['streaks'],
      name: 'Someone',
      photo: { name: 'bar.png', type: 'image/png', content: png },
    };
    for (const _ of [1, 2])
      expect((await nobody('POST', '/api/bar/NK01A/report', told, '192.0.2.9')).json()).toEqual({
        received: true,
      });
    const cases = (await shop.send('GET', '/api/cases')).body as CaseBrief[];
    expect(cases).toMatchObject([{ from: 'public', code: 'NK01A', batchCode: 'NK-01', by: 'public' }]);
    expect((await shop.send('GET', `/api/cases/${id}`)).body.photographs).toHaveLength(1);
  });

  test('nobody gets through by asking often', async () => {
    const told = () => ({ id: v7(), text: 'again' });
    const codes: number[] = [];
    for (let k = 0; k < 8; k += 1)
      codes.push((await nobody('POST', '/api/bar/NK01A/report', told(), '192.0.2.10')).statusCode);
    expect(codes.filter((c) => c === 429).length).toBe(3);
    const looks: number[] = [];
    for (let k = 0; k < 65; k += 1)
      looks.push((await nobody('GET', '/api/bar/NK01A', undefined, '192.0.2.11')).statusCode);
    expect(looks.filter((c) => c === 429).length).toBe(5);
  });

  test('the label’s symbol carries the setting’s address once the page is on, and the batch’s own where it is off', async () => {
    const [session] = [
      (await shop.send('GET', '/api/session')).body as { workshop: Record<string, unknown> },
    ];
    const { version, createdAt: _, ...settings } = session.workshop;
    const changed = await shop.send(
      'PUT',
      '/api/workshop',
      { ...settings, publicAddress: 'https://bars.example/' },
      { 'if-match': `"${String(version)}"` },
    );
    expect(changed.status).toBeLessThan(300);
    const pages = (await shop.send('GET', `/api/pages/of-batch/${batchId}`)).body as BatchPages;
    expect(pages.addresses).toEqual(['https://bars.example/bar/NK01A']);
    await publish(batchId, { of: 'batch', isOn: false });
    expect((await nobody('GET', '/api/bar/NK01A', undefined, '192.0.2.12')).statusCode).toBe(404);
    expect(((await shop.send('GET', `/api/pages/of-batch/${batchId}`)).body as BatchPages).addresses).toEqual(
      [],
    );
    expect((await publish(v7(), { of: 'recipe', isOn: true })).status).toBe(404);
  });
});
