import { sql, type SQL } from 'drizzle-orm';
import Papa from 'papaparse';
import type { TableName } from '@wunsch/contract';
import { minorDigits } from '@wunsch/core/quantity';
import type { Db } from '../db/database.ts';
import { rowsOf } from '../db/raw.ts';
import { TABLES, type Table } from './tables.ts';

/** Rows fetched together. */
const FETCH = 2000;

/** A table’s headings, with the currency its money is in. */
export const headingsOf = (name: TableName, currency: string): string[] =>
  TABLES[name].columns.map(([heading]) => heading.replace('¤', currency));

const cellOf = (value: unknown): string | number =>
  value === null || value === undefined
    ? ''
    : typeof value === 'number'
      ? value
      : value instanceof Date
        ? value.toISOString()
        : String(value as string | boolean | bigint);

/**
 * A table as CSV (RFC 4180, UTF-8), part by part in order of its key, so that ten years cost no more memory than a few thousand rows. A cell a
 * spreadsheet would take for a formula stands behind an apostrophe.
 */
export async function* tableCsv(db: Db, name: TableName, currency: string): AsyncGenerator<string> {
  const table: Table = TABLES[name];
  const whole = 10 ** minorDigits(currency);
  const isMoney = table.columns.map(([heading]) => heading.includes('¤'));
  const key = sql.raw(`t.${table.key}`);
  const columns = sql.join(
    table.columns.map(([, value], i) => sql`${value} as ${sql.raw(`c${i}`)}`),
    sql`, `,
  );
  yield Papa.unparse([headingsOf(name, currency)]) + '\r\n';
  let after: string | number | null = null;
  for (;;) {
    const where: SQL =
      after === null
        ? sql`true`
        : table.key === 'seq'
          ? sql`${key} > ${Number(after)}`
          : table.key === 'part'
            ? sql`${key} > ${String(after)}::text`
            : sql`${key} > ${String(after)}::uuid`;
    const rows: Record<string, unknown>[] = rowsOf<Record<string, unknown>>(
      await db.execute(
        sql`select ${key} as k, ${columns} from ${table.from} where ${where} order by ${key} limit ${FETCH}`,
      ),
    );
    if (rows.length === 0) return;
    yield (
      Papa.unparse(
        rows.map((row) =>
          table.columns.map((_, i) => {
            const value = row[`c${i}`];
            return isMoney[i] && value !== null ? Number(value) / whole : cellOf(value);
          }),
        ),
        { escapeFormulae: true },
      ) + '\r\n'
    );
    if (rows.length < FETCH) return;
    after = rows.at(-1)!.k as string | number;
  }
}
