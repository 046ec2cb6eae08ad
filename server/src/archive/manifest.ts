import { z } from 'zod';

/** Shape of an archive; a release reads its own and all before it. */
export const ARCHIVE = 1;

/** Name of the note, in an archive, of what is in it. */
export const MANIFEST = 'manifest.json';

/** Name of the JSON Schemas of the rows in it. */
export const SCHEMA = 'schema.json';

/** Largest line and file an archive may hold, bytes, and all of it unpacked: what is larger was not written by us. */
export const LIMITS = { line: 32e6, file: 8e9, sum: 16e9, files: 500_000 };

/** Path of a table’s rows in an archive. */
export const rowsPath = (table: string) => `tables/${table}.jsonl`;

const Sum = z.string().regex(/^[0-9a-f]{64}$/);

/** What an archive says of itself. */
export const Manifest = z.object({
  what: z.literal('wunsch archive'),
  archive: z.number().int().positive(),
  /** The release that wrote it. */
  release: z.string(),
  /** Name of the last change of the database’s shape the rows are of. */
  shape: z.string(),
  madeAt: z.string(),
  workshop: z.string(),
  /** Number of the last entry in it. */
  lastSeq: z.number().int().nonnegative(),
  /** Rows of each table, in the order they are put back. */
  tables: z.array(z.object({ name: z.string(), rows: z.number().int().nonnegative() })),
  /** SHA-256 and length of every other file. */
  files: z.record(z.string(), z.object({ sha256: Sum, bytes: z.number().int().nonnegative() })),
});
export type Manifest = z.infer<typeof Manifest>;

/** An archive that cannot be put back, with what is the matter and what would be right. */
export class ArchiveError extends Error {
  constructor(message: string) {
    super(message);
    this.name = 'ArchiveError';
  }
}
