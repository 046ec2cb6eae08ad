import { createHash } from 'node:crypto';
import { createInterface } from 'node:readline';
import { PassThrough, type Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { sql } from 'drizzle-orm';
import { openPromise, type Entry, type ZipFile } from 'yauzl';
import { shapes, type Db } from '../db/database.ts';
import { rowsOf } from '../db/raw.ts';
import { NewerDataError } from '../store/format.ts';
import { copyTables } from '../tools/copyTables.ts';
import { ARCHIVE, ArchiveError, LIMITS, MANIFEST, Manifest, rowsPath, SCHEMA } from './manifest.ts';
import { openStage } from './stage.ts';

/** Rows put in together, and most bytes of them. */
const PART = { rows: 200, bytes: 4e6 };

/** An archive that has been opened and says what is in it; nothing of it has been read yet. */
interface OpenArchive {
  zip: ZipFile;
  entries: ReadonlyMap<string, Entry>;
  manifest: Manifest;
}

/**
 * Puts an archive’s rows into an empty database of today’s shape, in one transaction. An archive of an older release is first laid out as that
 * release kept it and then brought up to date as its own database would have been.
 *
 * @param path a zip as {@link writeArchive} makes them
 * @returns what the archive says of itself
 * @throws ArchiveError where it is no archive, or damaged; NewerDataError where a newer release wrote it. Nothing is then kept.
 */
export async function readArchive(path: string, target: Db): Promise<Manifest> {
  const archive = await openArchive(path);
  try {
    const { shape } = archive.manifest;
    if (shape === shapes().at(-1)) await target.transaction((tx) => putBack(archive, tx as unknown as Db));
    else {
      const stage = await openStage(shape);
      try {
        await putBack(archive, stage.db);
        await copyTables(await stage.upToDate(), target);
      } finally {
        await stage.close();
      }
    }
    return archive.manifest;
  } finally {
    archive.zip.close();
  }
}

/** What an archive says of itself. @throws ArchiveError, NewerDataError as {@link readArchive} does */
export async function manifestOf(path: string): Promise<Manifest> {
  const archive = await openArchive(path);
  archive.zip.close();
  return archive.manifest;
}

async function openArchive(path: string): Promise<OpenArchive> {
  const zip = await openPromise(path, { autoClose: false }).catch((error: unknown) => {
    throw new ArchiveError(
      `this is no zip file that can be read (${(error as Error).message}); an archive of a workshop is wanted`,
    );
  });
  try {
    const entries = await entriesOf(zip);
    const said = entries.get(MANIFEST);
    if (!said) throw new ArchiveError(`this zip has no ${MANIFEST}: it is no archive of a workshop`);
    const manifest = parseManifest(await textOf(zip, said));
    for (const { name } of manifest.tables)
      if (!manifest.files[rowsPath(name)])
        throw new ArchiveError(`the archive names no checksum for ${rowsPath(name)}; it is damaged`);
    for (const name of Object.keys(manifest.files))
      if (!entries.has(name)) throw new ArchiveError(`${name} is missing from the archive`);
    return { zip, entries, manifest };
  } catch (error) {
    zip.close();
    throw error;
  }
}

async function entriesOf(zip: ZipFile): Promise<Map<string, Entry>> {
  const entries = new Map<string, Entry>();
  let sum = 0;
  try {
    for await (const entry of zip.eachEntry()) {
      sum += entry.uncompressedSize;
      if (
        entry.uncompressedSize > LIMITS.file ||
        sum > LIMITS.sum ||
        entries.size >= LIMITS.files ||
        entries.has(entry.fileName)
      )
        throw new ArchiveError('this zip holds more than any workshop’s archive does; it was not unpacked');
      entries.set(entry.fileName, entry);
    }
  } catch (error) {
    if (error instanceof ArchiveError) throw error;
    throw new ArchiveError(
      `the zip’s list of files cannot be read (${(error as Error).message}); it is damaged`,
    );
  }
  return entries;
}

function parseManifest(text: string): Manifest {
  let said: unknown;
  try {
    said = JSON.parse(text);
  } catch {
    throw new ArchiveError(`${MANIFEST} cannot be read; the archive is damaged`);
  }
  const { what, archive } = (said ?? {}) as { what?: unknown; archive?: unknown };
  if (what !== 'wunsch archive') throw new ArchiveError('this zip is no archive of a workshop');
  if (typeof archive === 'number' && archive > ARCHIVE) throw new NewerDataError('the archive');
  const parsed = Manifest.safeParse(said);
  if (!parsed.success)
    throw new ArchiveError(
      `${MANIFEST} is not as it should be at ${parsed.error.issues[0]!.path.join('.')}; the archive is damaged`,
    );
  if (!shapes().includes(parsed.data.shape)) throw new NewerDataError('the archive');
  return parsed.data;
}

async function textOf(zip: ZipFile, entry: Entry): Promise<string> {
  if (entry.uncompressedSize > LIMITS.line)
    throw new ArchiveError(`${entry.fileName} is larger than it can be; the archive is damaged`);
  const parts: Buffer[] = [];
  for await (const part of await streamOf(zip, entry)) parts.push(part as Buffer);
  return Buffer.concat(parts).toString('utf8');
}

async function streamOf(zip: ZipFile, entry: Entry): Promise<Readable> {
  try {
    return await zip.openReadStreamPromise(entry);
  } catch (error) {
    throw new ArchiveError(`${entry.fileName} cannot be read (${(error as Error).message})`);
  }
}

/** A file of the archive as it is read, its length and checksum held against the manifest’s at its end. */
async function checkedStream(
  { zip, entries, manifest }: OpenArchive,
  path: string,
): Promise<{ stream: Readable; whole: Promise<void> }> {
  const wanted = manifest.files[path];
  const entry = entries.get(path);
  if (!wanted || !entry) throw new ArchiveError(`${path} is missing from the archive`);
  const hash = createHash('sha256');
  let bytes = 0;
  let sinceLine = 0;
  const isLines = path.endsWith('.jsonl');
  const out = new PassThrough();
  const whole = pipeline(
    await streamOf(zip, entry),
    async function* (parts: AsyncIterable<Buffer>) {
      for await (const part of parts) {
        hash.update(part);
        bytes += part.length;
        const newline = part.lastIndexOf(10);
        sinceLine = newline < 0 ? sinceLine + part.length : part.length - newline;
        if (isLines && sinceLine > LIMITS.line)
          throw new ArchiveError(`a row of ${path} is longer than any row`);
        yield part;
      }
    },
    out,
  )
    .catch((error: unknown) => {
      if (error instanceof ArchiveError) throw error;
      throw new ArchiveError(`${path} cannot be read (${(error as Error).message}); the archive is damaged`);
    })
    .then(() => {
      if (bytes !== wanted.bytes || hash.digest('hex') !== wanted.sha256)
        throw new ArchiveError(`${path} is not as it was written; the archive is damaged, nothing was kept`);
    });
  // Whoever reads waits for it in the end; until then it must not count as nobody’s.
  whole.catch(() => undefined);
  return { stream: out, whole };
}

async function putBack(archive: OpenArchive, tx: Db): Promise<void> {
  const there = new Set(
    rowsOf<{ name: string }>(
      await tx.execute(
        sql`select table_name as name from information_schema.tables where table_schema = 'public'`,
      ),
    ).map((t) => t.name),
  );
  const { tables } = archive.manifest;
  for (const { name } of tables) {
    if (!there.has(name)) throw new ArchiveError(`no workshop has a table ${name}; the archive is damaged`);
    const [row] = rowsOf<{ some: boolean }>(
      await tx.execute(sql`select exists (select 1 from ${sql.raw(`"${name}"`)}) as some`),
    );
    if (row!.some) throw new ArchiveError('there is a workshop already; an archive goes into an empty one');
  }
  await checkSchema(archive);
  for (const table of tables) await putTable(archive, tx, table);
}

/** The schema is for other readers; it must be whole all the same. */
async function checkSchema(archive: OpenArchive): Promise<void> {
  const { stream, whole } = await checkedStream(archive, SCHEMA);
  stream.resume();
  await whole;
}

async function putTable(archive: OpenArchive, tx: Db, table: Manifest['tables'][number]): Promise<void> {
  const path = rowsPath(table.name);
  const { stream, whole } = await checkedStream(archive, path);
  let part: string[] = [];
  let bytes = 0;
  let rows = 0;
  const flush = async () => {
    if (part.length === 0) return;
    const name = sql.raw(`"${table.name}"`);
    const list = `[${part.join(',')}]`;
    await tx
      .execute(sql`insert into ${name} select * from json_populate_recordset(null::${name}, ${list}::json)`)
      .catch((error: unknown) => {
        const { cause, message } = error as Error;
        throw new ArchiveError(
          `rows ${rows - part.length + 1} to ${rows} of ${path} cannot be put back: ${cause instanceof Error ? cause.message : message}`,
        );
      });
    part = [];
    bytes = 0;
  };
  try {
    for await (const line of createInterface({ input: stream, crlfDelay: Infinity })) {
      const row = table.name === 'attachment' ? await withContent(archive, line) : line;
      rows += 1;
      part.push(row);
      bytes += row.length;
      if (part.length >= PART.rows || bytes >= PART.bytes) await flush();
    }
    await flush();
  } catch (error) {
    // A checksum that does not hold says more than a row that cannot be read because of it.
    await Promise.race([whole, new Promise((resolve) => setImmediate(resolve))]);
    throw error;
  }
  await whole;
  if (rows !== table.rows)
    throw new ArchiveError(`${path} has ${rows} rows and should have ${table.rows}; nothing was kept`);
}

/** A row of a photograph or document with its bytes in place of the path of its file. */
async function withContent(archive: OpenArchive, line: string): Promise<string> {
  let row: { content?: unknown; size?: unknown };
  try {
    row = JSON.parse(line) as typeof row;
  } catch {
    throw new ArchiveError(`a row of ${rowsPath('attachment')} is no JSON; the archive is damaged`);
  }
  if (typeof row.content !== 'string' || !row.content.startsWith('files/'))
    throw new ArchiveError(`a row of ${rowsPath('attachment')} names no file; the archive is damaged`);
  const { stream, whole } = await checkedStream(archive, row.content);
  const parts: Buffer[] = [];
  let bytes = 0;
  for await (const part of stream) {
    bytes += (part as Buffer).length;
    if (bytes > LIMITS.line) throw new ArchiveError(`${row.content} is larger than any photograph taken`);
    parts.push(part as Buffer);
  }
  await whole;
  return JSON.stringify({ ...row, content: `\\x${Buffer.concat(parts).toString('hex')}` });
}
