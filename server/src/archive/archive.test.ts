import { Ajv2020 } from 'ajv/dist/2020.js';
import addFormats from 'ajv-formats';
import { randomUUID } from 'node:crypto';
import { createReadStream, createWriteStream, existsSync } from 'node:fs';
import { cp, mkdtemp, readdir, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { sql } from 'drizzle-orm';
import { pipeline } from 'node:stream/promises';
import pg from 'pg';
import { v7 } from 'uuid';
import { openPromise } from 'yauzl';
import { ZipFile } from 'yazl';
import { buildApp } from '../app.ts';
import { shapes } from '../db/database.ts';
import { rowsOf } from '../db/raw.ts';
import { openEmbedded } from '../store/embedded.ts';
import { clearFresh } from '../store/fill.ts';
import { openServer } from '../store/server.ts';
import type { Store } from '../store/store.ts';
import { answersOf } from '../testing/answers.ts';
import { DATABASES, signIn } from '../testing/workshop.ts';
import { archiveOf, restoreArchive } from './directory.ts';
import { MANIFEST, SCHEMA, type Manifest } from './manifest.ts';
import { manifestOf } from './read.ts';
import { openStage } from './stage.ts';

type Files = Map<string, Buffer>;

async function unpack(path: string): Promise<Files> {
  const zip = await openPromise(path);
  const files: Files = new Map();
  for await (const entry of zip.eachEntry()) {
    const parts: Buffer[] = [];
    for await (const part of await zip.openReadStreamPromise(entry)) parts.push(part as Buffer);
    files.set(entry.fileName, Buffer.concat(parts));
  }
  return files;
}

async function pack(files: Files, path: string): Promise<string> {
  const zip = new ZipFile();
  for (const [name, content] of files) zip.addBuffer(content, name);
  zip.end();
  await pipeline(zip.outputStream, createWriteStream(path));
  return path;
}

const manifestIn = (files: Files) => JSON.parse(files.get(MANIFEST)!.toString()) as Manifest;
const withManifest = (files: Files, change: Partial<Record<keyof Manifest, unknown>>): Files =>
  new Map([...files, [MANIFEST, Buffer.from(JSON.stringify({ ...manifestIn(files), ...change }))]]);

/** A picture of one dot. */
const DOT = Buffer.from(
  'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAQAAAC1HAwCAAAAC0lEQVR42mNk+A8AAQUBAScY42YAAAAASUVORK5CYII=',
  'base64',
);

async function askAll(store: Store): Promise<Record<string, string>> {
  const app = await buildApp({ store: () => store });
  const answers = await answersOf(app, await signIn({ app }, 'Ada', 'a long password'));
  delete answers['/api/trail?limit=200'];
  await app.close();
  return answers;
}

/** What a directory answers once it is opened. */
async function answersIn(directory: string): Promise<Record<string, string>> {
  const store = await openEmbedded({ directory });
  try {
    return await askAll(store);
  } finally {
    await store.close();
  }
}

let root: string;
let home: string;
let before: Record<string, string>;
let archive: string;
let manifest: Manifest;
beforeAll(async () => {
  root = await mkdtemp(join(tmpdir(), 'wunsch-archives-'));
  home = join(root, 'home');
  await cp(join(import.meta.dirname, '../../fixtures/first/journal'), join(home, 'journal'), {
    recursive: true,
  });
  const store = await openEmbedded({ directory: home });
  await store.writer.submit({
    kind: 'attachment.add',
    target: v7(),
    actor: { id: v7(), initials: 'AK', role: 'owner' },
    body: { name: 'Façade “März”.png', type: 'image/png', content: DOT.toString('base64') },
  });
  before = await askAll(store);
  await store.close();
  archive = join(root, 'home.zip');
  manifest = await archiveOf(home, archive);
}, 120_000);
afterAll(() => rm(root, { recursive: true, force: true }));

describe('a whole workshop’s archive', () => {
  test('holds lines of JSON that are as its own schema says, for a reader that knows nothing of ours', async () => {
    const files = await unpack(archive);
    const ajv = addFormats.default(new Ajv2020({ strict: false }));
    const schema = JSON.parse(files.get(SCHEMA)!.toString()) as { $defs: Record<string, object> };
    let rows = 0;
    for (const { name } of manifest.tables) {
      const isRow = ajv.compile(schema.$defs[name]!);
      for (const line of files.get(`tables/${name}.jsonl`)!.toString().split('\n').filter(Boolean)) {
        isRow(JSON.parse(line));
        expect(isRow.errors).toBeNull();
        rows += 1;
      }
    }
    expect(rows).toBeGreaterThan(150);
    expect(rows).toBe(manifest.tables.reduce((n, t) => n + t.rows, 0));
    const photographs = [...files.keys()].filter((n) => n.startsWith('files/'));
    expect(photographs.filter((n) => files.get(n)!.equals(DOT))).toHaveLength(1);
    // Nobody’s way in goes along.
    expect([...files.keys()]).not.toContain('tables/session.jsonl');
  });

  test('put back it answers the same, goes on, and gives the very same archive', async () => {
    const bare = join(root, 'bare');
    expect((await restoreArchive(archive, bare)).lastSeq).toBe(manifest.lastSeq);
    const again = await archiveOf(bare, join(root, 'again.zip'));
    expect(again.files).toEqual(manifest.files);
    expect(await answersIn(bare)).toEqual(before);
    const store = await openEmbedded({ directory: bare });
    const { seq } = await store.writer.submit({
      kind: 'observation.add',
      target: v7(),
      actor: { id: v7(), initials: 'AK', role: 'owner' },
      body: { data: { kind: 'note', text: 'after the archive' } },
    });
    expect(seq).toBeGreaterThan(manifest.lastSeq);
    await store.close();
    // The journal begins after it; a store that is lost comes back from the first snapshot.
    await rm(join(bare, 'store'), { recursive: true });
    expect(Object.keys(await answersIn(bare))).toEqual(Object.keys(before));
  }, 120_000);

  test('of an older release is brought up to date on the way in', async () => {
    const files = await unpack(archive);
    // As the release before the cases would have written it.
    const { tables, files: sums } = manifest;
    const stage = await openStage('0010_stock');
    const found = await stage.db.execute(sql`select table_name as name from information_schema.tables`);
    await stage.close();
    const known = rowsOf<{ name: string }>(found).map((t) => t.name);
    const later = tables.map((t) => t.name).filter((name) => !known.includes(name));
    expect(later).toContain('fault_case');
    const older = withManifest(
      new Map([...files].filter(([name]) => !later.some((t) => name === `tables/${t}.jsonl`))),
      {
        shape: '0010_stock',
        tables: tables.filter((t) => !later.includes(t.name)),
        files: Object.fromEntries(
          Object.entries(sums).filter(([name]) => !later.some((t) => name === `tables/${t}.jsonl`)),
        ),
      },
    );
    const path = await pack(older, join(root, 'older.zip'));
    expect(shapes().indexOf('0010_stock')).toBeLessThan(shapes().length - 1);
    await restoreArchive(path, join(root, 'upgraded'));
    expect(await answersIn(join(root, 'upgraded'))).toEqual(before);
  }, 120_000);

  test('that is damaged, cut off, newer or something else is refused in words, and nothing is kept', async () => {
    const files = await unpack(archive);
    const lot = files.get('tables/lot.jsonl')!.toString();
    const bytes = await readFile(archive);
    const bad: [string, Promise<string> | string, RegExp][] = [
      [
        'changed',
        pack(
          new Map([
            ...files,
            ['tables/lot.jsonl', Buffer.from(lot.replace(/\d/, '7').replace(/"name":"./, '"name":"X'))],
          ]),
          join(root, 'changed.zip'),
        ),
        /tables\/lot.jsonl is not as it was written/,
      ],
      [
        'a photograph changed',
        pack(
          new Map(
            [...files].map(([n, c]) => [n, n.startsWith('files/') ? Buffer.from([...c].reverse()) : c]),
          ),
          join(root, 'photo.zip'),
        ),
        /files\/.*png is not as it was written/,
      ],
      [
        'a table gone',
        pack(new Map([...files].filter(([n]) => n !== 'tables/batch.jsonl')), join(root, 'gone.zip')),
        /tables\/batch.jsonl is missing/,
      ],
      [
        'of a later archive',
        pack(withManifest(files, { archive: 99 }), join(root, 'later.zip')),
        /newer release/,
      ],
      [
        'of a later shape',
        pack(withManifest(files, { shape: '0999_x' }), join(root, 'shape.zip')),
        /newer release/,
      ],
      [
        'of something else',
        pack(new Map([['a.txt', Buffer.from('a')]]), join(root, 'else.zip')),
        /no archive of a workshop/,
      ],
      [
        'with a row too few',
        pack(
          withManifest(files, {
            tables: manifest.tables.map((t) => (t.name === 'lot' ? { ...t, rows: t.rows + 1 } : t)),
          }),
          join(root, 'few.zip'),
        ),
        /rows and should have/,
      ],
    ];
    const cut = join(root, 'cut.zip');
    await writeFile(cut, bytes.subarray(0, bytes.length >> 1));
    bad.push(['cut off', cut, /no zip file that can be read/]);
    const text = join(root, 'text.zip');
    await writeFile(text, 'lots,batches\n');
    bad.push(['no zip', text, /no zip file that can be read/]);
    for (const [what, path, why] of bad) {
      const place = join(root, `into ${what}`);
      await expect(restoreArchive(await path, place)).rejects.toThrow(why);
      expect(existsSync(place) ? await readdir(place) : []).toEqual([]);
    }
    await expect(restoreArchive(archive, home)).rejects.toThrow(/not empty/);
    await expect(archiveOf(home, archive)).rejects.toThrow(/there already/);
    expect((await manifestOf(archive)).lastSeq).toBe(manifest.lastSeq);
  }, 120_000);
});

describe('over the door', () => {
  test('an owner takes it away while work goes on; nobody else does', async () => {
    const store = await openEmbedded({ directory: home });
    const app = await buildApp({ store: () => store });
    try {
      const owner = await signIn({ app }, 'Ada', 'a long password');
      const answer = await app.inject({ url: '/api/archive.zip', headers: { cookie: owner } });
      expect(answer.statusCode).toBe(200);
      expect(answer.headers['content-type']).toBe('application/zip');
      const taken = join(root, 'taken.zip');
      await writeFile(taken, answer.rawPayload);
      const { files } = await manifestOf(taken);
      expect(files['tables/movement.jsonl']).toEqual(manifest.files['tables/movement.jsonl']);
      expect((await app.inject({ url: '/api/archive.zip' })).statusCode).toBe(401);
      // The copy that was read from is gone.
      await new Promise((resolve) => setTimeout(resolve, 500));
      expect((await readdir(home)).filter((n) => n.startsWith('aside.'))).toEqual([]);
    } finally {
      await app.close();
      await store.close();
    }
  });

  test('it is put into an empty workshop from the page, with the printed code; into any other it is not', async () => {
    const directory = join(root, 'fresh');
    let store: Store | null = await openEmbedded({ directory });
    const app = await buildApp({
      store: () => store,
      firstRunCode: 'ABCD-1234',
      restore: async (path) => {
        await store?.close();
        store = null;
        await clearFresh(directory);
        try {
          return await restoreArchive(path, directory);
        } finally {
          store = await openEmbedded({ directory });
        }
      },
    });
    const send = async (path: string, code: string) =>
      app.inject({
        method: 'POST',
        url: '/api/restore',
        headers: { 'content-type': 'application/zip', 'first-run-code': code },
        payload: createReadStream(path),
      });
    try {
      expect((await send(archive, 'AAAA-AAAA')).json()).toMatchObject({
        status: 403,
        code: 'first-run-code',
      });
      const text = join(root, 'not.zip');
      await writeFile(text, 'something');
      expect((await send(text, 'ABCD-1234')).json()).toMatchObject({ status: 422, code: 'archive-damaged' });
      expect((await app.inject({ url: '/api/session' })).json()).toMatchObject({ state: 'first-run' });
      const done = await send(archive, 'abcd1234');
      expect(done.statusCode).toBe(201);
      expect(done.json()).toMatchObject({ workshop: manifest.workshop, entries: manifest.lastSeq });
      expect((await app.inject({ url: '/api/session' })).json()).toMatchObject({ state: 'signed-out' });
      expect(await askAll(store!)).toEqual(before);
      expect((await send(archive, 'ABCD-1234')).json()).toMatchObject({ status: 409 });
    } finally {
      await app.close();
      await (store as Store | null)?.close();
    }
  }, 120_000);
});

const onServer = DATABASES.includes('postgresql') ? describe : describe.skip;

onServer('between the embedded store and PostgreSQL', () => {
  const base = process.env.WUNSCH_TEST_PG!;
  const name = `a_${randomUUID().replaceAll('-', '')}`;
  const admin = async (sql: string) => {
    const client = new pg.Client({ connectionString: base });
    await client.connect();
    await client.query(sql);
    await client.end();
  };
  const at = new URL(base ?? 'postgres://localhost/x');
  at.pathname = `/${name}`;
  beforeAll(() => admin(`create database ${name}`));
  afterAll(() => admin(`drop database ${name} with (force)`));

  test('an archive goes there and back, the same to the last byte', async () => {
    await restoreArchive(archive, at.href);
    const server = await openServer(at.href);
    expect(await askAll(server)).toEqual(before);
    await server.close();
    await expect(restoreArchive(archive, at.href)).rejects.toThrow(/a workshop already/);
    const there = await archiveOf(at.href, join(root, 'server.zip'));
    await restoreArchive(join(root, 'server.zip'), join(root, 'home again'));
    const back = await archiveOf(join(root, 'home again'), join(root, 'home again.zip'));
    expect(back.files).toEqual(there.files);
    expect(await answersIn(join(root, 'home again'))).toEqual(before);
  }, 120_000);
});
