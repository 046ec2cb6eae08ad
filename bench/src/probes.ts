import { chromium } from '@playwright/test';
import { spawn } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { v7 } from 'uuid';
import launch from '../../scripts/chromium.json' with { type: 'json' };
import { printTable } from './table.ts';

const root = fileURLToPath(new URL('../..', import.meta.url));
const PROBES = 20;
const PER_SECOND = 5;
const SECONDS = Number(process.env.PROBE_SECONDS ?? 300);
const PORT = 4396;
const base = `http://127.0.0.1:${PORT}`;

/** CPU seconds a process has used (Linux). */
function cpuSeconds(pid: number): number {
  const fields = readFileSync(`/proc/${pid}/stat`, 'utf8').split(') ')[1]!.split(' ');
  return (Number(fields[11]) + Number(fields[12])) / 100;
}

/** Twenty probes at five readings a second, posted as boards do, with the roast room open in a browser: what arrives, and what it costs. */
export async function probes(): Promise<void> {
  const directory = mkdtempSync(join(tmpdir(), 'wunsch-probes-'));
  const server = spawn('node', [join(root, 'demo/dist/start.js')], {
    cwd: root,
    env: { ...process.env, PORT: String(PORT), WUNSCH_DATA: directory, DATABASE_URL: '' },
    stdio: 'ignore',
  });
  for (;;) {
    const health = await fetch(`${base}/api/health`).then(
      (r) => r.json() as Promise<{ status: string }>,
      () => null,
    );
    if (health?.status === 'ok') break;
    await new Promise((resolve) => setTimeout(resolve, 200));
  }
  const json = <T>(r: Response) => r.json() as Promise<T>;
  const session = await fetch(`${base}/api/session`).then((r) => json<{ demoPeople: { id: string }[] }>(r));
  const signIn = await fetch(`${base}/api/session`, {
    method: 'POST',
    headers: { 'content-type': 'application/json', origin: base },
    body: JSON.stringify({ demoPersonId: session.demoPeople[0]!.id }),
  });
  const cookie = signIn.headers.get('set-cookie')!.split(';')[0]!;
  const call = <T>(method: string, path: string, body?: object) =>
    fetch(`${base}${path}`, {
      method,
      headers: { cookie, origin: base, ...(body && { 'content-type': 'application/json' }) },
      ...(body && { body: JSON.stringify(body) }),
    }).then((r) => json<T>(r));
  const oven = v7();
  await call('PUT', `/api/machines/${oven}`, { name: 'Test oven', station: 'roast', kind: 'fan oven' });
  const { token } = await call<{ token: string }>('POST', `/api/machines/${oven}/token`);
  const lots = await call<{ id: string; code: string; parcelId: string }[]>('GET', '/api/lots');
  const lot = lots.find((l) => l.code === 'NK')!;
  const batch = v7();
  await call('PUT', `/api/batches/${batch}`, { code: 'PROBES', lotId: lot.id });
  const step = v7();
  await call('PUT', `/api/steps/${step}`, { batchId: batch, station: 'roast', machineId: oven });
  await call('PUT', `/api/movements/${v7()}`, {
    stepId: step,
    direction: 'in',
    parcelId: lot.parcelId,
    massMg: 2_000_000,
  });
  const browser = await chromium.launch(launch);
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.goto(base);
  await page.getByRole('button', { name: /Anneke/ }).click();
  await page.getByRole('heading', { name: 'Running' }).waitFor();
  await page.goto(`${base}/roast/${batch}`);
  await page.waitForTimeout(3000);
  // As text, since what the compiler adds to functions is not known to the page.
  await page.evaluate(`{
    globalThis.frames_ = [];
    let last = performance.now();
    requestAnimationFrame(function tick(now) {
      globalThis.frames_.push(now - last);
      last = now;
      requestAnimationFrame(tick);
    });
  }`);
  const before = cpuSeconds(server.pid!);
  const began = Date.now();
  let sent = 0;
  let refused = 0;
  const answers: number[] = [];
  const one = async (probe: number) => {
    for (let i = 0; i < SECONDS * PER_SECOND; i += 1) {
      const due = began + (i * 1000) / PER_SECOND + probe * 10;
      await new Promise((resolve) => setTimeout(resolve, Math.max(0, due - Date.now())));
      const asked = performance.now();
      const response = await fetch(`${base}/api/door/readings`, {
        method: 'POST',
        headers: { authorization: `Bearer ${token}`, 'content-type': 'application/json' },
        body: JSON.stringify({
          at: new Date(due).toISOString(),
          celsius: 20 + 100 * (1 - Math.exp(-i / 900)) + probe / 10,
          place: probe === 0 ? 'bean' : 'oven',
          probe: probe === 0 ? '' : `tray ${probe}`,
        }),
      });
      answers.push(performance.now() - asked);
      if (response.status === 202) sent += 1;
      else refused += 1;
      await response.arrayBuffer();
    }
  };
  await Promise.all(Array.from({ length: PROBES }, (_, probe) => one(probe)));
  const took = (Date.now() - began) / 1000;
  const cpu = cpuSeconds(server.pid!) - before;
  const frames = (await page.evaluate('globalThis.frames_')) as number[];
  await browser.close();
  // What is on the way to the store goes there within a few seconds.
  await new Promise((resolve) => setTimeout(resolve, 6000));
  const series = await call<{ count: number }[]>('GET', `/api/steps/${step}/series?width=100`);
  const stored = series.reduce((s, x) => s + x.count, 0);
  server.kill('SIGTERM');
  await new Promise((resolve) => server.once('exit', resolve));
  rmSync(directory, { recursive: true, force: true });
  const sorted = answers.toSorted((a, b) => a - b);
  const slow = frames.filter((f) => f > 1000 / 30).length;
  printTable(`${PROBES} probes, ${PER_SECOND} readings a second each, ${Math.round(took)} s, one a request`, [
    ['what', 'value'],
    ['readings sent and acknowledged', `${sent} (${refused} refused)`],
    ['readings stored', String(stored)],
    [
      'answer, median and 99th percentile',
      `${sorted[sorted.length >> 1]!.toFixed(1)} ms, ${sorted[Math.floor(sorted.length * 0.99)]!.toFixed(1)} ms`,
    ],
    ['server CPU, share of one core', `${((100 * cpu) / took).toFixed(0)} %`],
    ['screen, frames a second on average', (frames.length / took).toFixed(1)],
    ['frames slower than a thirtieth of a second', `${slow} of ${frames.length}`],
  ]);
}
