import { USUAL_DATABASE, openWorkshop, signIn, type TestWorkshop } from '../testing/workshop.ts';

const PHONE = 'Mozilla/5.0 (Android 15; Mobile; rv:140.0) Gecko/140.0 Firefox/140.0';

describe.each(USUAL_DATABASE)('who is signed in on %s', (kind) => {
  let shop: TestWorkshop;
  beforeAll(async () => {
    shop = await openWorkshop(kind);
  });
  afterAll(() => shop.close());

  const as = (cookie: string) => ({ cookie });
  const openAs = async (cookie: string) =>
    (await shop.send('GET', '/api/sessions', undefined, as(cookie))).body;
  const reads = async (cookie: string) =>
    (await shop.send('GET', '/api/bench', undefined, as(cookie))).status;

  test('owners see everyone’s devices, others their own, and each may end what they see', async () => {
    const response = await shop.app.inject({
      method: 'POST',
      url: '/api/session',
      payload: { name: 'Tam', password: 'third password' },
      headers: { host: 'localhost:4310', 'user-agent': PHONE },
    });
    const phone = `${response.cookies[0]!.name}=${response.cookies[0]!.value}`;
    const tam = await signIn(shop, 'Tam', 'third password');
    const vi = await signIn(shop, 'Vi', 'another password');
    const all = (await openAs(shop.cookie)).open as { person: string; device: string; current: boolean }[];
    expect(all.map((s) => s.person).sort()).toEqual(['Ada', 'Tam', 'Tam', 'Vi']);
    expect(all.filter((s) => s.current).map((s) => s.person)).toEqual(['Ada']);
    const mine = (await openAs(tam)).open as { id: string; person: string; device: string }[];
    expect(mine.map((s) => s.person)).toEqual(['Tam', 'Tam']);
    const lost = mine.find((s) => s.device === 'Firefox, Android')!;
    // Somebody else's is not there for them; one's own ends at once; again, it is gone.
    expect((await shop.send('DELETE', `/api/sessions/${lost.id}`, undefined, as(vi))).status).toBe(404);
    expect(await reads(phone)).toBe(200);
    expect((await shop.send('DELETE', `/api/sessions/${lost.id}`, undefined, as(tam))).status).toBe(204);
    expect([await reads(phone), await reads(tam)]).toEqual([401, 200]);
    expect((await shop.send('DELETE', `/api/sessions/${lost.id}`, undefined, as(tam))).status).toBe(404);
    expect((await shop.send('DELETE', '/api/sessions/not-one')).status).toBe(422);
    const [his] = (await openAs(vi)).open;
    expect((await shop.send('DELETE', `/api/sessions/${his.id}`)).status).toBe(204);
    expect(await reads(vi)).toBe(401);
  });

  test('the one who asks is told apart; tokens are not among what is told', async () => {
    const answer = await shop.app.inject({ url: '/api/sessions', headers: { cookie: shop.cookie } });
    expect(answer.body).not.toContain(shop.cookie.split('=')[1]);
    expect(answer.body).not.toMatch(/scrypt|passwordHash/);
  });

  test('one changes one’s own password: it needs the one so far, and ends every other sign-in of one’s own', async () => {
    const [here, there] = [
      await signIn(shop, 'Tam', 'third password'),
      await signIn(shop, 'Tam', 'third password'),
    ];
    const change = (body: object) => shop.send('POST', '/api/password', body, as(here));
    expect((await change({ current: 'not it', next: 'a fourth password' })).body).toMatchObject({
      status: 422,
      code: 'wrong-password',
      field: 'current',
    });
    expect((await change({ current: 'third password', next: 'short' })).body.field).toContain('next');
    expect((await change({ current: 'third password', next: 'a fourth password' })).status).toBe(204);
    expect([await reads(here), await reads(there), await reads(shop.cookie)]).toEqual([200, 401, 200]);
    await expect(signIn(shop, 'Tam', 'third password')).rejects.toThrow(/wrong-password/);
    await signIn(shop, 'Tam', 'a fourth password');
  });

  test('owners see what was tried in vain, and from where; others do not', async () => {
    await shop.send('POST', '/api/session', { name: 'Mallory', password: 'guess' }, as(''));
    expect((await openAs(shop.cookie)).wrong[0]).toMatchObject({
      name: 'Mallory',
      from: '127.0.0.1',
      count: 1,
    });
    expect((await openAs(await signIn(shop, 'Tam', 'a fourth password'))).wrong).toEqual([]);
  });

  test('a stranger learns the workshop’s name and language, and no rates or people', async () => {
    const { body } = await shop.send('GET', '/api/session', undefined, as(''));
    expect(body).toEqual({
      state: 'signed-out',
      person: null,
      workshop: null,
      greeting: { name: 'Test row', language: 'en' },
      needsCode: false,
      demoPeople: [],
    });
  });
});
