import { connect } from 'node:net';
import { v7 } from 'uuid';
import type { BatchView } from '@wunsch/contract';
import {
  ANY_DATABASE,
  firstRun,
  kg,
  Maker,
  openWorkshop,
  signIn,
  type TestWorkshop,
} from '../testing/workshop.ts';

describe.each(ANY_DATABASE)('access on %s', (kind) => {
  let shop: TestWorkshop;
  beforeAll(async () => {
    shop = await openWorkshop(kind);
  });
  afterAll(() => shop.close());

  const person = async (name: string) =>
    (await shop.send('GET', '/api/people')).body.find((p: { name: string }) => p.name === name);
  const as = (cookie: string) => ({ cookie });

  /** The routes anyone may ask, each with its reason. */
  const PUBLIC = [
    'GET /api/bar/:code', // what a maker has chosen to show of a bar
    'GET /api/health', // whoever runs it must see whether it runs
    'GET /api/health/live', // so must what watches over it
    'GET /api/health/ready',
    'GET /api/openapi.json', // the description of the door, not what is behind it
    'GET /api/session', // the page must know whether to show the sign-in
    'POST /api/bar/:code/report', // whoever has a bar may say that something is wrong with it
    'POST /api/first-run', // there is nobody yet who could sign in
    'POST /api/session', // signing in
  ];
  /** Doors of guests: of a class by an address nobody can guess, at a tasting by a code on the screen or the phone’s own cookie. */
  const GUEST = [
    'GET /api/class/:code',
    'GET /api/guest',
    'POST /api/guest',
    'PUT /api/class/:code/choice',
    'PUT /api/class/:code/score',
    'PUT /api/guest/cards/:id',
  ];
  const DEVICE = ['POST /api/door/readings', 'POST /api/door/room', 'POST /api/door/weights'];

  test('routes are protected by where they are registered; the public ones are a list of a few', () => {
    const of = (guard: string) =>
      shop.app.registered
        .filter((r) => r.guard === guard && r.url.startsWith('/api/'))
        .map((r) => `${r.method} ${r.url}`)
        .sort();
    expect(of('public')).toEqual(PUBLIC);
    expect(of('device')).toEqual(DEVICE);
    expect(of('guest')).toEqual(GUEST);
    expect(of('calendar')).toEqual(['GET /api/calendars/:token']);
    expect(of('person').length).toBeGreaterThan(55);
  });

  test('every route in every spelling says nothing to nobody', async () => {
    const address = await shop.app.listen({ port: 0, host: '127.0.0.1' });
    const { port } = new URL(address);
    /** What the server says to a request line as it is, with nothing made tidy on the way. */
    const ask = (method: string, target: string) =>
      new Promise<{ status: number; body: string }>((resolve, reject) => {
        const socket = connect(Number(port), '127.0.0.1');
        let text = '';
        socket.on('data', (part) => (text += part.toString()));
        socket.on('error', reject);
        socket.on('end', () => {
          const [head = '', ...body] = text.split('\r\n\r\n');
          resolve({ status: Number(head.split(' ')[1]), body: body.join('\r\n\r\n') });
        });
        const payload = method === 'GET' ? '' : '{}';
        socket.write(
          `${method} ${target} HTTP/1.1\r\nHost: localhost:${port}\r\nConnection: close\r\n` +
            (payload ? `Content-Type: application/json\r\nContent-Length: ${payload.length}\r\n` : '') +
            `\r\n${payload}`,
        );
      });
    const spellings = (url: string): string[] => [
      url,
      url.replace('/api/', '/%61pi/'),
      url.replace('/api/', '/a%70i/').replace(/([a-z])$/, (c) => `%${c.charCodeAt(0).toString(16)}`),
      `http://localhost:${port}${url}`,
      `http://elsewhere.example${url}`,
      `//${url.slice(1)}`,
      url.replace('/api/', '/api//'),
      url.replace('/api/', '/./api/'),
      url.replace('/api/', '/x/../api/'),
      url.replace('/api/', '/API/'),
      `${url}/`,
      `${url};x=1`,
      `${url}%00`,
    ];
    const told: string[] = [];
    const table: Record<string, Record<string, number>> = {};
    let asked = 0;
    for (const { method, url, guard } of shop.app.registered) {
      if (guard !== 'person') continue;
      for (const spelling of spellings(url.replace(/:\w+/g, v7()))) {
        const { status, body } = await ask(method, spelling);
        asked += 1;
        const row = (table[`${method} ${url}`] ??= {});
        row[status] = (row[status] ?? 0) + 1;
        // Signed out, or an address with nothing at it; never an answer, a refusal of the contents, or a fault.
        if (![401, 404, 400].includes(status) || body.includes('Ada'))
          told.push(`${method} ${spelling}: ${status}`);
      }
    }
    if (process.env.WUNSCH_TABLE) console.table(table);
    expect(asked).toBeGreaterThan(700);
    expect(told).toEqual([]);
  }, 120_000);

  test('every route, as every role: what each may ask, and nobody anything', async () => {
    const roles = {
      nobody: '',
      viewer: await signIn(shop, 'Vi', 'another password'),
      taster: await signIn(shop, 'Tam', 'third password'),
      owner: shop.cookie,
    };
    const table: Record<string, Record<string, number>> = {};
    for (const { method, url, guard } of shop.app.registered) {
      // A stream never ends, and signing out would end the run.
      if (guard !== 'person' || url === '/api/events' || (method === 'DELETE' && url === '/api/session'))
        continue;
      const row: Record<string, number> = {};
      for (const [role, cookie] of Object.entries(roles)) {
        const path = url.replace(/:\w+/g, v7());
        row[role] = (
          await shop.send(method as 'GET', path, method === 'GET' ? undefined : {}, as(cookie))
        ).status;
      }
      table[`${method} ${url}`] = row;
    }
    if (process.env.WUNSCH_TABLE) console.table(table);
    const rows = Object.entries(table);
    expect(rows.filter(([, row]) => row.nobody !== 401)).toEqual([]);
    expect(rows.filter(([, row]) => Object.values(row).some((status) => status >= 500))).toEqual([]);
    // Whoever may look may look at everything; what only owners read is a list of a few.
    const closed = rows
      .filter(([route, row]) => route.startsWith('GET') && row.viewer === 403)
      .map(([route]) => route);
    expect(closed.sort()).toEqual([
      'GET /api/archive.zip',
      'GET /api/backups',
      'GET /api/events.epcis.jsonld',
      'GET /api/set-aside',
    ]);
  });

  test('addresses that cannot be read are answered as problem details', async () => {
    for (const url of ['/api/batches/%E0%A4%A', `/api/batches/${'x'.repeat(5000)}`, '/api/nothing-here']) {
      const answer = await shop.app.inject({ url, headers: { cookie: shop.cookie } });
      expect([url.slice(0, 30), answer.headers['content-type']]).toEqual([
        url.slice(0, 30),
        expect.stringContaining('application/problem+json'),
      ]);
      expect(answer.statusCode).toBeLessThan(500);
    }
  });

  test('who may only look, and who may only taste, change nothing else', async () => {
    const maker = new Maker(shop);
    const lot = await maker.lot('ACC', 10);
    const batch = await maker.batch('ACC-1', lot.id);
    const step = await maker.step(batch, 'sort');
    const before = (await shop.send('GET', `/api/batches/${batch}`)).body;
    const viewer = await signIn(shop, 'Vi', 'another password');
    const taster = await signIn(shop, 'Tam', 'third password');
    const machine = (await shop.send('GET', '/api/machines')).body[0];
    const [nibs] = (await shop.send('GET', '/api/ingredients')).body;
    const writes: [string, object][] = [
      [
        `/api/lots/${v7()}`,
        {
          code: 'NO',
          name: 'No',
          massMg: kg(1),
          receivedOn: '2026-09-01',
          stepId: v7(),
          movementId: v7(),
          parcelId: v7(),
        },
      ],
      [`/api/batches/${v7()}`, { code: 'NO-1', lotId: lot.id }],
      [`/api/batches/${batch}/state`, { state: 'void', reason: 'no' }],
      [`/api/steps/${v7()}`, { batchId: batch, station: 'roast' }],
      [`/api/steps/${step}/close`, { remainder: null, remainderId: v7() }],
      [`/api/movements/${v7()}`, { stepId: step, direction: 'in', parcelId: lot.parcelId, massMg: kg(1) }],
      [`/api/observations/${v7()}`, { batchId: batch, data: { kind: 'note', text: 'no' } }],
      [`/api/undos/${v7()}`, { seq: before.lastSeq }],
      [`/api/recipes/${v7()}`, { name: 'No', lines: [{ ingredientId: nibs.id, massMg: kg(1) }] }],
      [`/api/machines/${machine.id}`, { name: 'Not Ida', station: 'grind' }],
    ];
    for (const cookie of [viewer, taster])
      for (const [url, body] of writes) {
        const answer = await shop.send('PUT', url, body, as(cookie));
        expect([url, answer.status]).toEqual([url, 403]);
      }
    const card = { form: 'quick', sour: 3, grit: 1, liking: 7 };
    const taste = (cookie: string) =>
      shop.send('PUT', `/api/tastings/${v7()}`, { batchId: batch, card }, as(cookie));
    expect((await taste(viewer)).status).toBe(403);
    expect((await taste(taster)).status).toBe(201);
    const after = (await shop.send('GET', `/api/batches/${batch}`)).body;
    // That it has been tasted, and nothing else of it.
    const without = (view: BatchView) => ({
      ...view,
      tastings: [],
      lastSeq: 0,
      flow: {
        ...view.flow,
        stations: view.flow.stations.filter((s) => s.station !== 'taste'),
      },
    });
    expect(without(after)).toEqual(without(before));
    expect(after.tastings).toHaveLength(1);
  });

  test('a session cookie is for this site and this server alone, and signing out ends it', async () => {
    const response = await shop.app.inject({
      method: 'POST',
      url: '/api/session',
      payload: { name: 'ada', password: 'a long password' },
      headers: { host: 'localhost:4310' },
    });
    const [cookie] = response.cookies;
    expect(cookie).toMatchObject({ httpOnly: true, sameSite: 'Strict', path: '/' });
    expect(response.headers['content-security-policy']).toContain("script-src 'self'");
    expect(response.headers['content-security-policy']).not.toMatch(/script-src[^;]*unsafe/);
    expect(response.headers['x-content-type-options']).toBe('nosniff');
    const mine = `${cookie!.name}=${cookie!.value}`;
    expect((await shop.send('GET', '/api/people', undefined, as(mine))).status).toBe(200);
    expect((await shop.send('DELETE', '/api/session', undefined, as(mine))).status).toBe(204);
    expect((await shop.send('GET', '/api/people', undefined, as(mine))).status).toBe(401);
    // A token that was never given out opens nothing.
    const guessed = `${cookie!.name}=${'x'.repeat(cookie!.value.length)}`;
    expect((await shop.send('GET', '/api/people', undefined, as(guessed))).status).toBe(401);
  });

  test('an unknown name and a wrong password are refused alike', async () => {
    const tell = async (name: string, password: string) =>
      (await shop.send('POST', '/api/session', { name, password }, as(''))).body;
    expect(await tell('Nobody', 'a long password')).toEqual(await tell('Ada', 'not this password'));
    expect(await tell('Ada', 'not this password')).toMatchObject({ status: 401, code: 'wrong-password' });
  });

  test('a request sent by another site is refused, whoever is signed in', async () => {
    const headers = { 'sec-fetch-site': 'cross-site' };
    const answer = await shop.send(
      'PUT',
      `/api/people/${v7()}`,
      { name: 'X', initials: 'X', role: 'owner' },
      headers,
    );
    expect(answer.status).toBe(403);
    expect(answer.body.code).toBe('other-site');
    expect((await shop.send('GET', '/api/people', undefined, headers)).status).toBe(200);
    // An older browser says only where the page came from.
    for (const origin of ['http://elsewhere.example', 'null'])
      expect(
        (
          await shop.send(
            'PUT',
            `/api/people/${v7()}`,
            { name: 'X', initials: 'X', role: 'owner' },
            { origin },
          )
        ).body,
      ).toMatchObject({ status: 403, code: 'other-site' });
    const own = { origin: 'http://localhost:4310' };
    expect((await shop.send('PUT', `/api/people/${v7()}`, { name: '' }, own)).status).toBe(422);
  });

  test('a workshop is made once, and no two of its people share a name', async () => {
    expect((await shop.send('POST', '/api/first-run', firstRun())).body).toMatchObject({ status: 409 });
    // That there is one already is said before anything that costs time is done.
    const twins = firstRun();
    twins.people![0]!.name = 'ADA';
    expect((await shop.send('POST', '/api/first-run', twins)).body).toMatchObject({
      status: 409,
      code: 'workshop-exists',
    });
  });

  test('people come, change and go; the last owner stays', async () => {
    const id = v7();
    const facts = { name: 'Noor', initials: 'NO', role: 'maker' };
    expect((await shop.send('PUT', `/api/people/${id}`, { ...facts, password: 'short' })).status).toBe(422);
    expect((await shop.send('PUT', `/api/people/${id}`, { ...facts, password: 'long enough' })).status).toBe(
      201,
    );
    const taken = await shop.send('PUT', `/api/people/${v7()}`, { ...facts, name: 'noor' });
    expect(taken.body).toMatchObject({ status: 409, code: 'name-taken', field: 'name' });

    const noor = await signIn(shop, 'Noor', 'long enough');
    expect((await shop.send('GET', '/api/bench', undefined, as(noor))).status).toBe(200);
    // Without the version it was read at nothing is changed; with an old one the new one is told.
    const change = (body: object, version?: string) =>
      shop.send('PUT', `/api/people/${id}`, { ...facts, ...body }, version ? { 'if-match': version } : {});
    expect((await change({ initials: 'NR' })).status).toBe(428);
    expect((await change({ initials: 'NR' }, 'yesterday')).body).toMatchObject({
      status: 400,
      code: 'bad-if-match',
    });
    expect((await change({ initials: 'NR' }, '"1"')).status).toBe(201);
    expect((await change({ initials: 'NN' }, '"1"')).body).toMatchObject({
      status: 412,
      params: { version: 2 },
    });
    expect((await person('Noor')).initials).toBe('NR');

    // A new password, or leaving, ends what was open.
    expect((await change({ password: 'another long one' }, '"2"')).status).toBe(201);
    expect((await shop.send('GET', '/api/bench', undefined, as(noor))).status).toBe(401);
    const again = await signIn(shop, 'Noor', 'another long one');
    expect((await change({ active: false }, '"3"')).status).toBe(201);
    expect((await shop.send('GET', '/api/bench', undefined, as(again))).status).toBe(401);
    await expect(signIn(shop, 'Noor', 'another long one')).rejects.toThrow(/wrong-password/);

    const ada = await person('Ada');
    const demoted = await shop.send(
      'PUT',
      `/api/people/${ada.id}`,
      { name: 'Ada', initials: 'AK', role: 'maker' },
      { 'if-match': `"${ada.version}"` },
    );
    expect(demoted.body).toMatchObject({ status: 409, code: 'last-owner', field: 'role' });
  });

  test('passwords, their hashes and device tokens are never read back', async () => {
    const [machine] = (await shop.send('GET', '/api/machines')).body;
    const { token } = (await shop.send('POST', `/api/machines/${machine.id}/token`)).body;
    // Typed after an option of a command: nothing that reads as another option.
    expect(token).toMatch(/^[0-9a-f]{36}$/);
    const answers = await Promise.all(
      ['/api/session', '/api/people', '/api/machines', '/api/trail'].map((url) =>
        shop.app.inject({ method: 'GET', url, headers: { host: 'localhost:4310', cookie: shop.cookie } }),
      ),
    );
    for (const { body } of answers) {
      expect(body).not.toContain(token);
      expect(body).not.toMatch(/argon2|scrypt|passwordHash|tokenHash/);
    }
    expect((await shop.send('GET', '/api/machines')).body[0].hasToken).toBe(true);
  });

  test('a machine whose least charge is above its most is refused by name', async () => {
    const answer = await shop.send('PUT', `/api/machines/${v7()}`, {
      name: 'Upside down',
      station: 'grind',
      minMg: kg(9),
      maxMg: kg(2),
    });
    expect(answer.status).toBe(422);
    expect(answer.body.field).toMatch(/m(in|ax)Mg/);
  });

  test('after ten wrong tries the door stays shut for a while', async () => {
    const statuses: number[] = [];
    for (let i = 0; i < 12; i += 1)
      statuses.push(
        (await shop.send('POST', '/api/session', { name: 'Ada', password: `guess number ${i}` }, as('')))
          .status,
      );
    expect(statuses.at(-1)).toBe(429);
    expect(statuses.filter((s) => s === 401).length).toBeLessThanOrEqual(10);
  });
});
