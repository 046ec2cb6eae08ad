import { getTableName, inArray, sql } from 'drizzle-orm';
import type { PgColumn, PgTable } from 'drizzle-orm/pg-core';
import type { Db } from '../db/database.ts';
import type { Ahead } from '../db/prepared.ts';
import { arrayOf } from '../db/raw.ts';
import { additions, byIds, changes, type Write } from '../db/together.ts';

/** A table whose rows are told apart by an id. */
export type WithId = PgTable & { id: PgColumn };

type RowOf<T extends PgTable> = T['$inferSelect'] & { id: string };

const asWritten = (value: string) => value;

/** How rows are asked for: as lists of values, times as the database writes them. */
const AS_LISTS = {
  rowMode: 'array' as const,
  parsers: { 1114: asWritten, 1184: asWritten, 1082: asWritten },
};

const isRead = (text: string) => /^\s*select\b/i.test(text);

/**
 * Rows as the entries of a group read and change them. On an embedded store each is read once, what is added or changed is kept and written
 * together, and always before the database is asked about such rows: nobody can tell, but that it is several times faster. After any other
 * change whatever was read is forgotten. Elsewhere all is read and written at once.
 */
export class Rows {
  private readonly got = new Map<PgTable, Map<string, RowOf<WithId> | null>>();
  private readonly found = new Map<string, Promise<unknown>>();
  private readonly added = new Map<PgTable, object[]>();
  private readonly changed = new Map<PgTable, Map<string, { id: string }>>();
  private flushing: Promise<void> | null = null;

  constructor(
    private readonly db: () => Db,
    /** Where it is told before each query of its transaction; null to keep nothing. */
    private readonly ahead: Ahead | null,
  ) {
    if (ahead)
      ahead.before = async (text) => {
        if (!isRead(text)) {
          await this.flush();
          this.forget();
        } else if (this.flushing || this.concerns(text)) await this.flush();
      };
  }

  /** The row as it stands after the entries before; nothing where there is none. */
  async get<T extends WithId>(table: T, id: string): Promise<RowOf<T> | undefined> {
    const kept = this.got.get(table)?.get(id);
    if (kept !== undefined) return (kept ?? undefined) as RowOf<T> | undefined;
    const [row] = await this.read(table, [id]);
    if (!row) this.keep(table, id, null);
    return row && this.know(table, [row])[0];
  }

  /** Reads rows that will be asked for, in one go. */
  async foresee(table: WithId, ids: Iterable<string>): Promise<void> {
    if (!this.ahead) return;
    const kept = this.got.get(table);
    const wanted = [...new Set(ids)].filter((id) => !kept?.has(id));
    if (wanted.length === 0) return;
    const rows = await this.read(table, wanted);
    this.know(table, rows);
    const there = new Set(rows.map((row) => row.id));
    for (const id of wanted) if (!there.has(id)) this.keep(table, id, null);
  }

  /** Rows somebody has read by a query of their own, as {@link get} would give them. */
  know<T extends WithId>(table: T, rows: readonly RowOf<T>[]): RowOf<T>[] {
    return rows.map((row) => {
      const kept = this.got.get(table)?.get(row.id) as RowOf<T> | null | undefined;
      if (kept) return kept;
      this.keep(table, row.id, row);
      return row;
    });
  }

  /** What a query finds, asked once until something else is changed or {@link drop} says so. */
  find<R>(key: string, ask: () => Promise<R>): Promise<R> {
    if (!this.ahead) return ask();
    let kept = this.found.get(key) as Promise<R> | undefined;
    if (!kept) this.found.set(key, (kept = ask()));
    return kept;
  }

  /** Has what was found under a key, or under any that begins with it, asked anew. */
  drop(key: string): void {
    for (const known of this.found.keys()) if (known.startsWith(key)) this.found.delete(known);
  }

  /** Adds rows. */
  async add<T extends WithId>(table: T, rows: readonly T['$inferInsert'][]): Promise<void> {
    const waiting = this.added.get(table);
    if (waiting) waiting.push(...rows);
    else this.added.set(table, [...rows]);
    // What the table gives by itself is known once it is written.
    for (const row of rows) this.got.get(table)?.delete((row as { id: string }).id);
    if (!this.ahead) await this.flush();
  }

  /** Changes a row that was read, also the one in hand. */
  async set<T extends WithId>(table: T, row: RowOf<T>, change: Partial<T['$inferSelect']>): Promise<void> {
    Object.assign(row, change);
    Object.assign(this.got.get(table)?.get(row.id) ?? {}, change);
    let waiting = this.changed.get(table);
    if (!waiting) this.changed.set(table, (waiting = new Map()));
    waiting.set(row.id, { ...waiting.get(row.id), ...change, id: row.id });
    if (!this.ahead) await this.flush();
  }

  /** Writes what waits. */
  async flush(): Promise<void> {
    while (this.flushing) await this.flushing;
    if (this.added.size === 0 && this.changed.size === 0) return;
    const writes = [
      ...[...this.added].flatMap(([table, rows]) => additions(table, rows)),
      ...[...this.changed].flatMap(([table, rows]) => changes(table, [...rows.values()] as never)),
    ];
    this.added.clear();
    this.changed.clear();
    this.flushing = this.write(writes).finally(() => (this.flushing = null));
    await this.flushing;
  }

  /** Writes at once, past what waits. */
  async write(writes: readonly Write[]): Promise<void> {
    for (const { text, rows } of writes)
      if (this.ahead) await this.ahead.run(text, [rows]);
      else await this.db().execute(withParameter(text, rows));
  }

  private async read<T extends WithId>(table: T, ids: readonly string[]): Promise<RowOf<T>[]> {
    const ahead = this.ahead;
    if (!ahead)
      return (await this.db()
        .select()
        .from(table as PgTable)
        .where(inArray(table.id, [...ids]))) as RowOf<T>[];
    const { text, rowOf } = byIds(table);
    await ahead.before?.(text);
    const { rows } = await ahead.run(text, [arrayOf(ids)], AS_LISTS);
    return (rows as unknown[][]).map((values) => rowOf(values) as RowOf<T>);
  }

  /** Whether a question may be about rows that wait. */
  private concerns(text: string): boolean {
    for (const rows of [this.added, this.changed])
      for (const table of rows.keys()) if (text.includes(getTableName(table))) return true;
    return false;
  }

  /** Forgets what was read; what waits to be written goes on waiting. */
  private forget(): void {
    this.got.clear();
    this.found.clear();
  }

  private keep(table: PgTable, id: string, row: RowOf<WithId> | null): void {
    if (!this.ahead) return;
    let rows = this.got.get(table);
    if (!rows) this.got.set(table, (rows = new Map()));
    rows.set(id, row);
  }
}

/** A statement with `$1` in it, as drizzle takes it. */
function withParameter(text: string, value: string) {
  const [before, after] = text.split('$1');
  return sql`${sql.raw(before!)}${value}${sql.raw(after!)}`;
}
