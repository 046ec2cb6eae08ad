import autocannon from 'autocannon';
import { spawn } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { printTable } from './table.ts';

const root = fileURLToPath(new URL('../..', import.meta.url));
const PORT = 4398;
const base = `http://127.0.0.1:${PORT}`;
const CONNECTIONS = 20;
const SECONDS = 6;

/**
 * Twenty pages at once on the demo workshop just opened. Baseline: the same addresses with a query that changes each time, so
 * that every answer is drawn up anew, as all were before answers were kept.
 */
export async function load(): Promise<void> {
  const directory = mkdtempSync(join(tmpdir(), 'wunsch-load-'));
  const server = spawn('node', [join(root, 'demo/dist/start.js')], {
    cwd: root,
    env: { ...process.env, PORT: String(PORT), WUNSCH_DATA: directory, DATABASE_URL: '' },
    stdio: 'ignore',
  });
  for (;;) {
    const ready = await fetch(`${base}/api/health/ready`).then(
      (r) => r.ok,
      () => false,
    );
    if (ready) break;
    await new Promise((resolve) => setTimeout(resolve, 200));
  }
  const session = (await (await fetch(`${base}/api/session`)).json()) as { demoPeople: { id: string }[] };
  const signedIn = await fetch(`${base}/api/session`, {
    method: 'POST',
    headers: { 'content-type': 'application/json', origin: base },
    body: JSON.stringify({ demoPersonId: session.demoPeople[0]!.id }),
  });
  const cookie = signedIn.headers.get('set-cookie')!.split(';')[0]!;
  const bench = (await (await fetch(`${base}/api/bench`, { headers: { cookie } })).json()) as {
    batches: { id: string; lotId: string }[];
  };
  const rows = [['page', 'kept: answers/s', 'p50', 'p99', 'anew: answers/s', 'p50', 'p99', 'refused']];
  for (const path of [
    '/api/bench',
    '/api/stock',
    `/api/lots/${bench.batches[0]!.lotId}`,
    `/api/batches/${bench.batches[0]!.id}`,
  ]) {
    const kept = await ask(path, cookie, false);
    const anew = await ask(path, cookie, true);
    rows.push([
      path.replace(/[0-9a-f-]{36}/, ':id'),
      kept.requests.average.toFixed(0),
      `${kept.latency.p50} ms`,
      `${kept.latency.p99} ms`,
      anew.requests.average.toFixed(0),
      `${anew.latency.p50} ms`,
      `${anew.latency.p99} ms`,
      String(kept.non2xx + anew.non2xx + kept.errors + anew.errors),
    ]);
  }
  printTable(
    `pages under load: ${CONNECTIONS} connections, ${SECONDS} s each, first right after opening`,
    rows,
  );
  await new Promise<void>((resolve) => {
    server.once('exit', () => resolve());
    server.kill('SIGTERM');
  });
  rmSync(directory, { recursive: true, force: true });
}

let asked = 0;

function ask(path: string, cookie: string, isAnew: boolean) {
  return autocannon({
    url: base,
    connections: CONNECTIONS,
    duration: SECONDS,
    requests: [
      {
        method: 'GET',
        path,
        headers: { cookie },
        setupRequest: (request) => ({
          ...request,
          path: isAnew ? `${path}?anew=${(asked += 1)}` : path,
        }),
      },
    ],
  });
}
