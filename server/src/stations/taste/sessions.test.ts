import { v7 } from 'uuid';
import type {
  Trial,
  Glass,
  GuestView,
  SessionResults,
  TastingSession,
  TastingSessionPut,
} from '@wunsch/contract';
import { USUAL_DATABASE, Maker, openWorkshop, signIn, type TestWorkshop } from '../../testing/workshop.ts';

describe.each(USUAL_DATABASE)('tasting sessions on %s', (kind) => {
  let shop: TestWorkshop;
  let tam: string;
  let vi: string;
  let people: Record<string, string>;
  let batches: string[];
  beforeAll(async () => {
    shop = await openWorkshop(kind);
    tam = await signIn(shop, 'Tam', 'third password');
    vi = await signIn(shop, 'Vi', 'another password');
    const list = (await shop.send('GET', '/api/people')).body as { id: string; name: string }[];
    people = Object.fromEntries(list.map((p) => [p.name, p.id]));
    const maker = new Maker(shop);
    const lot = await maker.lot('PAN', 20);
    batches = [await maker.batch('PAN-1', lot.id), await maker.batch('PAN-2', lot.id)];
  });
  afterAll(() => shop.close());

  const plan = (more: Partial<TastingSessionPut> = {}): TastingSessionPut => ({
    title: 'Which do we keep?',
    question: 'keep',
    rounds: 2,
    samples: [
      { id: v7(), label: 'long roast', batchId: batches[0]! },
      { id: v7(), label: 'short roast', batchId: batches[1]! },
      { id: v7(), label: 'bought bar', other: { maker: 'Harbour Lane', words: 'dark, 70 %', price: 650 } },
    ],
    seats: [
      { id: v7(), personId: people.Ada! },
      { id: v7(), personId: people.Tam! },
      { id: v7() },
      { id: v7(), name: 'Mia' },
    ],
    ...more,
  });
  const put = (what: string, body: unknown, headers: Record<string, string> = {}, id = v7()) =>
    shop.send('PUT', `/api/${what}/${id}`, body, headers);
  const begun = async (more: Partial<TastingSessionPut> = {}) => {
    const id = v7();
    const body = plan(more);
    expect((await put('tasting-sessions', body, {}, id)).status).toBe(201);
    expect((await put('tasting-session-beginnings', { sessionId: id })).status).toBe(201);
    return { id, body };
  };
  const read = async (id: string, cookie = shop.cookie): Promise<TastingSession> =>
    (await shop.send('GET', `/api/tasting-sessions/${id}`, undefined, { cookie })).body;
  const glasses = async (id: string, cookie: string, seat?: string): Promise<Glass[]> =>
    (
      await shop.send('GET', `/api/tasting-sessions/${id}/glasses${seat ? `?seat=${seat}` : ''}`, undefined, {
        cookie,
      })
    ).body;
  const quick = (liking: number) => ({ form: 'quick' as const, sour: 3, grit: 1, liking });
  const sit = async (code: string, name: string) => {
    const answer = await shop.app.inject({
      method: 'POST',
      url: '/api/guest',
      payload: { code, name },
      headers: { host: 'localhost:4310' },
    });
    const [cookie] = answer.cookies;
    return {
      status: answer.statusCode,
      body: answer.json(),
      cookie: cookie ? `${cookie.name}=${cookie.value}` : '',
    };
  };

  test('a plan changes with If-Match until the table is set; then not any more', async () => {
    const id = v7();
    const body = plan();
    await put('tasting-sessions', body, {}, id);
    expect((await put('tasting-sessions', { ...body, title: 'Another' }, {}, id)).status).toBe(428);
    expect(
      (await put('tasting-sessions', { ...body, title: 'Another' }, { 'if-match': '"1"' }, id)).status,
    ).toBe(201);
    expect(await read(id)).toMatchObject({ title: 'Another', status: 'planned', version: 2, balance: null });
    expect(
      (
        await put('session-cards', {
          sessionId: id,
          seatId: body.seats[0]!.id,
          round: 1,
          place: 1,
          card: quick(5),
        })
      ).body,
    ).toMatchObject({ status: 409, code: 'not-begun' });
    await put('tasting-session-beginnings', { sessionId: id });
    expect((await put('tasting-sessions', body, { 'if-match': '"3"' }, id)).body).toMatchObject({
      status: 409,
      code: 'begun',
    });
    expect((await put('tasting-session-beginnings', { sessionId: id })).body.code).toBe('begun');
    // The same beginning sent again after a lost answer is the same table.
    const other = v7();
    const beginning = v7();
    await put('tasting-sessions', plan(), {}, other);
    await put('tasting-session-beginnings', { sessionId: other }, {}, beginning);
    const { joinCode } = await read(other);
    const again = await put('tasting-session-beginnings', { sessionId: other }, {}, beginning);
    expect([again.status, again.body.repeated, (await read(other)).joinCode]).toEqual([200, true, joinCode]);
  });

  test.each([
    ['one sample', () => ({ samples: plan().samples.slice(0, 1) }), 'samples'],
    ['nobody', () => ({ seats: [] }), 'seats'],
    ['three to be told apart', () => ({ question: 'different' as const }), 'samples'],
    [
      'one person twice',
      () => ({
        seats: [
          { id: v7(), personId: people.Tam! },
          { id: v7(), personId: people.Tam! },
        ],
      }),
      'seats',
    ],
    ['a reference that is none', () => ({ referenceId: v7() }), 'referenceId'],
    ['no margin', () => ({ margin: 0 }), 'margin'],
  ])('a plan with %s is refused by field', async (_, more, field) => {
    const { status, body } = await put('tasting-sessions', plan(more() as never));
    expect([status, JSON.stringify(body).includes(field)]).toEqual([422, true]);
  });

  test('a batch that does not exist cannot be served', async () => {
    const samples = plan().samples.map((s) => ({ ...s, batchId: v7(), other: null }));
    expect((await put('tasting-sessions', plan({ samples }))).status).toBe(404);
  });

  test('parts of a trial are served by the codes that hide what they are', async () => {
    const id = v7();
    const parts = ['sugar early', 'sugar late'].map((label) => ({ label }));
    expect((await put('trials', { name: 'Sugar', parts }, {}, id)).status).toBe(201);
    const trials = (await shop.send('GET', '/api/trials')).body as Trial[];
    const { parts: told } = trials.find((t) => t.id === id)!;
    const samples = told.map(({ code }) => ({ id: v7(), label: `Sugar ${code}`, trial: { id, code } }));
    const session = await begun({ samples });
    expect((await read(session.id)).samplesCount).toBe(2);
    // A code the trial has not, and a trial that is none.
    const unknown = ['100', '101', '102'].find((code) => told.every((p) => p.code !== code))!;
    for (const trial of [
      { id, code: unknown },
      { id: v7(), code: told[0]!.code },
    ]) {
      const wrong = [{ id: v7(), label: 'a part', trial }, samples[0]!];
      expect((await put('tasting-sessions', plan({ samples: wrong }))).status).toBe(404);
    }
  });

  test('the server draws orders and codes: every seat meets every sample once a round, under other codes each round', async () => {
    const { id, body } = await begun();
    const session = await read(id);
    expect(session).toMatchObject({ status: 'tasting', samplesCount: 3, mySeatId: body.seats[0]!.id });
    expect(session.joinCode).toMatch(/^[A-Z0-9]{6}$/);
    expect(session.balance!.place.most - session.balance!.place.fewest).toBeLessThanOrEqual(1);
    const mine = await glasses(id, shop.cookie);
    expect(mine.map((g) => [g.round, g.place])).toEqual([
      [1, 1],
      [1, 2],
      [1, 3],
      [2, 1],
      [2, 2],
      [2, 3],
    ]);
    expect(new Set(mine.map((g) => g.code)).size).toBe(6);
    // Everybody meets the same codes, in their own order.
    const his = await glasses(id, tam);
    expect(his.map((g) => g.code).sort()).toEqual(mine.map((g) => g.code).sort());
  });

  test('a curious taster finds nothing at any address: neither which glass holds what, nor what others thought', async () => {
    const { id, body } = await begun();
    const seats = body.seats.map((s) => s.id);
    const mine = await glasses(id, shop.cookie);
    await put('session-cards', {
      sessionId: id,
      seatId: seats[0],
      round: 1,
      place: 1,
      card: { ...quick(9), words: 'unmistakable' },
    });
    const urls = shop.app.registered
      .filter((r) => r.method === 'GET' && r.url.startsWith('/api/') && !r.url.includes('events'))
      .map((r) => r.url.replace(':id', id).replaceAll(/:\w+/g, id));
    expect(urls).toContain(`/api/tasting-sessions/${id}/results`);
    for (const cookie of [tam, vi])
      for (const url of urls) {
        const { payload } = await shop.app.inject({ url, headers: { host: 'localhost:4310', cookie } });
        expect([url, payload.includes('unmistakable'), payload.includes('bought bar')]).toEqual([
          url,
          false,
          false,
        ]);
      }
    // Not even who planned it is told a pair of code and sample in one answer, before asking for the key. Sessions opened earlier tell theirs, and
    // three digits may come up again.
    const all = (await shop.send('GET', '/api/tasting-sessions')).body as TastingSession[];
    const others = JSON.stringify(all.filter((s) => s.id !== id));
    const codes = mine.map((g) => `"${g.code}"`).filter((code) => !others.includes(code));
    expect(codes.length).toBeGreaterThan(0);
    for (const url of urls) {
      const { payload } = await shop.app.inject({
        url,
        headers: { host: 'localhost:4310', cookie: shop.cookie },
      });
      const tells = payload.includes('bought bar') && codes.some((code) => payload.includes(code));
      expect([url, tells]).toEqual([url, false]);
    }
    expect(
      (await put('tasting-session-keeps', { sessionId: id, sampleId: body.samples[0]!.id })).body.code,
    ).toBe('not-open');
    for (const what of ['results', 'scores.csv'])
      expect((await shop.send('GET', `/api/tasting-sessions/${id}/${what}`)).body).toMatchObject({
        status: 409,
        code: 'blind',
      });
    // Who is done is told; whose glasses they are is not a taster's to read.
    expect((await read(id, tam)).seats.map((s) => [s.done, s.of])).toEqual([
      [1, 6],
      [0, 6],
      [0, 6],
      [0, 6],
    ]);
    expect(
      (
        await shop.send('GET', `/api/tasting-sessions/${id}/glasses?seat=${seats[0]}`, undefined, {
          cookie: tam,
        })
      ).body,
    ).toMatchObject({ status: 403, code: 'other-seat' });
    // Who types in from paper sees codes, and not what was said of them.
    expect((await glasses(id, shop.cookie, seats[1])).every((g) => g.card === null)).toBe(true);
  });

  test('who has seen the key pours and tastes no more', async () => {
    const { id, body } = await begun();
    expect((await shop.send('GET', `/api/tasting-sessions/${id}/key`)).body).toMatchObject({
      status: 403,
      code: 'blind',
    });
    expect((await put('tasting-session-keys', { sessionId: id }, { cookie: tam })).status).toBe(403);
    await put('tasting-session-keys', { sessionId: id });
    const key = (await shop.send('GET', `/api/tasting-sessions/${id}/key`)).body;
    expect(key.codes).toHaveLength(6);
    expect(key.seats).toHaveLength(8);
    expect(await read(id)).toMatchObject({ iPour: true, pourers: ['AK'] });
    const card = { sessionId: id, seatId: body.seats[0]!.id, round: 1, place: 1, card: quick(9) };
    expect((await put('session-cards', card)).body).toMatchObject({ status: 409, code: 'not-blind' });
    expect((await put('session-cards', { ...card, fromPaper: true })).body.code).toBe('not-blind');
  });

  test('guests sit down by the code, see their own glasses only, and lose their seat at the opening', async () => {
    const { id, body } = await begun();
    const { joinCode } = await read(id);
    expect((await sit('NOSUCH', 'Eve')).body).toMatchObject({ status: 404, code: 'no-session' });
    expect((await read(id, tam)).joinCode).toBeNull();
    const eve = await sit(joinCode!.toLowerCase(), 'Eve');
    const mia = await sit(joinCode!, 'mia');
    expect([eve.status, mia.status]).toEqual([201, 201]);
    expect((await sit(joinCode!, 'Eve')).body).toMatchObject({ status: 409, code: 'name-taken' });
    expect((await sit(joinCode!, 'Ned')).body).toMatchObject({ status: 409, code: 'table-full' });
    const seen = (await shop.send('GET', '/api/guest', undefined, { cookie: eve.cookie })).body as GuestView;
    expect(seen).toMatchObject({ name: 'Eve', seatId: body.seats[2]!.id });
    expect(seen.glasses).toHaveLength(6);
    expect(JSON.stringify(seen)).not.toMatch(/long roast|short roast|bought|sample/);
    // A guest is nobody anywhere else.
    for (const url of [
      '/api/tasting-sessions',
      `/api/tasting-sessions/${id}/glasses`,
      '/api/bench',
      '/api/people',
    ])
      expect((await shop.send('GET', url, undefined, { cookie: eve.cookie })).status).toBe(401);
    const cardId = v7();
    const card = { round: 1, place: 2, card: quick(7) };
    const first = await shop.send('PUT', `/api/guest/cards/${cardId}`, card, { cookie: eve.cookie });
    const again = await shop.send('PUT', `/api/guest/cards/${cardId}`, card, { cookie: eve.cookie });
    expect([first.status, again.status, again.body.repeated]).toEqual([201, 200, true]);
    const other = { ...card, card: quick(8) };
    expect((await shop.send('PUT', `/api/guest/cards/${cardId}`, other, { cookie: eve.cookie })).status).toBe(
      409,
    );
    expect(
      (await shop.send('PUT', `/api/guest/cards/${v7()}`, { ...card, place: 9 }, { cookie: eve.cookie }))
        .body,
    ).toMatchObject({ status: 422, code: 'not-served', field: 'place' });
    expect((await shop.send('PUT', `/api/guest/cards/${v7()}`, card, { cookie: '' })).status).toBe(401);
    // Another phone's glasses know nothing of it.
    const others = (await shop.send('GET', '/api/guest', undefined, { cookie: mia.cookie }))
      .body as GuestView;
    expect(others.glasses.some((g) => g.done)).toBe(false);
    expect((await read(id)).seats.map((s) => s.done)).toEqual([0, 0, 1, 0]);
    await put('tasting-session-openings', { sessionId: id });
    expect((await shop.send('GET', '/api/guest', undefined, { cookie: eve.cookie })).body).toMatchObject({
      status: 410,
      code: 'session-over',
    });
    expect((await shop.send('PUT', `/api/guest/cards/${v7()}`, other, { cookie: eve.cookie })).status).toBe(
      410,
    );
  });

  test('first impressions count; who goes back adds a word that is kept apart; what is on paper is typed in', async () => {
    const { id, body } = await begun({ rounds: 1 });
    const [ada, , , mia] = body.seats.map((s) => s.id);
    const card = { sessionId: id, seatId: ada, round: 1, place: 1, card: quick(4) };
    await put('session-cards', card);
    await put('session-cards', { ...card, card: quick(8) });
    expect((await put('session-cards', { ...card, seatId: mia })).body).toMatchObject({
      status: 403,
      code: 'other-seat',
    });
    expect(
      (await put('session-cards', { ...card, seatId: mia, fromPaper: true }, { cookie: tam })).body,
    ).toMatchObject({
      status: 403,
      code: 'role',
    });
    const typed = v7();
    expect((await put('session-cards', { ...card, seatId: mia, fromPaper: true }, {}, typed)).status).toBe(
      201,
    );
    expect((await read(id)).seats.map((s) => s.done)).toEqual([1, 0, 0, 1]);
    expect((await put('tasting-session-openings', { sessionId: id }, { cookie: tam })).status).toBe(403);
    expect((await put('tasting-session-openings', { sessionId: id })).status).toBe(201);
    const results = (
      await shop.send('GET', `/api/tasting-sessions/${id}/results`, undefined, { cookie: tam })
    ).body as SessionResults;
    const mine = results.cards.filter((c) => c.seatId === ada);
    expect(mine.map((c) => [c.nth, c.card.form === 'quick' && c.card.liking])).toEqual([
      [1, 4],
      [2, 8],
    ]);
    expect(new Set(mine.map((c) => c.sampleId)).size).toBe(1);
    expect(results.session.samples.map((s) => s.label)).toContain('bought bar');
    expect((await put('session-cards', { ...card, place: 2 })).body).toMatchObject({
      status: 409,
      code: 'opened',
    });
    // What the workshop goes on with, once, and taken back by undo.
    const keep = (sampleId: string) => put('tasting-session-keeps', { sessionId: id, sampleId });
    expect((await keep(v7())).status).toBe(404);
    const kept = await keep(body.samples[1]!.id);
    expect([kept.status, (await read(id)).keptId]).toEqual([201, body.samples[1]!.id]);
    expect((await keep(body.samples[0]!.id)).body.code).toBe('kept-already');
    await shop.send('PUT', `/api/undos/${v7()}`, { seq: kept.body.seq });
    expect((await read(id)).keptId).toBeNull();
    const csv = await shop.app.inject({
      url: `/api/tasting-sessions/${id}/scores.csv`,
      headers: { host: 'localhost:4310', cookie: tam },
    });
    const lines = csv.body.trim().split('\r\n');
    expect(lines[0]).toBe(
      'session,round,place,code,sample,batch,assessor,impression,from_paper,at,attribute,value',
    );
    expect(lines.filter((l) => l.includes(',liking,'))).toHaveLength(results.cards.length);
  });

  test('a triangle: three glasses, one choice a round, and right where the odd one was found', async () => {
    const { id, body } = await begun({
      question: 'different',
      rounds: 1,
      samples: plan().samples.slice(0, 2),
      seats: Array.from({ length: 6 }, (_, i) => ({ id: v7(), name: `guest ${i}` })),
    });
    expect(
      (
        await put('session-cards', {
          sessionId: id,
          seatId: body.seats[0]!.id,
          round: 1,
          place: 1,
          card: quick(5),
          fromPaper: true,
        })
      ).body,
    ).toMatchObject({ code: 'not-served', field: 'card.form' });
    for (const { id: seatId } of body.seats) {
      const served = await glasses(id, shop.cookie, seatId);
      expect(served).toHaveLength(3);
      const choose = (code: string) =>
        put('session-cards', {
          sessionId: id,
          seatId,
          round: 1,
          place: 1,
          card: { form: 'choice', code },
          fromPaper: true,
        });
      expect((await choose('000')).body).toMatchObject({ code: 'not-served', field: 'card.code' });
      expect((await choose(served[0]!.code)).status).toBe(201);
    }
    await put('tasting-session-openings', { sessionId: id });
    const results = (await shop.send('GET', `/api/tasting-sessions/${id}/results`)).body as SessionResults;
    // The six arrangements each once: the first glass is the odd one in two of them.
    expect(results.cards.filter((c) => c.right)).toHaveLength(2);
  });

  test('setting the table is taken back while nobody has tasted, and a card by who typed it', async () => {
    const id = v7();
    const body = plan({ rounds: 1 });
    await put('tasting-sessions', body, {}, id);
    const undo = (seq: number) => shop.send('PUT', `/api/undos/${v7()}`, { seq });
    const set = await put('tasting-session-beginnings', { sessionId: id });
    const card = await put('session-cards', {
      sessionId: id,
      seatId: body.seats[3]!.id,
      round: 1,
      place: 1,
      card: quick(5),
      fromPaper: true,
    });
    expect((await undo(set.body.seq)).body).toMatchObject({ status: 409, code: 'tasted' });
    expect((await undo(card.body.seq)).status).toBe(201);
    expect(await read(id)).toMatchObject({ cards: 0, status: 'tasting' });
    expect((await undo(set.body.seq)).status).toBe(201);
    expect(await read(id)).toMatchObject({ status: 'planned', joinCode: null, balance: null });
    expect(JSON.stringify((await shop.send('GET', '/api/trail?limit=9')).body)).not.toContain('bought bar');
  });
});
