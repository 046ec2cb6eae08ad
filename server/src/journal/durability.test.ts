import { spawn, type ChildProcess } from 'node:child_process';
import { cp, mkdtemp, rm } from 'node:fs/promises';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { v7 } from 'uuid';
import { firstRun } from '../testing/workshop.ts';

const script = fileURLToPath(new URL('../../dist/start.js', import.meta.url));
const KILLS = 50;
const TORN_COPIES = 5;

let directory: string;
let port: number;
let cookie = '';
let batchId = '';
/** Every entry the server has answered for. */
const acknowledged: string[] = [];

const request = async (method: string, path: string, body?: unknown) =>
  fetch(`http://127.0.0.1:${port}${path}`, {
    method,
    headers: { cookie, ...(body !== undefined && { 'content-type': 'application/json' }) },
    ...(body !== undefined && { body: JSON.stringify(body) }),
  });

async function start(): Promise<ChildProcess> {
  const child = spawn('node', [script], {
    env: { ...process.env, PORT: String(port), WUNSCH_DATA: directory, DATABASE_URL: '', NODE_OPTIONS: '' },
    stdio: ['ignore', 'ignore', 'pipe'],
  });
  for (;;) {
    const health = await request('GET', '/api/health').then(
      (r) => r.json() as Promise<{ status: string }>,
      () => null,
    );
    if (health?.status === 'ok') return child;
    if (child.exitCode !== null) throw new Error(`the server ended with ${child.exitCode}`);
    await new Promise((resolve) => setTimeout(resolve, 25));
  }
}

const end = (child: ChildProcess, signal: NodeJS.Signals) =>
  new Promise<void>((resolve) => {
    child.once('exit', () => resolve());
    child.kill(signal);
  });

/** Four hands write until the server dies; what it answered is remembered. */
function writeUntilDead(): { stop: () => void; done: Promise<unknown> } {
  let stopped = false;
  const hand = async () => {
    while (!stopped) {
      const id = v7();
      const answer = await request('PUT', `/api/observations/${id}`, {
        batchId,
        data: { kind: 'note', text: `note ${id}` },
      }).catch(() => null);
      if (!answer) return;
      if (answer.status === 201) acknowledged.push(id);
    }
  };
  return { stop: () => (stopped = true), done: Promise.all([hand(), hand(), hand(), hand()]) };
}

async function lost(): Promise<string[]> {
  const view = (await (await request('GET', `/api/batches/${batchId}`)).json()) as {
    observations: { id: string }[];
  };
  const there = new Set(view.observations.map((o) => o.id));
  return acknowledged.filter((id) => !there.has(id));
}

beforeAll(async () => {
  directory = await mkdtemp(join(tmpdir(), 'wunsch-kill-'));
  port = await new Promise<number>((resolve) => {
    const probe = createServer().listen(0, '127.0.0.1', () => {
      const address = probe.address();
      probe.close(() => resolve(typeof address === 'object' && address ? address.port : 0));
    });
  });
  const child = await start();
  await request('POST', '/api/first-run', firstRun());
  const signedIn = await request('POST', '/api/session', { name: 'Ada', password: 'a long password' });
  cookie = signedIn.headers.get('set-cookie')!.split(';')[0]!;
  const lotId = v7();
  await request('PUT', `/api/lots/${lotId}`, {
    code: 'KL',
    name: 'Kill',
    massMg: 50_000_000,
    receivedOn: '2026-09-01',
    stepId: v7(),
    movementId: v7(),
    parcelId: v7(),
  });
  batchId = v7();
  expect((await request('PUT', `/api/batches/${batchId}`, { code: 'KL-01', lotId })).status).toBe(201);
  await end(child, 'SIGKILL');
}, 120_000);
afterAll(() => rm(directory, { recursive: true, force: true }));

test(`no acknowledged entry is lost in ${KILLS} kills while writing`, async () => {
  for (let kill = 0; kill < KILLS; kill += 1) {
    const child = await start();
    const hands = writeUntilDead();
    await new Promise((resolve) => setTimeout(resolve, 150 + ((kill * 37) % 250)));
    await end(child, 'SIGKILL');
    hands.stop();
    await hands.done;
  }
  const child = await start();
  expect(acknowledged.length).toBeGreaterThan(KILLS);
  expect(await lost()).toEqual([]);
  await end(child, 'SIGKILL');
}, 1_200_000);

test('a second process is refused in one clear line', async () => {
  const child = await start();
  const second = spawn('node', [script], {
    env: { ...process.env, PORT: '0', WUNSCH_DATA: directory, DATABASE_URL: '', NODE_OPTIONS: '' },
    stdio: ['ignore', 'ignore', 'pipe'],
  });
  let said = '';
  second.stderr!.on('data', (chunk: Buffer) => (said += chunk.toString()));
  const code = await new Promise((resolve) => second.once('exit', resolve));
  expect(code).toBe(1);
  expect(said.trim()).toMatch(/^the data directory .* is in use by process \d+; stop it first/);
  expect(said.trim().split('\n')).toHaveLength(1);
  await end(child, 'SIGKILL');
}, 60_000);

test(`a store torn in mid-write, put back beside the journal, loses nothing (${TORN_COPIES} copies)`, async () => {
  const store = join(directory, 'store');
  for (let copy = 0; copy < TORN_COPIES; copy += 1) {
    const child = await start();
    const hands = writeUntilDead();
    await new Promise((resolve) => setTimeout(resolve, 60 + copy * 40));
    await cp(store, `${store}.torn`, { recursive: true });
    await new Promise((resolve) => setTimeout(resolve, 60));
    await end(child, 'SIGKILL');
    hands.stop();
    await hands.done;
    await rm(store, { recursive: true });
    await cp(`${store}.torn`, store, { recursive: true });
    await rm(`${store}.torn`, { recursive: true });
  }
  const child = await start();
  expect(await lost()).toEqual([]);
  await end(child, 'SIGTERM');
}, 600_000);

test('an old store that was closed whole catches up from the journal', async () => {
  const store = join(directory, 'store');
  await cp(store, `${store}.old`, { recursive: true });
  const child = await start();
  const hands = writeUntilDead();
  await new Promise((resolve) => setTimeout(resolve, 200));
  await end(child, 'SIGKILL');
  hands.stop();
  await hands.done;
  await rm(store, { recursive: true });
  await cp(`${store}.old`, store, { recursive: true });
  const again = await start();
  expect(await lost()).toEqual([]);
  await end(again, 'SIGTERM');
}, 120_000);
