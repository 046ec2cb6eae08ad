import { sql } from 'drizzle-orm';
import { cpSync, existsSync, mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { v7 } from 'uuid';
import { FirstRun, MachinePut } from '@wunsch/contract';
import { openEmbedded } from './embedded.ts';
import type { Store } from './store.ts';
import { firstRun } from '../testing/workshop.ts';

let directory: string;
beforeEach(() => {
  directory = mkdtempSync(join(tmpdir(), 'wunsch-store-'));
});
afterEach(() => rmSync(directory, { recursive: true, force: true }));

const OWNER = { id: v7(), initials: 'AK', role: 'owner' as const };

async function setUp(store: Store): Promise<void> {
  const { workshop, machines } = FirstRun.parse(firstRun());
  await store.writer.submit({
    kind: 'workshop.setup',
    target: 'workshop',
    actor: OWNER,
    body: {
      workshop,
      machines,
      people: [{ ...OWNER, name: 'Ada', active: true, demo: false, passwordHash: 'x', ifMatch: null }],
      ingredients: [],
    },
  });
}

const putMachine = (store: Store, name: string) =>
  store.writer.submit({
    kind: 'machine.put',
    target: v7(),
    actor: OWNER,
    body: { ...MachinePut.parse({ name, station: 'grind' }), ifMatch: null },
  });

async function machines(store: Store): Promise<string[]> {
  const found = await store.db.execute(sql`select name from machine order by name`);
  return (found as unknown as { rows: { name: string }[] }).rows.map((r) => r.name);
}

/** The directory as a power cut would leave it, or as somebody copies it: while the store is open, its lock along with it. */
function cutThePower(place = directory): string {
  const left = mkdtempSync(join(tmpdir(), 'wunsch-cut-'));
  cpSync(place, left, { recursive: true });
  return left;
}

test('closed whole, it opens as it was, with nothing to replay', async () => {
  const store = await openEmbedded({ directory });
  expect(store.opened).toMatchObject({ rebuilt: false, replayed: 0, damaged: [] });
  await setUp(store);
  await putMachine(store, 'Otto');
  await store.close();
  expect(existsSync(join(directory, 'lock'))).toBe(false);
  expect(existsSync(join(directory, 'store', 'CLEAN'))).toBe(true);
  const again = await openEmbedded({ directory });
  expect(again.opened).toMatchObject({ rebuilt: false, replayed: 0, damaged: [] });
  expect(await machines(again)).toEqual(['Ida', 'Otto']);
  // While it is open it is not whole: the mark is gone.
  expect(existsSync(join(directory, 'store', 'CLEAN'))).toBe(false);
  await again.close();
});

test('not closed, it is rebuilt from the journal alone, and numbering goes on where it was', async () => {
  const store = await openEmbedded({ directory });
  await setUp(store);
  const { seq } = await putMachine(store, 'Otto');
  const left = cutThePower();
  await store.close();
  const again = await openEmbedded({ directory: left });
  expect(again.opened).toMatchObject({ rebuilt: true, replayed: 2 });
  expect(await machines(again)).toEqual(['Ida', 'Otto']);
  expect((await putMachine(again, 'Third')).seq).toBe(seq + 1);
  await again.close();
  rmSync(left, { recursive: true });
});

test('a snapshot right after a crash spares the next opening the replay, and only the newest two are kept', async () => {
  let place = directory;
  let store = await openEmbedded({ directory: place });
  await setUp(store);
  const replayed: number[] = [];
  for (let crash = 0; crash < 3; crash += 1) {
    await putMachine(store, `M${crash}`);
    await putMachine(store, `N${crash}`);
    const left = cutThePower(place);
    await store.close();
    rmSync(place, { recursive: true });
    place = left;
    store = await openEmbedded({ directory: place, snapshotAfter: 2 });
    replayed.push(store.opened.replayed);
  }
  // The first crash replays everything, each later one only what came after the snapshot of the one before.
  expect(replayed).toEqual([3, 2, 2]);
  expect(readdirSync(join(place, 'snapshots')).length).toBeLessThanOrEqual(2);
  expect((await machines(store)).length).toBe(7);
  await store.close();
  rmSync(place, { recursive: true });
}, 120_000);

test('a store whose files are ruined is rebuilt, although it bears the mark of being whole', async () => {
  const store = await openEmbedded({ directory });
  await setUp(store);
  await putMachine(store, 'Otto');
  await store.close();
  writeFileSync(join(directory, 'store', 'pg', 'PG_VERSION'), 'nonsense');
  const again = await openEmbedded({ directory });
  expect(again.opened).toMatchObject({ rebuilt: true, replayed: 2 });
  expect(await machines(again)).toEqual(['Ida', 'Otto']);
  await again.close();
});

test('an entry that is refused leaves no trace: neither in the store nor in the journal', async () => {
  const store = await openEmbedded({ directory });
  await setUp(store);
  const before = store.writer.lastSeq;
  await expect(
    store.writer.submit({
      kind: 'machine.put',
      target: v7(),
      actor: OWNER,
      body: { ...MachinePut.parse({ name: 'Bad', station: 'grind', minMg: 9, maxMg: 2 }), ifMatch: null },
    }),
  ).rejects.toMatchObject({ status: 422 });
  expect(store.writer.lastSeq).toBe(before);
  // Refused among good ones in the same group: the good ones stand.
  const group = await Promise.allSettled([
    putMachine(store, 'One'),
    store.writer.submit({
      kind: 'machine.put',
      target: v7(),
      actor: { ...OWNER, role: 'viewer' },
      body: { ...MachinePut.parse({ name: 'Two', station: 'grind' }), ifMatch: null },
    }),
    putMachine(store, 'Three'),
  ]);
  expect(group.map((g) => g.status)).toEqual(['fulfilled', 'rejected', 'fulfilled']);
  const left = cutThePower();
  await store.close();
  const again = await openEmbedded({ directory: left });
  expect(await machines(again)).toEqual(['Ida', 'One', 'Three']);
  await again.close();
  rmSync(left, { recursive: true });
});

test('memory that makes no sense is refused before anything is touched', async () => {
  const asked = process.env.WUNSCH_MEMORY_MB;
  process.env.WUNSCH_MEMORY_MB = 'much';
  try {
    await expect(openEmbedded({ directory: 'nowhere' })).rejects.toThrow('WUNSCH_MEMORY_MB is "much"');
    expect(existsSync('nowhere')).toBe(false);
  } finally {
    if (asked === undefined) delete process.env.WUNSCH_MEMORY_MB;
    else process.env.WUNSCH_MEMORY_MB = asked;
  }
});
