import { PGlite } from '@electric-sql/pglite';
import { chromium } from '@playwright/test';
import { spawn } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { gzipSync } from 'node:zlib';
import { v7 } from 'uuid';
import { buildApp, openEmbedded } from '@wunsch/server';
import { fillSaltmarsh } from '@wunsch/demo';
import launch from '../../scripts/chromium.json' with { type: 'json' };
import { advice } from './advice.ts';
import { forecasts } from './forecasts.ts';
import { archive } from './archive.ts';
import { entries } from './entries.ts';
import { exportFile } from './exportFile.ts';
import { labels } from './labels.ts';
import { panel } from './panel.ts';
import { plan } from './plan.ts';
import { load } from './load.ts';
import { models } from './models.ts';
import { probes } from './probes.ts';
import { trace } from './trace.ts';
import { bigLot } from './lot.ts';
import { makeTenYears } from './tenYears.ts';
import { median, ms, printTable, time } from './table.ts';

const root = fileURLToPath(new URL('../..', import.meta.url));
const only = process.argv.slice(2).filter((a) => !a.startsWith('--'));
const wanted = (name: string) => only.length === 0 || only.includes(name);

/** Times each page is asked after an entry. */
const ENTRIES = 11;

/** Server time and queries of the pages on ten years of data: the first time, after an entry that touches them, and when nothing has changed. */
async function tenYears(): Promise<void> {
  const directory = mkdtempSync(join(tmpdir(), 'wunsch-bench-'));
  let queries = 0;
  const store = await openEmbedded({
    directory,
    logger: {
      logQuery: () => {
        queries += 1;
      },
    },
    snapshotAfter: Infinity,
  });
  await fillSaltmarsh(store, { now: Date.now() });
  const made = await makeTenYears(store, 3000);
  const app = await buildApp({ store: () => store });
  const [person] = (await app.inject({ url: '/api/session', headers: { host: 'localhost' } })).json()
    .demoPeople;
  const signedIn = await app.inject({
    method: 'POST',
    url: '/api/session',
    payload: { demoPersonId: person.id },
    headers: { host: 'localhost' },
  });
  const cookie = `${signedIn.cookies[0]!.name}=${signedIn.cookies[0]!.value}`;
  const get = (url: string) => app.inject({ url, headers: { cookie } });
  const bench = (await get('/api/bench')).json() as {
    batches: { id: string; lotId: string; code: string }[];
  };
  const put = async (url: string, payload: object) => {
    const answer = await app.inject({ method: 'PUT', url, headers: { cookie }, payload });
    if (answer.statusCode !== 201) throw new Error(`${url}: ${answer.body}`);
  };
  const { lotId, parcelId } = await bigLot(put);
  const [batchId, stepId] = [v7(), v7()];
  await put(`/api/batches/${batchId}`, { code: 'BE-01', lotId });
  await put(`/api/steps/${stepId}`, { batchId, station: 'sort' });
  /** A note on the batch the page is of, or a weight, which touches all other pages. */
  const enter = (batch: string | undefined, i: number) =>
    batch
      ? put(`/api/observations/${v7()}`, { batchId: batch, data: { kind: 'note', text: `${i}` } })
      : put(`/api/movements/${v7()}`, { stepId, direction: 'in', parcelId, massMg: 1000 + i });
  const rows = [['page', 'first', `after an entry, median of ${ENTRIES}`, 'again, median of 30', 'queries']];
  const urls = [
    '/api/bench',
    ...bench.batches.map((b) => `/api/batches/${b.id}`),
    `/api/batches/${bench.batches[0]!.id}/cost`,
    '/api/lots',
    '/api/stock',
    '/api/stock?of=work',
    '/api/stock-items',
    '/api/stock-values',
    '/api/batches?limit=20000',
    '/api/deliveries',
    '/api/costs',
    '/api/skills/runs',
    `/api/lots/${bench.batches[0]!.lotId}`,
    '/api/find?q=NK-0',
  ];
  for (const url of urls) {
    queries = 0;
    const begun = performance.now();
    await get(url);
    const first = performance.now() - begun;
    const used = queries;
    const batch = bench.batches.find((b) => url.includes(b.id));
    const anew: number[] = [];
    for (let i = 0; i < ENTRIES; i += 1) {
      await enter(batch?.id, i);
      const start = performance.now();
      await get(url);
      anew.push(performance.now() - start);
    }
    const times = await time(30, () => get(url));
    rows.push([
      batch ? `batch ${batch.code}${url.endsWith('/cost') ? ', its cost' : ''}` : url,
      ms(first),
      ms(median(anew)),
      ms(median(times)),
      String(used),
    ]);
  }
  printTable(
    `ten years: ${made.batches} batches, ${made.movements} movements, ${made.readings} readings`,
    rows,
  );
  await app.close();
  await store.close();
  rmSync(directory, { recursive: true, force: true });
}

/** Readings taken in through the writer and its journal, against plain rows in a bare PGlite. */
async function readingsRate(): Promise<void> {
  const directory = mkdtempSync(join(tmpdir(), 'wunsch-bench-'));
  const store = await openEmbedded({ directory: join(directory, 'wunsch') });
  await fillSaltmarsh(store, { now: Date.now(), batches: 2 });
  const app = await buildApp({ store: () => store });
  const [person] = (await app.inject({ url: '/api/session', headers: { host: 'localhost' } })).json()
    .demoPeople;
  const signedIn = await app.inject({
    method: 'POST',
    url: '/api/session',
    payload: { demoPersonId: person.id },
    headers: { host: 'localhost' },
  });
  const cookie = `${signedIn.cookies[0]!.name}=${signedIn.cookies[0]!.value}`;
  const bench = (await app.inject({ url: '/api/bench', headers: { cookie } })).json() as {
    running: { stepId: string }[];
  };
  const stepId = bench.running[0]!.stepId;
  const post = (points: number) =>
    app.inject({
      method: 'PUT',
      url: `/api/readings/${v7()}`,
      headers: { cookie },
      payload: {
        stepId,
        place: 'oven',
        startedAt: new Date().toISOString(),
        seconds: Array.from({ length: points }, (_, i) => i),
        celsius: Array.from({ length: points }, () => 120),
        source: 'bench',
      },
    });
  const rate = async (points: number, posts: number) => {
    const start = performance.now();
    for (let i = 0; i < posts; i += 8) await Promise.all(Array.from({ length: 8 }, () => post(points)));
    return (points * posts) / ((performance.now() - start) / 1000);
  };
  const single = await rate(1, 400);
  const thousand = await rate(1000, 80);
  await app.close();
  await store.close();
  const bare = await PGlite.create(join(directory, 'bare'));
  await bare.exec('create table r (id uuid primary key, step_id uuid, at timestamptz, celsius real)');
  const insert = async (points: number, posts: number) => {
    const start = performance.now();
    for (let i = 0; i < posts; i += 1) {
      const values = Array.from(
        { length: points },
        (_, k) => `('${v7()}','${stepId}',now() + interval '${k} s',120)`,
      ).join(',');
      await bare.query(`insert into r values ${values}`);
    }
    return (points * posts) / ((performance.now() - start) / 1000);
  };
  const bareSingle = await insert(1, 400);
  const bareThousand = await insert(1000, 20);
  await bare.close();
  rmSync(directory, { recursive: true, force: true });
  const row = (name: string, ours: number, base: number) => [
    name,
    `${Math.round(ours)}/s`,
    `${Math.round(base)}/s`,
    (ours / base).toFixed(2),
  ];
  printTable(
    'readings taken in (ours: HTTP, checked, journalled and flushed; baseline: plain rows in a bare PGlite)',
    [
      ['delivery', 'ours', 'baseline', 'ratio'],
      row('1 a request, 8 hands', single, bareSingle),
      row('1,000 a request', thousand, bareThousand),
    ],
  );
}

/** What the browser is sent for the Bench, and how long until it can be used. */
async function firstScreen(): Promise<void> {
  const directory = mkdtempSync(join(tmpdir(), 'wunsch-bench-'));
  const port = 4397;
  const env = { ...process.env, PORT: String(port), WUNSCH_DATA: directory, DATABASE_URL: '' };
  const start = () => spawn('node', [join(root, 'demo/dist/start.js')], { cwd: root, env, stdio: 'ignore' });
  const until = async (state: string) => {
    for (;;) {
      const health = await fetch(`http://127.0.0.1:${port}/api/health`).then(
        (r) => r.json() as Promise<{ status: string }>,
        () => null,
      );
      if (health && (state === 'any' || health.status === state)) return;
      await new Promise((resolve) => setTimeout(resolve, 10));
    }
  };
  const stop = (child: ReturnType<typeof start>) =>
    new Promise<void>((resolve) => {
      child.once('exit', () => resolve());
      child.kill('SIGTERM');
    });
  let began = performance.now();
  let child = start();
  await until('any');
  const answering = performance.now() - began;
  await until('ok');
  const filled = performance.now() - began;
  await stop(child);
  began = performance.now();
  child = start();
  await until('ok');
  const reopened = performance.now() - began;
  const browser = await chromium.launch(launch);
  const times: number[] = [];
  const scripts = new Set<string>();
  for (let i = 0; i < 7; i += 1) {
    const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
    const page = await context.newPage();
    await page.goto(`http://127.0.0.1:${port}`);
    await page.getByRole('button', { name: /Anneke/ }).click();
    await page.getByRole('heading', { name: 'Running' }).waitFor();
    const { cookies } = await context.storageState();
    await context.close();
    const fresh = await browser.newContext({ viewport: { width: 1280, height: 800 } });
    await fresh.addCookies(cookies);
    const cold = await fresh.newPage();
    cold.on('response', (r) => r.url().endsWith('.js') && scripts.add(new URL(r.url()).pathname));
    const opened = performance.now();
    await cold.goto(`http://127.0.0.1:${port}`, { waitUntil: 'commit' });
    await cold.getByRole('button', { name: 'Start a batch' }).waitFor();
    times.push(performance.now() - opened);
    await fresh.close();
  }
  await browser.close();
  await stop(child);
  rmSync(directory, { recursive: true, force: true });
  const gzip = (path: string) => gzipSync(readFileSync(path), { level: 9 }).length;
  const sent = [...scripts].reduce((sum, path) => sum + gzip(join(root, 'web/dist', path)), 0);
  const charts = readdirSync(join(root, 'web/dist/assets'))
    .filter((n) => /^apex.*\.js$/.test(n))
    .reduce((sum, n) => sum + gzip(join(root, 'web/dist/assets', n)), 0);
  printTable('first screen (production build, demo workshop, cold browser cache)', [
    ['what', 'value'],
    ['server answers after start', ms(answering)],
    ['demo made and open, first start', ms(filled)],
    ['open again, later starts', ms(reopened)],
    ['Bench usable after the address is opened, median of 7', ms(median(times))],
    ['JS sent for the Bench, gzip', `${(sent / 1000).toFixed(1)} kB`],
    ['charts, loaded only where used, gzip', `${(charts / 1000).toFixed(1)} kB`],
  ]);
}

if (wanted('models')) await models();
if (wanted('labels')) await labels();
if (wanted('panel')) panel();
if (wanted('plan')) plan();
if (wanted('advice')) advice();
if (wanted('forecasts')) forecasts();
if (wanted('trace')) await trace();
if (wanted('archive')) await archive();
// Five minutes of readings: only when asked for.
if (only.includes('probes')) await probes();
if (wanted('first')) await firstScreen();
if (wanted('load')) await load();
if (wanted('export')) await exportFile();
if (wanted('readings')) await readingsRate();
if (wanted('entries')) await entries();
if (wanted('ten')) await tenYears();
