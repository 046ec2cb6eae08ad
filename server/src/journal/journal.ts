import { existsSync } from 'node:fs';
import { mkdir, open, readdir, readFile, stat, truncate, writeFile, type FileHandle } from 'node:fs/promises';
import { join } from 'node:path';
import { flush } from '../db/files.ts';
import { decodeLine, encodeLine, type JournalEntry } from './line.ts';
import { linesOf, scanFile, type Before, type FileSummary, type JournalHole } from './scan.ts';

export type { JournalEntry } from './line.ts';
export type { JournalHole } from './scan.ts';

/** Entries that could not be written to the disk; nothing of them is kept. */
export class JournalWriteError extends Error {
  readonly code: 'disk-full' | 'disk-read-only' | 'disk-failed';
  constructor(cause: unknown) {
    const system = (cause as NodeJS.ErrnoException).code ?? '';
    const code =
      system === 'ENOSPC' || system === 'EDQUOT'
        ? 'disk-full'
        : system === 'EROFS'
          ? 'disk-read-only'
          : 'disk-failed';
    const said = cause instanceof Error ? cause.message : String(cause);
    super(
      code === 'disk-full'
        ? 'the disk is full: nothing was entered; make room and enter it again'
        : code === 'disk-read-only'
          ? 'the disk can only be read: nothing was entered; make it writable and enter it again'
          : `the disk refused to keep the entry (${said}): nothing was entered; look at the disk before going on`,
      { cause },
    );
    this.name = 'JournalWriteError';
    this.code = code;
  }
}

/** A file is closed and the next begun beyond this size, bytes. */
const ROTATE_AT = 16 * 1024 * 1024;

const NAME = /^\d{8}\.jsonl$/;
const fileName = (number: number) => `${String(number).padStart(8, '0')}.jsonl`;

/** How the journal reaches the disk; tests put failing disks here. */
export interface JournalDisk {
  open: (path: string) => Promise<Pick<FileHandle, 'appendFile' | 'datasync' | 'close' | 'stat'>>;
  truncate: (path: string, bytes: number) => Promise<void>;
}

const realDisk: JournalDisk = {
  open: (path) => open(path, 'a', 0o600),
  truncate: async (path, bytes) => {
    await truncate(path, bytes);
    await flush(path);
  },
};

/** A journal file with what is known of it. */
interface KnownFile extends FileSummary {
  name: string;
}

/**
 * The append-only journal in front of an embedded store: one line of checksummed JSON for each accepted entry, numbered and
 * chained to the one before, in files flushed to the disk before the entry is answered. It is an open format and the
 * workshop's backup.
 *
 * Beside each finished file lies a `.sum` with its first and last number, so that opening reads only the last file.
 */
export class Journal {
  private handle: Awaited<ReturnType<JournalDisk['open']>> | null = null;
  private size = 0;
  /** A file whose end must be cut back before anything more is written. */
  private cutBack: { path: string; bytes: number } | null = null;

  private constructor(
    private readonly directory: string,
    private readonly disk: JournalDisk,
    private readonly files: KnownFile[],
    private file: number,
    private before: Before,
    /** What is not there, or cannot be read. */
    readonly holes: readonly JournalHole[],
  ) {}

  /** Number of the last whole entry, 0 when there is none. */
  get lastSeq(): number {
    return this.before.seq;
  }

  /**
   * Opens the journal of a directory. An unfinished line at the very end, which was never answered, is cut off and kept
   * beside the file as `.torn`. What else is wrong is listed in `holes`; nothing is changed.
   */
  static async open(directory: string, disk: JournalDisk = realDisk): Promise<Journal> {
    await mkdir(directory, { recursive: true, mode: 0o700 });
    const names = (await readdir(directory)).filter((n) => NAME.test(n)).sort();
    const files: KnownFile[] = [];
    let before: Before = { seq: 0, crc: '' };
    for (const [index, name] of names.entries()) {
      const path = join(directory, name);
      const isLast = index === names.length - 1;
      const known = isLast ? null : await readSummary(path, before);
      const file = known ?? (await scanAndCut(path, name, before, isLast));
      if (!known && !isLast) await writeSummary(path, { ...file, before });
      files.push({ ...file, name });
      before = { seq: file.last, crc: file.crc };
    }
    const number = names.length > 0 ? Number(names.at(-1)!.slice(0, 8)) : 1;
    return new Journal(
      directory,
      disk,
      files,
      number,
      before,
      files.flatMap((f) => f.holes),
    );
  }

  /**
   * Appends entries and returns once they are on the disk.
   *
   * @throws JournalWriteError where the disk does not take them; then none of them is kept
   */
  async append(entries: readonly JournalEntry[]): Promise<void> {
    if (entries.length === 0) return;
    let { crc } = this.before;
    const lines = entries.map((entry) => {
      const line = encodeLine(entry, crc);
      crc = line.crc;
      return line.text;
    });
    const text = lines.join('');
    try {
      const handle = await this.writable();
      const size = this.size;
      try {
        await handle.appendFile(text);
        await handle.datasync();
      } catch (error) {
        await this.abandon(handle, size);
        throw error;
      }
    } catch (error) {
      throw new JournalWriteError(error);
    }
    this.size += Buffer.byteLength(text);
    this.before = { seq: entries.at(-1)!.seq, crc };
  }

  /** All whole entries after `seq`, in order; files that end before it are not read. */
  async *since(seq: number): AsyncGenerator<JournalEntry> {
    const names = (await readdir(this.directory)).filter((n) => NAME.test(n)).sort();
    for (const name of names) {
      const known = this.files.find((f) => f.name === name);
      const isLast = name === names.at(-1);
      if (known && !isLast && known.last <= seq) continue;
      for await (const line of linesOf(join(this.directory, name))) {
        const entry = line.ended ? decodeLine(line.text)?.entry : null;
        if (entry && entry.seq > seq) yield entry;
      }
    }
  }

  /** Starts numbering after `seq` where the store is ahead of the journal. */
  continueAfter(seq: number): void {
    if (seq > this.before.seq) this.before = { seq, crc: '' };
  }

  async close(): Promise<void> {
    await this.handle?.close();
    this.handle = null;
  }

  /** After a failed write the descriptor is never used again: the file is cut back to its last whole line, and the next one begun. */
  private async abandon(handle: Pick<FileHandle, 'close'>, bytes: number): Promise<void> {
    this.handle = null;
    this.cutBack = { path: this.path(), bytes };
    await handle.close().catch(() => undefined);
    await this.mend().catch(() => undefined);
  }

  /** Cuts a file back after a failed write; until that is done nothing more is written. */
  private async mend(): Promise<void> {
    if (!this.cutBack) return;
    const { path, bytes } = this.cutBack;
    await this.disk.truncate(path, bytes);
    this.cutBack = null;
    if (bytes > 0) this.file += 1;
  }

  private path(): string {
    return join(this.directory, fileName(this.file));
  }

  private async writable(): Promise<Awaited<ReturnType<JournalDisk['open']>>> {
    await this.mend();
    if (this.handle && this.size < ROTATE_AT) return this.handle;
    if (this.handle) {
      await this.handle.close();
      this.handle = null;
      this.file += 1;
    }
    const path = this.path();
    const isNew = !existsSync(path);
    const handle = await this.disk.open(path);
    this.size = (await handle.stat()).size;
    if (isNew) await flush(this.directory);
    this.handle = handle;
    return handle;
  }
}

/** A finished file's summary, if it still fits the file and the one before it. */
async function readSummary(path: string, before: Before): Promise<FileSummary | null> {
  try {
    const kept = JSON.parse(await readFile(`${path}.sum`, 'utf8')) as FileSummary & { before: Before };
    const fits =
      kept.bytes === (await stat(path)).size &&
      kept.before.seq === before.seq &&
      kept.before.crc === before.crc;
    return fits ? kept : null;
  } catch {
    return null;
  }
}

async function writeSummary(path: string, file: FileSummary & { before: Before }): Promise<void> {
  const { first, last, crc, bytes, holes, before } = file;
  await writeFile(`${path}.sum`, JSON.stringify({ first, last, crc, bytes, holes, before }), {
    mode: 0o600,
  }).catch(
    () => undefined, // it only spares reading the file
  );
}

async function scanAndCut(path: string, name: string, before: Before, isLast: boolean): Promise<FileSummary> {
  const scanned = await scanFile(path, name, before);
  const holes = [...scanned.holes];
  if (isLast && scanned.tornEnd) {
    // What follows the last whole line was never flushed whole, so never answered.
    await writeFile(`${path}.torn`, (await readFile(path)).subarray(scanned.wholeBytes), { mode: 0o600 });
    await truncate(path, scanned.wholeBytes);
    await flush(path);
    return { ...scanned, bytes: scanned.wholeBytes };
  }
  if (scanned.tornEnd)
    holes.push({ from: scanned.last + 1, to: scanned.last + 1, file: name, line: 0, why: 'damaged' });
  return { ...scanned, holes };
}
