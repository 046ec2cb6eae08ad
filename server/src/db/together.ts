import { getTableColumns, getTableName } from 'drizzle-orm';
import type { PgColumn, PgTable } from 'drizzle-orm/pg-core';

/** A question for rows of a table by their ids, and what makes rows of the lists of values it is answered with. */
export interface Read<R> {
  /** Takes the ids as one parameter, an array written out. */
  text: string;
  rowOf: (values: readonly unknown[]) => R;
}

const reads = new WeakMap<PgTable, Read<unknown>>();

/** The question for rows of a table whose ids are named: its text is made once, which takes longer than answering it. */
export function byIds<T extends PgTable & { id: PgColumn }>(table: T): Read<T['$inferSelect']> {
  const known = reads.get(table);
  if (known) return known as Read<T['$inferSelect']>;
  const columns = Object.entries(getTableColumns(table) as Columns);
  const list = columns.map(([, c]) => quoted(c.name)).join(', ');
  const id = table.id.getSQLType();
  const read: Read<T['$inferSelect']> = {
    text: `select ${list} from ${quoted(getTableName(table))} where "id" = any ($1::${id}[])`,
    rowOf: (values) =>
      Object.fromEntries(
        columns.map(([name, c], i) => [name, values[i] === null ? null : c.mapFromDriverValue(values[i])]),
      ) as T['$inferSelect'],
  };
  reads.set(table, read);
  return read;
}

/** A statement that writes any number of rows, and the rows as the one parameter it takes. */
export interface Write {
  text: string;
  rows: string;
}

type Columns = Record<string, PgColumn>;

/** Statements made so far: a table has few, by which of its columns are named. */
const texts = new WeakMap<PgTable, Map<string, string>>();

const quoted = (name: string) => `"${name}"`;

/** What a cell is in JSON: columns with a form of their own in the database are given in that form. */
function cell(column: PgColumn, value: unknown): unknown {
  if (value === null || column.columnType !== 'PgCustomColumn') return value;
  const driven = column.mapToDriverValue(value);
  if (driven instanceof Uint8Array) throw new TypeError(`bytes of ${column.name} cannot be written this way`);
  return driven;
}

/** Rows that name the same columns, by these. */
function byNames(rows: readonly object[]): Map<string, object[]> {
  const found = new Map<string, object[]>();
  for (const row of rows) {
    const named = Object.entries(row).filter(([, value]) => value !== undefined);
    const key = named.map(([name]) => name).join();
    const same = found.get(key);
    if (same) same.push(row);
    else found.set(key, [row]);
  }
  return found;
}

function writesOf(
  table: PgTable,
  what: string,
  rows: readonly object[],
  textOf: (columns: PgColumn[], list: string) => string,
): Write[] {
  const all = getTableColumns(table) as Columns;
  let known = texts.get(table);
  if (!known) texts.set(table, (known = new Map()));
  return [...byNames(rows)].map(([key, same]) => {
    const names = key.split(',');
    const columns = names.map((name) => all[name]!);
    let text = known.get(`${what} ${key}`);
    if (!text) {
      const list = columns.map((c) => `${quoted(c.name)} ${c.getSQLType()}`).join(', ');
      known.set(`${what} ${key}`, (text = textOf(columns, list)));
    }
    const cells = same.map((row) =>
      Object.fromEntries(
        columns.map((c, i) => [c.name, cell(c, (row as Record<string, unknown>)[names[i]!])]),
      ),
    );
    return { text, rows: JSON.stringify(cells) };
  });
}

/**
 * Statements that add rows to a table, one for each set of columns the rows name; columns not named get what the table gives by itself.
 * Their text does not grow with the rows, so that the database parses it once.
 *
 * @param rows as drizzle takes them, of plain values
 * @throws TypeError for raw bytes
 */
export const additions = <T extends PgTable>(table: T, rows: readonly T['$inferInsert'][]): Write[] =>
  writesOf(table, 'add', rows, (columns, list) => {
    const names = columns.map((c) => quoted(c.name)).join(', ');
    return `insert into ${quoted(getTableName(table))} (${names}) select ${names} from json_to_recordset($1) as r (${list})`;
  });

/**
 * Statements that change rows of a table, found by their `id`, one for each set of columns that are changed.
 *
 * @param rows the ids with what changes
 * @throws TypeError for raw bytes
 */
export const changes = <T extends PgTable>(
  table: T,
  rows: readonly (Partial<T['$inferSelect']> & { id: string })[],
): Write[] =>
  writesOf(table, 'change', rows, (columns, list) => {
    const sets = columns
      .filter((c) => c.name !== 'id')
      .map((c) => `${quoted(c.name)} = r.${quoted(c.name)}`)
      .join(', ');
    return `update ${quoted(getTableName(table))} as t set ${sets} from json_to_recordset($1) as r (${list}) where t."id" = r."id"`;
  });
