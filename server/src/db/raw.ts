import { sql, type SQL } from 'drizzle-orm';

/** Rows of a statement written out, whichever of the two databases answered it. */
export const rowsOf = <T>(result: unknown): T[] => (result as { rows: T[] }).rows;

/** A column of time as the contract writes an instant; `column` is ours, never a person’s. */
export const instantOf = (column: string): SQL =>
  sql.raw(`to_char(${column} at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.MS"Z"')`);

/** Ids as an array written out: the one parameter of a statement that asks for them, however many there are. */
export const arrayOf = (ids: Iterable<string>) => `{${[...ids].join(',')}}`;

/** Ids as an array a statement can ask in. */
export const uuids = (ids: Iterable<string>): SQL => sql`${arrayOf(ids)}::uuid[]`;

/** Ids to be looked up among one by one. */
export const idsIn = (ids: Iterable<string>): SQL => sql`(select unnest(${uuids(ids)}))`;

/**
 * A column as a cell of JSON written by hand, many times faster than the database’s own builder over ten years of rows; for ids, words of our
 * own and numbers alone, since nothing in it is escaped. `column` is ours, never a person’s.
 */
export const jsonCell = (column: string, isQuoted: boolean): SQL =>
  sql.raw(isQuoted ? `coalesce('"' || ${column} || '"', 'null')` : `coalesce((${column})::text, 'null')`);

/** A column of anybody’s words as a cell of JSON. */
export const jsonText = (column: string): SQL => sql.raw(`coalesce(to_json(${column})::text, 'null')`);

/** A pattern of `ilike` that finds this text and no other, in capitals or not. */
export const alike = (text: string) => text.replace(/[\\%_]/g, '\\$&');

/** A pattern of `ilike` that finds this text anywhere. */
export const anywhere = (text: string) => `%${alike(text)}%`;
