import { X509Certificate } from 'node:crypto';
import { mkdtemp, rm, stat } from 'node:fs/promises';
import { request } from 'node:https';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { v7 } from 'uuid';
import { buildApp, type AppOptions } from '../app.ts';
import type { App } from '../http/types.ts';
import { openEmbedded } from '../store/embedded.ts';
import type { Store } from '../store/store.ts';
import { firstRun } from '../testing/workshop.ts';
import { ownCertificate } from './certificate.ts';
import { isLoopback, requireSafeAddress } from './exposure.ts';

describe('a server others can reach', () => {
  let directory: string;
  let store: Store;
  const apps: App[] = [];
  const open = async (options: Partial<AppOptions>) => {
    const app = await buildApp({ store: () => store, ...options });
    apps.push(app);
    return app;
  };
  beforeAll(async () => {
    directory = await mkdtemp(join(tmpdir(), 'wunsch-wide-'));
    store = await openEmbedded({ directory });
  });
  afterAll(async () => {
    for (const app of apps) await app.close();
    await store.close();
    await rm(directory, { recursive: true, force: true });
  });

  test('the first run is for whoever reads the terminal: without its code nothing is hashed or made', async () => {
    const app = await open({ firstRunCode: 'K7QX-02MA' });
    const run = (code?: string) =>
      app.inject({
        method: 'POST',
        url: '/api/first-run',
        payload: { ...firstRun(), ...(code !== undefined && { code }) },
        headers: { host: 'workshop.example' },
      });
    expect((await app.inject({ url: '/api/session' })).json()).toMatchObject({
      state: 'first-run',
      needsCode: true,
    });
    for (const code of [undefined, '', 'K7QX-02MB'])
      expect((await run(code)).json()).toMatchObject({ status: 403, code: 'first-run-code', field: 'code' });
    // Guessing is slowed: a handful a minute from one address.
    const statuses = [];
    for (let i = 0; i < 5; i += 1) statuses.push((await run(`AAAA-000${i}`)).statusCode);
    expect(statuses.at(-1)).toBe(429);
    // Whoever sits at the machine has the code and is not slowed.
    const made = await app.inject({
      method: 'POST',
      url: '/api/first-run',
      payload: { ...firstRun(), code: 'k7qx o2ma' },
      headers: { host: 'localhost:4310' },
    });
    expect(made.statusCode).toBe(201);
    // Nor does the entry keep the code.
    expect(JSON.stringify(await store.db.execute('select * from trail' as never))).not.toContain('k7qx');
  });

  test('where others can reach it, a password that is tried first is refused for everybody and changes nothing', async () => {
    const app = await open({ firstRunCode: 'K7QX-02MA' });
    const run = firstRun();
    const first = await app.inject({ url: '/api/session' });
    expect(first.json().state).not.toBe('first-run');
    const headers = { host: 'localhost:4310' };
    const signed = await app.inject({
      method: 'POST',
      url: '/api/session',
      payload: { name: run.owner.name, password: run.owner.password },
      headers,
    });
    const cookie = `${signed.cookies[0]!.name}=${signed.cookies[0]!.value}`;
    const change = (next: string, to = app, current = run.owner.password) =>
      to.inject({
        method: 'POST',
        url: '/api/password',
        payload: { current, next },
        headers: { ...headers, cookie },
      });
    const add = (password: string) =>
      app.inject({
        method: 'PUT',
        url: `/api/people/${v7()}`,
        payload: { name: 'Wilhelmine', initials: 'WI', role: 'maker', active: true, password },
        headers: { ...headers, cookie },
      });
    for (const common of ['password', 'Password1!', 'qwertyuiop', 'CHOCOLATE 2026', '1234567890'])
      expect((await change(common)).json()).toMatchObject({
        status: 422,
        code: 'common-password',
        field: 'next',
      });
    for (const hers of ['wilhelmine', 'Wilhelmine77'])
      expect((await add(hers)).json()).toMatchObject({ code: 'common-password', field: 'password' });
    // Those that are nobody's first try are taken, and the one so far still opened the door meanwhile.
    expect((await add('wet nibs under Tuesday')).statusCode).toBe(201);
    expect((await change('a bowl of slow marble')).statusCode).toBe(204);
    // On this machine alone nobody could guess.
    const alone = await open({});
    expect((await change('chocolate', alone, 'a bowl of slow marble')).statusCode).toBe(204);
    expect((await change(run.owner.password, alone, 'chocolate')).statusCode).toBe(204);
  });

  test('what a proxy passes on is not from this machine, whatever its last hop', async () => {
    const app = await open({});
    const names = async (headers: Record<string, string>) =>
      (await app.inject({ url: '/api/health', headers: { host: 'localhost:4310', ...headers } })).json()
        .details;
    expect(await names({})).toBeDefined();
    for (const header of ['x-forwarded-for', 'forwarded', 'x-real-ip', 'via'])
      expect(await names({ [header]: '203.0.113.9' })).toBeUndefined();
    expect(await names({ host: 'workshop.example' })).toBeUndefined();
  });

  test('a certificate is made once, speaks for this machine, and its key is for its owner alone', async () => {
    const first = await ownCertificate(directory);
    const again = await ownCertificate(directory);
    expect(again).toEqual(first);
    const x509 = new X509Certificate(first.cert);
    expect(x509.checkHost('localhost')).toBe('localhost');
    expect(x509.checkIP('127.0.0.1')).toBe('127.0.0.1');
    expect(x509.fingerprint256).toBe(first.fingerprint);
    const days = (Date.parse(x509.validTo) - Date.now()) / 86_400_000;
    expect(days).toBeGreaterThan(800);
    expect(days).toBeLessThan(825);
    expect((await stat(join(directory, 'certificate/key.pem'))).mode & 0o077).toBe(0);
    // In another network it speaks for the new address and still for those it spoke for before, and is not made again in either.
    const moved = await ownCertificate(directory, ['192.0.2.17']);
    expect(moved.fingerprint).not.toBe(first.fingerprint);
    const movedTo = new X509Certificate(moved.cert);
    for (const ip of ['127.0.0.1', '192.0.2.17']) expect(movedTo.checkIP(ip)).toBe(ip);
    for (const addresses of [['192.0.2.17'], undefined])
      expect((await ownCertificate(directory, addresses)).fingerprint).toBe(moved.fingerprint);
    const app = await open({ certificate: first });
    const url = await app.listen({ port: 0, host: '127.0.0.1' });
    expect(url.startsWith('https://')).toBe(true);
    // A client that trusts this certificate, and no other, gets its answer, and a cookie that never travels in the clear.
    const cookies = await new Promise<string[]>((resolve, reject) => {
      const asked = request(
        `${url}/api/session`,
        { method: 'POST', ca: first.cert, agent: false, headers: { 'content-type': 'application/json' } },
        (answer) => {
          answer.resume();
          resolve(answer.headers['set-cookie'] ?? []);
        },
      );
      asked.on('error', reject);
      asked.end(JSON.stringify({ name: 'Ada', password: 'a long password' }));
    });
    expect(cookies).toEqual([expect.stringMatching(/; HttpOnly; Secure; SameSite=Strict$/)]);
  });

  test('behind a proxy the cookie is secure when the page came by HTTPS', async () => {
    const app = await open({ behindProxy: true });
    const cookieBy = async (scheme: string) =>
      (
        await app.inject({
          method: 'POST',
          url: '/api/session',
          payload: { name: 'Ada', password: 'a long password' },
          headers: { 'x-forwarded-proto': scheme, 'x-forwarded-for': '203.0.113.9' },
        })
      ).cookies[0]!;
    expect((await cookieBy('https')).secure).toBe(true);
    expect((await cookieBy('http')).secure).toBeFalsy();
  });

  test('demo accounts, which need no password, keep it from listening wider than this machine', async () => {
    await expect(requireSafeAddress(store.db, '0.0.0.0')).resolves.toBeUndefined();
    await store.writer.submit({
      kind: 'person.put',
      target: v7(),
      actor: { id: v7(), initials: 'AK', role: 'owner' },
      body: { name: 'Demo', initials: 'D', role: 'maker', active: true, passwordHash: null, demo: true },
    });
    await expect(requireSafeAddress(store.db, '0.0.0.0')).rejects.toThrow(/demo accounts/);
    await expect(requireSafeAddress(store.db, '127.0.0.1')).resolves.toBeUndefined();
    expect(['127.0.0.1', '127.4.0.1', 'localhost', '::1'].every(isLoopback)).toBe(true);
    expect(['0.0.0.0', '::', '192.168.1.4', '1270.0.0.1'].some(isLoopback)).toBe(false);
  });

  test('figures for a watcher are there only where they are switched on, and only for whom they are meant', async () => {
    const ask = async (app: App, headers: Record<string, string>) =>
      app.inject({ url: '/api/metrics', headers });
    const here = { host: 'localhost:4310' };
    expect((await ask(await open({}), here)).statusCode).toBe(404);
    const local = await open({ metrics: 'yes' });
    await local.inject({ url: '/api/bench', headers: here });
    expect((await ask(local, { host: 'workshop.example' })).statusCode).toBe(403);
    const text = (await ask(local, here)).body;
    expect(text).toMatch(/wunsch_http_seconds_count\{method="GET",route="\/api\/bench",status="401"\} 1/);
    expect(text).toMatch(/wunsch_refused_total\{code="signed-out"\} 1/);
    expect(text).toMatch(/^wunsch_entries \d+$/m);
    expect(text).toMatch(/^wunsch_ready 1$/m);
    const token = await open({ metrics: 'a token of ours' });
    expect((await ask(token, here)).statusCode).toBe(403);
    expect((await ask(token, { authorization: 'Bearer a token of ours' })).statusCode).toBe(200);
  });

  test('health tells whoever sits at the machine of disk and copies, and readiness is a status', async () => {
    const app = await open({});
    const { details } = (await app.inject({ url: '/api/health', headers: { host: 'localhost' } })).json();
    expect(details).toMatchObject({ enoughRoom: true, lastBackupAt: null, setAside: 0 });
    expect(details.freeBytes).toBeGreaterThan(1e6);
    expect(details.lastSeq).toBeGreaterThan(1);
    const closed = await open({ store: () => null });
    const statuses = async (of: App) =>
      Promise.all(
        ['live', 'ready'].map(async (w) => (await of.inject({ url: `/api/health/${w}` })).statusCode),
      );
    expect([await statuses(app), await statuses(closed)]).toEqual([
      [200, 200],
      [200, 503],
    ]);
  });
});
