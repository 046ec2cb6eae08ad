import { sql } from 'drizzle-orm';
import {
  appendFileSync,
  cpSync,
  existsSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  statSync,
  truncateSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { v7 } from 'uuid';
import { FirstRun, MachinePut } from '@wunsch/contract';
import { Journal } from '../journal/journal.ts';
import { firstRun } from '../testing/workshop.ts';
import { openEmbedded } from './embedded.ts';
import type { Store } from './store.ts';

let directory: string;
beforeEach(() => (directory = mkdtempSync(join(tmpdir(), 'wunsch-damage-'))));
afterEach(() => rmSync(directory, { recursive: true, force: true }));

const OWNER = { id: v7(), initials: 'AK', role: 'owner' as const };
const journalFile = () => join(directory, 'journal', '00000001.jsonl');

async function setUp(store: Store): Promise<void> {
  const { workshop, machines } = FirstRun.parse(firstRun());
  await store.writer.submit({
    kind: 'workshop.setup',
    target: 'workshop',
    actor: OWNER,
    body: { workshop, machines, people: [{ ...OWNER, name: 'Ada', passwordHash: 'x' }], ingredients: [] },
  });
}

const putMachine = (store: Store, name: string) =>
  store.writer.submit({
    kind: 'machine.put',
    target: v7(),
    actor: OWNER,
    body: MachinePut.parse({ name, station: 'grind' }),
  });

const names = async (store: Store) =>
  (
    (await store.db.execute(sql`select name from machine order by name`)) as unknown as {
      rows: { name: string }[];
    }
  ).rows.map((r) => r.name);

/** Makes a workshop with some machines and closes it. */
async function make(machines: readonly string[], snapshotAfter?: number): Promise<void> {
  const store = await openEmbedded({ directory, snapshotAfter });
  await setUp(store);
  for (const name of machines) await putMachine(store, name);
  await store.close();
}

/** Adds a line to the journal as another release, or a fault, might have left it there. */
async function addToJournal(...entries: { kind: string; version?: number; body: unknown }[]): Promise<void> {
  const journal = await Journal.open(join(directory, 'journal'));
  for (const { kind, version = 1, body } of entries)
    await journal.append([
      {
        seq: journal.lastSeq + 1,
        kind,
        version,
        target: v7(),
        at: '2026-09-01T08:00:00.000Z',
        by: 'AK',
        personId: OWNER.id,
        body,
      },
    ]);
  await journal.close();
}

test('an entry that cannot be applied is set aside by name, and stops neither those after it nor opening', async () => {
  await make(['Otto']);
  const good = { ...MachinePut.parse({ name: 'Third', station: 'grind' }), ifMatch: null };
  await addToJournal(
    { kind: 'machine.put', body: { name: 'No station' } },
    { kind: 'never.heard', body: { odd: true } },
    { kind: 'machine.put', version: 99, body: good },
    { kind: 'machine.put', body: good },
    { kind: 'readings.stream', body: { stepId: v7(), place: 'bean', probe: 'a\u0000b', source: 'x' } },
  );
  const store = await openEmbedded({ directory });
  expect(store.opened).toMatchObject({ rebuilt: false, replayed: 1, setAside: 4 });
  expect(await names(store)).toEqual(['Ida', 'Otto', 'Third']);
  const aside = (await store.db.execute(
    sql`select seq, kind, reason from set_aside order by seq`,
  )) as unknown as {
    rows: { kind: string; reason: string }[];
  };
  expect(aside.rows.map((r) => r.kind)).toEqual([
    'machine.put',
    'never.heard',
    'machine.put',
    'readings.stream',
  ]);
  expect(aside.rows[0]!.reason).toContain('station');
  expect(aside.rows[1]!.reason).toContain('knows no entry of the kind never.heard');
  expect(aside.rows[2]!.reason).toContain('newer release');
  // Numbering goes on after them, and they are not tried again.
  const { seq } = await putMachine(store, 'Fourth');
  expect(seq).toBe(8);
  await store.close();
  const again = await openEmbedded({ directory });
  expect(again.opened).toMatchObject({ replayed: 0, setAside: 0 });
  await again.close();
});

test('a damaged newest snapshot is passed over for the older one, and told', async () => {
  const store = await openEmbedded({ directory, snapshotAfter: 2 });
  await setUp(store);
  await store.close();
  // Two crashes with entries in between make two snapshots.
  for (const round of ['A', 'B']) {
    rmSync(join(directory, 'store', 'CLEAN'));
    const again = await openEmbedded({ directory, snapshotAfter: 1 });
    await putMachine(again, `${round}1`);
    await putMachine(again, `${round}2`);
    await again.close();
  }
  rmSync(join(directory, 'store', 'CLEAN'));
  const [newest, older] = readdirSync(join(directory, 'snapshots'))
    .map(Number)
    .sort((a, b) => b - a);
  expect(older).toBeGreaterThan(0);
  // One byte of one table.
  const base = join(directory, 'snapshots', String(newest), 'pg', 'base');
  const victim = readdirSync(base, { recursive: true, encoding: 'utf8' })
    .map((n) => join(base, n))
    .filter((n) => statSync(n).isFile())
    .sort((a, b) => statSync(b).size - statSync(a).size)[0]!;
  const bytes = readFileSync(victim);
  bytes[bytes.length >> 1]! ^= 0xff;
  writeFileSync(victim, bytes);
  const opened = await openEmbedded({ directory });
  expect(opened.opened.damaged).toHaveLength(1);
  expect(opened.opened.damaged[0]).toMatch(new RegExp(`snapshot after entry ${newest} .*is damaged`));
  expect(await names(opened)).toEqual(['A1', 'A2', 'B1', 'B2', 'Ida']);
  await opened.close();
}, 120_000);

test('tables cut away: the first start recovers, not the second', async () => {
  await make(['Otto']);
  const base = join(directory, 'store', 'pg', 'base');
  for (const name of readdirSync(base, { recursive: true, encoding: 'utf8' })) {
    const path = join(base, name);
    if (statSync(path).isFile() && statSync(path).size > 8192) truncateSync(path, 0);
  }
  const store = await openEmbedded({ directory });
  expect(store.opened).toMatchObject({ rebuilt: true, replayed: 2 });
  expect(store.opened.damaged[0]).toContain('the store');
  expect(await names(store)).toEqual(['Ida', 'Otto']);
  await store.close();
}, 120_000);

test('lines missing from the journal: opening says which and what they were, and goes on only when told to', async () => {
  await make(['A', 'B', 'C', 'D']);
  const lines = readFileSync(journalFile(), 'utf8').split('\n');
  writeFileSync(journalFile(), [...lines.slice(0, 2), ...lines.slice(4)].join('\n'));
  const refused = await openEmbedded({ directory }).catch((e: Error) => e);
  expect(refused).toMatchObject({ name: 'JournalHolesError' });
  expect((refused as Error).message).toMatch(
    /00000001\.jsonl line 3: entries 3 to 4 \(2\) are missing; the store still has 2 machine\.put/,
  );
  expect((refused as Error).message).toContain('WUNSCH_ACCEPT_GAPS=yes');
  // Nothing has been touched: it says the same again, and the store is still whole.
  await expect(openEmbedded({ directory })).rejects.toMatchObject({ name: 'JournalHolesError' });
  const store = await openEmbedded({ directory, acceptGaps: true });
  expect(store.opened.holes).toHaveLength(1);
  expect(store.opened.rebuilt).toBe(false);
  expect(await names(store)).toEqual(['A', 'B', 'C', 'D', 'Ida']);
  await store.close();
  // Once decided, it is not asked again.
  await (await openEmbedded({ directory })).close();
}, 120_000);

test('a journal that is older than the store, or gone, is noticed', async () => {
  await make(['A', 'B']);
  const lines = readFileSync(journalFile(), 'utf8').split('\n');
  writeFileSync(journalFile(), `${lines[0]}\n`);
  await expect(openEmbedded({ directory })).rejects.toThrow(/entries 2 to 3 \(2\) are missing/);
  rmSync(join(directory, 'journal'), { recursive: true });
  await expect(openEmbedded({ directory })).rejects.toThrow(/entries 1 to 3 \(3\) are missing/);
}, 120_000);

test('what a newer release has written is not opened', async () => {
  await make([]);
  writeFileSync(join(directory, 'format.json'), '{"format": 99}');
  await expect(openEmbedded({ directory })).rejects.toThrow(/written by a newer release/);
  writeFileSync(join(directory, 'format.json'), '{"format": 2}');
  const store = await openEmbedded({ directory });
  await store.db.execute(
    sql`insert into drizzle.__drizzle_migrations (hash, created_at) values ('of the future', 9999999999999)`,
  );
  await store.close();
  await expect(openEmbedded({ directory })).rejects.toThrow(/written by a newer release/);
}, 120_000);

test('while the disk has no room entries are refused in words and reading goes on; with room all is well', async () => {
  const store = await openEmbedded({ directory, leastFree: 0 });
  await setUp(store);
  await store.close();
  const full = await openEmbedded({ directory, leastFree: Number.MAX_SAFE_INTEGER });
  const before = full.writer.lastSeq;
  await expect(putMachine(full, 'No room')).rejects.toMatchObject({ status: 507, code: 'disk-full' });
  expect(full.writer.lastSeq).toBe(before);
  expect(await names(full)).toEqual(['Ida']);
  await full.close();
  const again = await openEmbedded({ directory });
  expect((await putMachine(again, 'Room')).seq).toBe(before + 1);
  expect(await names(again)).toEqual(['Ida', 'Room']);
  await again.close();
}, 120_000);

test('a data directory is for its owner alone', async () => {
  await make([]);
  expect(statSync(directory).mode & 0o077).toBe(0);
  expect(statSync(journalFile()).mode & 0o077).toBe(0);
});

test('an unfinished line at the end was never answered: it is cut off and the workshop opens', async () => {
  await make(['A']);
  appendFileSync(journalFile(), '{"crc":"00000000","entry":{"seq":3,"kind":"mach');
  const store = await openEmbedded({ directory });
  expect(await names(store)).toEqual(['A', 'Ida']);
  expect(existsSync(`${journalFile()}.torn`)).toBe(true);
  await store.close();
});

describe('directories of earlier releases', () => {
  const fixtures = join(import.meta.dirname, '../../fixtures');
  test.each(readdirSync(fixtures))('of the shape "%s" open, with the same books', async (shape) => {
    cpSync(join(fixtures, shape, 'journal'), join(directory, 'journal'), { recursive: true });
    const wanted = JSON.parse(readFileSync(join(fixtures, shape, 'answers.json'), 'utf8')) as {
      lastSeq: number;
      batchId: string;
      stock: { id: string; material: string; remainingMg: number }[];
      ingredients: { id: string; key: string }[];
      bars: number;
      observations: number;
      tastings: number;
      steps: number;
      movements: number;
      series: { place: string; count: number }[];
      cost: number;
    };
    const store = await openEmbedded({ directory });
    expect(store.opened).toMatchObject({ setAside: 0, holes: [] });
    expect(store.writer.lastSeq).toBe(wanted.lastSeq);
    const { buildApp } = await import('../app.ts');
    const { signIn } = await import('../testing/workshop.ts');
    const app = await buildApp({ store: () => store });
    const cookie = await signIn({ app } as never, 'Ada', 'a long password');
    const get = async (url: string) => {
      const response = await app.inject({ url, headers: { cookie, host: 'localhost:4310' } });
      expect([url, response.statusCode]).toEqual([url, 200]);
      return response.json();
    };
    const stock = (await get('/api/stock')) as typeof wanted.stock;
    expect(stock.map(({ id, material, remainingMg }) => ({ id, material, remainingMg }))).toEqual(
      wanted.stock,
    );
    const shelf = (await get('/api/ingredients')) as typeof wanted.ingredients;
    expect(shelf.map(({ id, key }) => ({ id, key }))).toEqual(wanted.ingredients);
    const view = await get(`/api/batches/${wanted.batchId}`);
    expect({
      bars: view.flow.bars,
      steps: view.steps.length,
      movements: view.movements.length,
      observations: view.observations.length,
      tastings: view.tastings.length,
      series: view.series.map((s: { place: string; count: number }) => ({ place: s.place, count: s.count })),
    }).toEqual({
      bars: wanted.bars,
      steps: wanted.steps,
      movements: wanted.movements,
      observations: wanted.observations,
      tastings: wanted.tastings,
      series: wanted.series,
    });
    expect(view.steps.map((s: { kind: string }) => s.kind)).toContain('conche');
    for (const url of [
      '/api/bench',
      '/api/lots',
      '/api/batches',
      '/api/trail',
      '/api/recipes',
      '/api/trials',
      '/api/samples',
      '/api/roasts',
      '/api/winnowings',
      '/api/sortings',
      '/api/conches',
      '/api/retastes',
      '/api/traps',
      '/api/machines',
      '/api/people',
      '/api/supplies',
      '/api/set-aside',
    ])
      await get(url);
    await app.close();
    await store.close();
  });
});
