import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { v7 } from 'uuid';
import { buildApp, openEmbedded } from '@wunsch/server';
import { fillSaltmarsh } from '@wunsch/demo';
import { printTable } from './table.ts';
import { take } from './take.ts';

/** Points of the file that is taken out, in deliveries of a board. */
const POINTS = 1_600_000;
const DELIVERY = 10_000;

/** A step with 1.6 million readings taken out as CSV: streamed, beside gathering all of it first. */
export async function exportFile(): Promise<void> {
  const directory = mkdtempSync(join(tmpdir(), 'wunsch-bench-'));
  const store = await openEmbedded({ directory });
  await fillSaltmarsh(store, { now: Date.now(), batches: 2 });
  const app = await buildApp({ store: () => store });
  await app.listen({ port: 0, host: '127.0.0.1' });
  const address = app.server.address();
  const base = `http://127.0.0.1:${typeof address === 'object' && address ? address.port : 0}`;
  const [person] = ((await (await fetch(`${base}/api/session`)).json()) as { demoPeople: { id: string }[] })
    .demoPeople;
  const signedIn = await fetch(`${base}/api/session`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ demoPersonId: person!.id }),
  });
  const cookie = signedIn.headers.get('set-cookie')!.split(';')[0]!;
  const bench = (await (await fetch(`${base}/api/bench`, { headers: { cookie } })).json()) as {
    running: { stepId: string }[];
  };
  const stepId = bench.running[0]!.stepId;
  for (let i = 0; i < POINTS / DELIVERY; i += 1) {
    const answer = await fetch(`${base}/api/readings/${v7()}`, {
      method: 'PUT',
      headers: { cookie, 'content-type': 'application/json' },
      body: JSON.stringify({
        stepId,
        place: 'grinder',
        startedAt: new Date(Date.now() - (POINTS - i * DELIVERY) * 1000).toISOString(),
        seconds: Array.from({ length: DELIVERY }, (_, k) => k),
        celsius: Array.from({ length: DELIVERY }, (_, k) => 45 + (k % 40) / 10),
        source: 'bench',
      }),
    });
    if (!answer.ok) throw new Error(await answer.text());
  }
  const url = `${base}/api/steps/${stepId}/readings.csv`;
  const streamed = await take(async () => {
    const answer = await fetch(url, { headers: { cookie } });
    if (!answer.ok) throw new Error(await answer.text());
    return answer.body!;
  });
  const gathered = await take(async () => {
    const whole = await (await fetch(url, { headers: { cookie } })).text();
    const rows = whole.split('\n').map((l) => l.split(','));
    return (async function* () {
      yield new TextEncoder().encode(rows.map((r) => r.join(',')).join('\n'));
    })();
  });
  await app.close();
  await store.close();
  rmSync(directory, { recursive: true, force: true });
  const row = (name: string, r: typeof streamed) => [
    name,
    `${r.seconds.toFixed(1)} s`,
    `${(r.bytes / 1e6).toFixed(0)} MB`,
    `${(r.extra / 1e6).toFixed(0)} MB`,
  ];
  printTable('1.6 million readings taken out as CSV (server and reader in one process)', [
    ['how', 'time', 'file', 'memory over the beginning'],
    row('streamed (ours)', streamed),
    row('gathered whole, as rows', gathered),
  ]);
}
