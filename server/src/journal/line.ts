import { crc32 } from 'node:zlib';

/** One accepted entry as the journal keeps it. */
export interface JournalEntry {
  seq: number;
  kind: string;
  /** Version of the body; lines written before there were versions are of the first. */
  version: number;
  target: string;
  at: string;
  by: string;
  personId: string | null;
  body: unknown;
}

/** A line read back, with what chains it to its neighbours. */
export interface JournalLine {
  entry: JournalEntry;
  crc: string;
  /** Checksum of the line before; null on lines written before they were chained. */
  prev: string | null;
}

const PREFIX = '{"crc":"';
const BETWEEN = '","entry":';
const CRC_LENGTH = 8;

const checksum = (json: string) => crc32(json).toString(16).padStart(CRC_LENGTH, '0');

/** An entry as a line of checksummed JSON that names the checksum of the line before it. */
export function encodeLine(entry: JournalEntry, prev: string): { text: string; crc: string } {
  const json = JSON.stringify({ ...entry, prev });
  const crc = checksum(json);
  return { text: `${PREFIX}${crc}${BETWEEN}${json}}\n`, crc };
}

/** The line read back; null where it does not match its checksum. */
export function decodeLine(line: string): JournalLine | null {
  if (!line.startsWith(PREFIX) || !line.endsWith('}')) return null;
  const crc = line.slice(PREFIX.length, PREFIX.length + CRC_LENGTH);
  const json = line.slice(PREFIX.length + CRC_LENGTH + BETWEEN.length, -1);
  if (checksum(json) !== crc) return null;
  const {
    prev = null,
    version = 1,
    ...rest
  } = JSON.parse(json) as Omit<JournalEntry, 'version'> & {
    version?: number;
    prev?: string | null;
  };
  return { entry: { ...rest, version }, crc, prev };
}
