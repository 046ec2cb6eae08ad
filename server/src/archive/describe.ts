import { sql } from 'drizzle-orm';
import type { Db } from '../db/database.ts';
import { rowsOf } from '../db/raw.ts';

interface Column {
  table_name: string;
  column_name: string;
  data_type: string;
  is_nullable: 'YES' | 'NO';
}

const INTEGER = { type: 'integer' };

/** What a column’s values are as JSON; anything may stand in a json column. */
const KINDS: Readonly<Record<string, object>> = {
  uuid: { type: 'string', format: 'uuid' },
  text: { type: 'string' },
  'character varying': { type: 'string' },
  date: { type: 'string', format: 'date' },
  'timestamp with time zone': { type: 'string', format: 'date-time' },
  boolean: { type: 'boolean' },
  smallint: INTEGER,
  integer: INTEGER,
  bigint: INTEGER,
  real: { type: 'number' },
  'double precision': { type: 'number' },
  numeric: { type: 'number' },
  ARRAY: { type: 'array' },
  bytea: {
    type: 'string',
    description: 'bytes: \\x and hexadecimal digits, or the path of a file in the archive',
  },
};

const kindOf = (c: Column): object => {
  const kind = KINDS[c.data_type] ?? {};
  const { type } = kind as { type?: string };
  return c.is_nullable === 'YES' && type ? { ...kind, type: [type, 'null'] } : kind;
};

/**
 * The rows of every table as JSON Schema (2020-12), read from the database itself, so that it is true of what lies beside it.
 *
 * @returns one document whose `$defs` are named as the tables
 */
export async function describeTables(db: Db, tables: readonly string[]): Promise<object> {
  const columns = rowsOf<Column>(
    await db.execute(
      sql`select table_name, column_name, data_type, is_nullable from information_schema.columns where table_schema = 'public' order by table_name, ordinal_position`,
    ),
  );
  return {
    $schema: 'https://json-schema.org/draft/2020-12/schema',
    title: 'Rows of a Wunsch archive, one JSON object a line',
    description:
      'Masses are whole milligrams, money is in minor units, temperatures are °C, times UTC. A column of json holds what the entries of its kind carry.',
    $defs: Object.fromEntries(
      tables.map((table) => {
        const own = columns.filter((c) => c.table_name === table);
        return [
          table,
          {
            type: 'object',
            properties: Object.fromEntries(own.map((c) => [c.column_name, kindOf(c)])),
            required: own.map((c) => c.column_name),
            additionalProperties: false,
          },
        ];
      }),
    ),
  };
}
