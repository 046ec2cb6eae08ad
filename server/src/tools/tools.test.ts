import { randomUUID } from 'node:crypto';
import { existsSync } from 'node:fs';
import { appendFile, cp, mkdtemp, readFile, readdir, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import pg from 'pg';
import { v7 } from 'uuid';
import { buildApp } from '../app.ts';
import { openEmbedded } from '../store/embedded.ts';
import { openServer } from '../store/server.ts';
import type { Store } from '../store/store.ts';
import { answersOf } from '../testing/answers.ts';
import { DATABASES, signIn } from '../testing/workshop.ts';
import { backUp, restore } from './backup.ts';
import { moveWorkshop } from './move.ts';

/** Signs the owner in and asks for everything. */
async function askAll(store: Store): Promise<Record<string, string>> {
  const app = await buildApp({ store: () => store });
  const cookie = await signIn({ app }, 'Ada', 'a long password');
  const answers = await answersOf(app, cookie);
  // The sign-in itself stands there.
  delete answers['/api/trail?limit=200'];
  await app.close();
  return answers;
}

/** Stores a test has opened: one that failed must not leave them open. */
const opened = new Set<Store>();
async function open(opening: Promise<Store>): Promise<Store> {
  const store = await opening;
  opened.add(store);
  return store;
}
async function close(store: Store): Promise<void> {
  opened.delete(store);
  await store.close();
}
afterEach(async () => {
  for (const store of opened) await close(store);
});

const noteIn = (store: Store, text: string) =>
  store.writer.submit({
    kind: 'observation.add',
    target: v7(),
    actor: { id: v7(), initials: 'AK', role: 'owner' },
    body: { data: { kind: 'note', text } },
  });

let root: string;
let home: string;
let before: Record<string, string>;
beforeAll(async () => {
  root = await mkdtemp(join(tmpdir(), 'wunsch-tools-'));
  home = join(root, 'home');
  // A workshop from beans to bars, as an older release kept it.
  await cp(join(import.meta.dirname, '../../fixtures/first/journal'), join(home, 'journal'), {
    recursive: true,
  });
  const store = await open(openEmbedded({ directory: home }));
  expect(store.opened.setAside).toBe(0);
  await store.snapshot();
  before = await askAll(store);
  await close(store);
}, 120_000);
afterAll(() => rm(root, { recursive: true, force: true }));

describe('a backup', () => {
  test('taken while the workshop is at work opens on a bare directory and answers the same', async () => {
    const store = await open(openEmbedded({ directory: home }));
    const { path, lastSeq } = await backUp(home, join(root, 'disk'));
    expect(lastSeq).toBe(store.writer.lastSeq);
    expect((await store.copies()).lastBackupAt).not.toBeNull();
    await close(store);
    const bare = join(root, 'bare');
    expect(await restore(path, bare)).toEqual({ lastSeq, setAside: 0 });
    const copy = await open(openEmbedded({ directory: bare }));
    expect(await askAll(copy)).toEqual(before);
    await close(copy);
  });

  test('is not made inside what it backs up, nor from a folder that is no workshop', async () => {
    await expect(backUp(home, join(home, 'backups'))).rejects.toThrow(/inside the data directory/);
    await expect(backUp(root, join(root, 'disk'))).rejects.toThrow(/not the data directory/);
  });

  test('of a journal with a hole is not called one', async () => {
    const holed = join(root, 'holed');
    await restore((await backUp(home, join(root, 'disk2'))).path, holed);
    const file = join(
      holed,
      'journal',
      (await readdir(join(holed, 'journal'))).find((n) => n.endsWith('.jsonl'))!,
    );
    const lines = (await readFile(file, 'utf8')).split('\n');
    await writeFile(file, [...lines.slice(0, 5), ...lines.slice(9)].join('\n'));
    await expect(backUp(holed, join(root, 'disk3'))).rejects.toThrow(/6 to 9 are missing/);
    expect(existsSync(join(root, 'disk3')) ? await readdir(join(root, 'disk3')) : []).toEqual([]);
  });

  test('never goes over a directory with anything in it', async () => {
    const { path } = await backUp(home, join(root, 'disk4'));
    const used = join(root, 'used');
    await restore(path, used);
    await appendFile(join(used, 'mine.txt'), 'mine');
    await expect(restore(path, used)).rejects.toThrow(/not empty; move it away first/);
    expect(await readFile(join(used, 'mine.txt'), 'utf8')).toBe('mine');
  });
});

const onServer = DATABASES.includes('postgresql') ? describe : describe.skip;

onServer('moving between a directory and PostgreSQL', () => {
  const base = process.env.WUNSCH_TEST_PG!;
  const name = `m_${randomUUID().replaceAll('-', '')}`;
  const admin = async (sql: string) => {
    const client = new pg.Client({ connectionString: base });
    await client.connect();
    await client.query(sql);
    await client.end();
  };
  const url = () => {
    const at = new URL(base);
    at.pathname = `/${name}`;
    return at.href;
  };
  beforeAll(() => admin(`create database ${name}`));
  afterAll(() => admin(`drop database ${name} with (force)`));

  test('there and back again everything answers the same, and goes on where it stood', async () => {
    const there = await moveWorkshop(home, url());
    const server = await open(openServer(url()));
    expect(await askAll(server)).toEqual(before);
    const noted = await noteIn(server, 'made on the server');
    expect(noted.seq).toBeGreaterThan(there.lastSeq);
    const onServerNow = await askAll(server);
    await close(server);
    // Into a database that holds a workshop nothing goes.
    await expect(moveWorkshop(home, url())).rejects.toThrow(/a workshop in the target already/);

    const back = join(root, 'back');
    const moved = await moveWorkshop(url(), back);
    expect(moved.lastSeq).toBeGreaterThan(noted.seq);
    let store = await open(openEmbedded({ directory: back }));
    expect(await askAll(store)).toEqual(onServerNow);
    const after = await noteIn(store, 'made in the directory');
    expect(after.seq).toBeGreaterThan(moved.lastSeq);
    const whole = await askAll(store);
    await close(store);

    // A store that is lost comes back from the snapshot and the journal; without either it is said, and nothing is made up.
    await rm(join(back, 'store'), { recursive: true });
    store = await open(openEmbedded({ directory: back }));
    expect(store.opened.setAside).toBe(0);
    expect(await askAll(store)).toEqual(whole);
    await close(store);
    await rm(join(back, 'store'), { recursive: true });
    await rm(join(back, 'snapshots'), { recursive: true });
    await expect(openEmbedded({ directory: back })).rejects.toThrow(/put a backup back/);
  }, 120_000);

  test('two of a kind, or a folder that is no workshop, are refused in words', async () => {
    await expect(moveWorkshop(home, join(root, 'else'))).rejects.toThrow(/one of the two must be/);
    await expect(moveWorkshop(join(root, 'nowhere'), url())).rejects.toThrow(/not the data directory/);
    await expect(moveWorkshop(url(), home)).rejects.toThrow(/not empty/);
  });
});
