import { createHash } from 'node:crypto';
import { Readable } from 'node:stream';
import { getTableColumns, getTableName, is, sql } from 'drizzle-orm';
import { PgTable } from 'drizzle-orm/pg-core';
import { ZipFile } from 'yazl';
import { lastSeqOf } from '../commands/group.ts';
import { shapeOf, type Db } from '../db/database.ts';
import { rowsOf } from '../db/raw.ts';
import * as schema from '../db/schema/index.ts';
import { workshop } from '../db/schema/index.ts';
import { VERSION } from '../live/health.ts';
import { readSettings } from '../views/stored.ts';
import { describeTables } from './describe.ts';
import { ARCHIVE, MANIFEST, rowsPath, SCHEMA, type Manifest } from './manifest.ts';

/** Rows fetched together; a row of readings may be large. */
const FETCH = 100;

/** Tables that go along: all but who is signed in where. */
const TABLES = Object.values(schema as Record<string, unknown>)
  .filter((t): t is PgTable => is(t, PgTable))
  .map((t) => getTableName(t))
  .filter((name) => name !== 'session');

const ENDINGS: Readonly<Record<string, string>> = {
  'image/jpeg': 'jpg',
  'image/png': 'png',
  'image/webp': 'webp',
  'application/pdf': 'pdf',
};

/** How far the writing of an archive has come, rows written of all. */
export interface ArchiveProgress {
  rows: number;
  of: number;
}

interface Photograph {
  id: string;
  path: string;
}

/**
 * A whole workshop as a zip: the rows of every table as JSON lines in the form PostgreSQL itself gives them, photographs and documents as files
 * of their own, JSON Schemas of the rows, and a manifest with rows, lengths and checksums. It is read in one transaction, and written part by
 * part, so that ten years cost no more memory than a few hundred rows.
 *
 * @param take reads the zip; the transaction is held until it is done, and a failure of it ends the reading
 */
export async function writeArchive(
  db: Db,
  {
    now,
    take,
    told,
  }: {
    now: number;
    take: (zip: NodeJS.ReadableStream) => Promise<void>;
    told?: (progress: ArchiveProgress) => void;
  },
): Promise<Manifest> {
  return db.transaction(
    async (transaction) => {
      const tx = transaction as unknown as Db;
      await tx.execute(sql`set local synchronize_seqscans = off`);
      const [shop] = await tx.select({ settings: workshop.settings }).from(workshop);
      const photographs = await photographsOf(tx);
      const manifest: Manifest = {
        what: 'wunsch archive',
        archive: ARCHIVE,
        release: VERSION,
        shape: await shapeOf(tx),
        madeAt: new Date(now).toISOString(),
        workshop: shop ? readSettings(shop.settings).name : '',
        lastSeq: await lastSeqOf(tx),
        tables: [],
        files: {},
      };
      const counts = new Map<string, number>();
      for (const name of TABLES) counts.set(name, await countOf(tx, name));
      const progress: ArchiveProgress = { rows: 0, of: [...counts.values()].reduce((a, b) => a + b, 0) };
      const zip = new ZipFile();
      const failed = new Promise<never>((_, reject) => zip.on('error', reject));
      // Files are asked for one after the other, each when those before it have gone out.
      const add = (path: string, make: () => AsyncIterable<Buffer>, compress = true) =>
        zip.addReadStreamLazy(path, { mtime: new Date(now), compress }, (answer) =>
          answer(
            null,
            Readable.from(summed(path, make(), manifest.files)).on('error', (error) =>
              zip.emit('error', error),
            ),
          ),
        );
      const described = await describeTables(tx, TABLES);
      add(SCHEMA, () => only(JSON.stringify(described, null, 1)));
      for (const name of TABLES) {
        const table = { name, rows: 0 };
        manifest.tables.push(table);
        add(rowsPath(name), () =>
          linesOf(tx, name, photographs, (n) => {
            table.rows += n;
            progress.rows += n;
            told?.({ ...progress });
          }),
        );
      }
      for (const photograph of photographs) add(photograph.path, () => contentOf(tx, photograph.id), false);
      zip.addReadStreamLazy(MANIFEST, { mtime: new Date(now) }, (answer) =>
        answer(null, Readable.from([JSON.stringify(manifest, null, 1)])),
      );
      zip.end();
      await Promise.race([take(zip.outputStream), failed]);
      return manifest;
    },
    { isolationLevel: 'repeatable read' },
  );
}

async function* only(text: string): AsyncGenerator<Buffer> {
  yield Promise.resolve(Buffer.from(text));
}

/** The same bytes; their length and checksum are noted once they have all gone by. */
async function* summed(
  path: string,
  parts: AsyncIterable<Buffer>,
  files: Manifest['files'],
): AsyncGenerator<Buffer> {
  const hash = createHash('sha256');
  let bytes = 0;
  for await (const part of parts) {
    hash.update(part);
    bytes += part.length;
    yield part;
  }
  files[path] = { sha256: hash.digest('hex'), bytes };
}

const named = (table: string) => sql.raw(`"${table}"`);

async function countOf(tx: Db, table: string): Promise<number> {
  return Number(
    rowsOf<{ n: string }>(await tx.execute(sql`select count(*) as n from ${named(table)}`))[0]!.n,
  );
}

async function photographsOf(tx: Db): Promise<Photograph[]> {
  const found = await tx
    .select({ id: schema.attachment.id, type: schema.attachment.type })
    .from(schema.attachment)
    .orderBy(schema.attachment.id);
  return found.map(({ id, type }) => ({ id, path: `files/${id}.${ENDINGS[type] ?? 'bin'}` }));
}

async function* contentOf(tx: Db, id: string): AsyncGenerator<Buffer> {
  const [row] = await tx
    .select({ content: schema.attachment.content })
    .from(schema.attachment)
    .where(sql`${schema.attachment.id} = ${id}`);
  yield Buffer.from(row!.content);
}

/** Columns of photographs beside their bytes, whichever a release has. */
const BESIDE_CONTENT = Object.values(getTableColumns(schema.attachment))
  .filter((column) => column !== schema.attachment.content)
  .map((column) => `"${column.name}"`)
  .join(', ');

/** Rows of a table as JSON lines, in the order they lie in; bytes kept as a file are named by its path. */
async function* linesOf(
  tx: Db,
  table: string,
  photographs: readonly Photograph[],
  told: (rows: number) => void,
): AsyncGenerator<Buffer> {
  const pathOf = new Map(photographs.map((p) => [p.id, p.path]));
  const isPhotographs = table === 'attachment';
  // The bytes themselves are fetched one by one, as files.
  const from = isPhotographs ? sql`(select ${sql.raw(BESIDE_CONTENT)} from attachment)` : named(table);
  const cursor = sql.raw(`archive_${table}`);
  await tx.execute(sql`declare ${cursor} cursor for select row_to_json(t)::text as line from ${from} t`);
  for (;;) {
    const rows = rowsOf<{ line: string }>(
      await tx.execute(sql`fetch ${sql.raw(String(FETCH))} from ${cursor}`),
    );
    if (rows.length === 0) break;
    told(rows.length);
    const lines = isPhotographs
      ? rows.map(({ line }) => {
          const row = JSON.parse(line) as { id: string };
          return JSON.stringify({ ...row, content: pathOf.get(row.id) });
        })
      : rows.map(({ line }) => line);
    yield Buffer.from(`${lines.join('\n')}\n`);
  }
  await tx.execute(sql`close ${cursor}`);
}
