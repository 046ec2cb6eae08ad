import { PGlite } from '@electric-sql/pglite';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { v7 } from 'uuid';
import { buildApp, openEmbedded } from '@wunsch/server';
import { fillSaltmarsh } from '@wunsch/demo';
import { bigLot } from './lot.ts';
import { given, printTable } from './table.ts';

/** Lines of a step. */
const LINES = 16;

/** People who enter at the same time. */
const HANDS = 8;

/**
 * Single entries of the usual kinds, made by eight hands through the door for writing: checked, balanced, journalled and flushed before each
 * answer. Baseline: plain rows written one by one into a bare PGlite. Each is measured twice, since the database runs slowly until
 * its WebAssembly has been compiled for speed.
 */
export async function entries(): Promise<void> {
  const each = given('entries', 400);
  const directory = mkdtempSync(join(tmpdir(), 'wunsch-entries-'));
  let queries = 0;
  const store = await openEmbedded({
    directory: join(directory, 'wunsch'),
    logger: { logQuery: () => void (queries += 1) },
  });
  await fillSaltmarsh(store, { now: Date.now(), batches: 2 });
  const app = await buildApp({ store: () => store });
  const session = (await app.inject({ url: '/api/session', headers: { host: 'localhost' } })).json();
  const signedIn = await app.inject({
    method: 'POST',
    url: '/api/session',
    payload: { demoPersonId: session.demoPeople[0].id },
    headers: { host: 'localhost' },
  });
  const cookie = `${signedIn.cookies[0]!.name}=${signedIn.cookies[0]!.value}`;
  const ask = async (url: string) => (await app.inject({ url, headers: { cookie } })).json();
  const put = async (url: string, payload: object) => {
    const answer = await app.inject({ method: 'PUT', url, headers: { cookie }, payload });
    if (answer.statusCode !== 201) throw new Error(`${url}: ${answer.body}`);
  };

  const { lotId, parcelId } = await bigLot(put);
  const batchId = v7();
  await put(`/api/batches/${batchId}`, { code: 'BE-01', lotId });
  let stepId = v7();
  // A step has a dozen lines or two; then comes the next one.
  const nextStep = async () => {
    stepId = v7();
    await put(`/api/steps/${stepId}`, { batchId, station: 'sort' });
  };
  const { id: ingredientId } = ((await ask('/api/ingredients')) as { id: string; key: string }[]).find((i) =>
    i.key.includes('sugar'),
  )!;
  const taken: string[] = [];
  const kinds: [string, (i: number) => Promise<void>][] = [
    ['a note', (i) => put(`/api/observations/${v7()}`, { batchId, data: { kind: 'note', text: `${i}` } })],
    [
      'weighed in from a sack',
      (i) => {
        const id = v7();
        taken.push(id);
        return put(`/api/movements/${id}`, { stepId, direction: 'in', parcelId, massMg: 1000 + i });
      },
    ],
    [
      'weighed in from the shelf',
      (i) => put(`/api/movements/${v7()}`, { stepId, direction: 'in', ingredientId, massMg: 1000 + i }),
    ],
    [
      'weighed out',
      (i) =>
        put(`/api/movements/${v7()}`, {
          stepId,
          direction: 'out',
          parcelId: v7(),
          material: 'sorted beans',
          massMg: 100 + i,
        }),
    ],
    [
      'put right',
      (i) =>
        put(`/api/corrections/${v7()}`, { movementId: taken.shift(), massMg: 900 + i, reason: 'misread' }),
    ],
  ];

  const rate = async (task: (i: number) => Promise<unknown>) => {
    let passed = 0;
    for (let i = 0; i < each; i += HANDS) {
      if (i % LINES === 0) await nextStep();
      const start = performance.now();
      await Promise.all(Array.from({ length: HANDS }, (_, k) => task(i + k)));
      passed += performance.now() - start;
    }
    return each / (passed / 1000);
  };

  const bare = await PGlite.create(join(directory, 'bare'));
  await bare.exec('create table r (id uuid primary key, step_id uuid, at timestamptz, celsius real)');
  const plain = () => rate(() => bare.query(`insert into r values ('${v7()}','${stepId}',now(),120)`));
  const baseline = [await plain(), 0];

  const cold: [number, number][] = [];
  const warm: number[] = [];
  for (const [, task] of kinds) {
    queries = 0;
    const found = await rate(task);
    cold.push([found, queries / each]);
  }
  for (const [, task] of kinds) warm.push(await rate(task));
  baseline[1] = await plain();
  await bare.close();
  await app.close();
  await store.close();
  rmSync(directory, { recursive: true, force: true });

  const whole = (n: number) => `${Math.round(n)}/s`;
  printTable(
    `single entries by ${HANDS} hands, ${each} of each kind (baseline: plain rows in a bare PGlite)`,
    [
      ['entry', 'first', 'of baseline', 'again', 'of baseline', 'queries each'],
      ['plain rows', whole(baseline[0]!), '1.00', whole(baseline[1]), '1.00', '1'],
      ...kinds.map(([name], i) => [
        name,
        whole(cold[i]![0]),
        (cold[i]![0] / baseline[0]!).toFixed(2),
        whole(warm[i]!),
        (warm[i]! / baseline[1]!).toFixed(2),
        cold[i]![1].toFixed(1),
      ]),
    ],
  );
}
