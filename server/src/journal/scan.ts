import { createReadStream } from 'node:fs';
import { decodeLine, type JournalLine } from './line.ts';

/** What is known of a journal file without reading it. */
export interface FileSummary {
  /** Numbers of its first and last entry; 0 for a file without one. */
  first: number;
  last: number;
  /** Checksum of its last line, to which the next file is chained. */
  crc: string;
  bytes: number;
  holes: JournalHole[];
}

/** A stretch of the journal that is not there or cannot be read. */
export interface JournalHole {
  /** Numbers of the missing entries, both included. */
  from: number;
  to: number;
  file: string;
  line: number;
  why: 'missing' | 'damaged' | 'replaced';
}

/** Where the line before stood. */
export interface Before {
  seq: number;
  crc: string;
}

/** What a file's end looks like. */
export interface Scanned extends FileSummary {
  /** Bytes up to the end of the last whole line. */
  wholeBytes: number;
  /** Whether an unfinished or unreadable line follows it. */
  tornEnd: boolean;
}

/** One line of a file with its length on the disk. */
export interface FileLine {
  text: string;
  /** Bytes with its line end. */
  bytes: number;
  /** False for a last line without an end, which was never written whole. */
  ended: boolean;
}

const LINE_FEED = 10;

/** The lines of a file, one after the other, never the whole of it in memory. */
export async function* linesOf(path: string): AsyncGenerator<FileLine> {
  let held: Buffer[] = [];
  for await (const part of createReadStream(path) as AsyncIterable<Buffer>) {
    let from = 0;
    for (let at = part.indexOf(LINE_FEED); at >= 0; at = part.indexOf(LINE_FEED, from)) {
      const line = Buffer.concat([...held, part.subarray(from, at)]);
      held = [];
      from = at + 1;
      yield { text: line.toString('utf8'), bytes: line.length + 1, ended: true };
    }
    if (from < part.length) held.push(part.subarray(from));
  }
  const rest = Buffer.concat(held);
  if (rest.length > 0) yield { text: rest.toString('utf8'), bytes: rest.length, ended: false };
}

/**
 * Reads a file line by line and tells what is missing from it: numbers that are left out, lines that do not match their
 * checksum, and lines that do not follow the one before.
 */
export async function scanFile(path: string, name: string, before: Before): Promise<Scanned> {
  let [seq, crc] = [before.seq, before.crc];
  let first = 0;
  let bytes = 0;
  let wholeBytes = 0;
  let number = 0;
  let pendingDamage: number | null = null;
  const holes: JournalHole[] = [];
  for await (const line of linesOf(path)) {
    number += 1;
    bytes += line.bytes;
    const found: JournalLine | null = line.ended ? decodeLine(line.text) : null;
    if (!found) {
      pendingDamage ??= number;
      continue;
    }
    const { entry } = found;
    if (pendingDamage !== null || entry.seq > seq + 1) {
      const to = Math.max(seq + 1, entry.seq - 1);
      holes.push({
        from: seq + 1,
        to,
        file: name,
        line: pendingDamage ?? number,
        why: pendingDamage === null ? 'missing' : 'damaged',
      });
    } else if (entry.seq <= seq && seq > 0) {
      holes.push({ from: entry.seq, to: entry.seq, file: name, line: number, why: 'replaced' });
    } else if (found.prev !== null && crc !== '' && found.prev !== crc) {
      holes.push({ from: entry.seq, to: entry.seq, file: name, line: number, why: 'replaced' });
    }
    pendingDamage = null;
    first ||= entry.seq;
    seq = Math.max(seq, entry.seq);
    crc = found.crc;
    wholeBytes = bytes;
  }
  return { first, last: seq, crc, bytes, holes, wholeBytes, tornEnd: pendingDamage !== null };
}
