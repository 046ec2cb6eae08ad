import { existsSync } from 'node:fs';
import { mkdir, open, readdir, readFile, truncate, writeFile, type FileHandle } from 'node:fs/promises';
import { join } from 'node:path';
import { crc32 } from 'node:zlib';
import { flush } from '../db/files.ts';

/** One accepted entry as the journal keeps it. */
export interface JournalEntry {
  seq: number;
  kind: string;
  target: string;
  at: string;
  by: string;
  personId: string | null;
  body: unknown;
}

/** A line that is neither whole nor the torn end of the last file. */
export class JournalDamagedError extends Error {
  constructor(file: string, line: number) {
    super(
      `the journal ${file} is damaged at line ${line}; restore that file from a backup, nothing has been changed`,
    );
    this.name = 'JournalDamagedError';
  }
}

/** A file is closed and the next begun beyond this size, bytes. */
const ROTATE_AT = 16 * 1024 * 1024;

const PREFIX = '{"crc":"';
const NAME = /^\d{8}\.jsonl$/;

function encode(entry: JournalEntry): string {
  const json = JSON.stringify(entry);
  return `${PREFIX}${crc32(json).toString(16).padStart(8, '0')}","entry":${json}}\n`;
}

function decode(line: string): JournalEntry | null {
  if (!line.startsWith(PREFIX) || !line.endsWith('}')) return null;
  const crc = line.slice(PREFIX.length, PREFIX.length + 8);
  const json = line.slice(PREFIX.length + 8 + '","entry":'.length, -1);
  if (crc32(json).toString(16).padStart(8, '0') !== crc) return null;
  return JSON.parse(json) as JournalEntry;
}

/**
 * The append-only journal in front of an embedded store: one line of checksummed JSON for each accepted
 * entry, in numbered files, flushed to the disk before the entry is answered. It is an open format and
 * the workshop's backup.
 */
export class Journal {
  private handle: FileHandle | null = null;
  private size = 0;

  private constructor(
    private readonly directory: string,
    private file: number,
    /** Number of the last whole entry, 0 when there is none. */
    private last: number,
  ) {}

  /** Number of the last whole entry, 0 when there is none. */
  get lastSeq(): number {
    return this.last;
  }

  /**
   * Opens the journal of a directory. An unfinished line at the very end, which was never answered, is cut
   * off and kept beside the file as `.torn`.
   *
   * @throws JournalDamagedError when any other line does not match its checksum
   */
  static async open(directory: string): Promise<Journal> {
    await mkdir(directory, { recursive: true });
    const files = (await readdir(directory)).filter((n) => NAME.test(n)).sort();
    let last = 0;
    for (const [index, name] of files.entries()) {
      const path = join(directory, name);
      const text = await readFile(path, 'utf8');
      const lines = text.split('\n');
      let offset = 0;
      for (const [number, line] of lines.entries()) {
        if (line === '' && number === lines.length - 1) break;
        const entry = number < lines.length - 1 ? decode(line) : null;
        if (!entry) {
          const isEnd =
            index === files.length - 1 && !lines.slice(number + 1).some((l) => decode(l) !== null);
          if (!isEnd) throw new JournalDamagedError(path, number + 1);
          await writeFile(`${path}.torn`, text.slice(offset));
          await truncate(path, Buffer.byteLength(text.slice(0, offset)));
          await flush(path);
          break;
        }
        last = entry.seq;
        offset += line.length + 1;
      }
    }
    const file = files.length > 0 ? Number(files[files.length - 1]!.slice(0, 8)) : 1;
    return new Journal(directory, file, last);
  }

  /** Appends entries and returns once they are on the disk. */
  async append(entries: readonly JournalEntry[]): Promise<void> {
    if (entries.length === 0) return;
    const handle = await this.writable();
    const text = entries.map(encode).join('');
    await handle.appendFile(text);
    await handle.datasync();
    this.size += Buffer.byteLength(text);
    this.last = entries[entries.length - 1]!.seq;
  }

  /** All whole entries after `seq`, in order. */
  async *since(seq: number): AsyncGenerator<JournalEntry> {
    const files = (await readdir(this.directory)).filter((n) => NAME.test(n)).sort();
    for (const name of files) {
      for (const line of (await readFile(join(this.directory, name), 'utf8')).split('\n')) {
        const entry = line === '' ? null : decode(line);
        if (entry && entry.seq > seq) yield entry;
      }
    }
  }

  /** Starts numbering after `seq` where the store is ahead of an empty journal. */
  continueAfter(seq: number): void {
    this.last = Math.max(this.last, seq);
  }

  async close(): Promise<void> {
    await this.handle?.close();
    this.handle = null;
  }

  private async writable(): Promise<FileHandle> {
    if (this.handle && this.size < ROTATE_AT) return this.handle;
    if (this.handle) {
      await this.handle.close();
      this.file += 1;
    }
    const path = join(this.directory, `${String(this.file).padStart(8, '0')}.jsonl`);
    const isNew = !existsSync(path);
    this.handle = await open(path, 'a', 0o600);
    this.size = (await this.handle.stat()).size;
    if (isNew) await flush(this.directory);
    return this.handle;
  }
}
