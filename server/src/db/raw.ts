import { sql, type SQL } from 'drizzle-orm';

/** Rows of a statement written out, whichever of the two databases answered it. */
export const rowsOf = <T>(result: unknown): T[] => (result as { rows: T[] }).rows;

/** A column of time as the contract writes an instant; `column` is ours, never a person’s. */
export const instantOf = (column: string): SQL =>
  sql.raw(`to_char(${column} at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.MS"Z"')`);

/** Ids as an array a statement can ask in. */
export const uuids = (ids: readonly string[]): SQL =>
  ids.length === 0
    ? sql`array[]::uuid[]`
    : sql`array[${sql.join(
        ids.map((id) => sql`${id}::uuid`),
        sql`, `,
      )}]`;
