import { sql } from 'drizzle-orm';
import { v5 as uuidV5 } from 'uuid';
import type { Topic } from '@wunsch/contract';
import type { Db } from '../db/database.ts';
import type { Ahead } from '../db/prepared.ts';
import { setAside, trail } from '../db/schema/index.ts';
import { additions } from '../db/together.ts';
import type { JournalEntry } from '../journal/line.ts';
import { bodyHash } from './body.ts';
import type { Context, Handler } from './command.ts';
import { Rows, type WithId } from './rows.ts';

/** Namespace of ids for rows the server makes itself. */
const ROW_IDS = '0f3c1c52-7d0e-5b8e-9a51-7c7f1b0c9a11';

/** The id of the n-th row an entry makes by itself; the same on every replay. */
export const rowId = (seq: number, n: number) => uuidV5(`${seq}:${n}`, ROW_IDS);

/** What applying an entry came to. */
export interface Outcome {
  batchId: string | null;
  touches: readonly Topic[];
}

/** What the entries of one transaction share: rows read once, and the trail written in one go. */
export class GroupWork {
  private readonly trail: (typeof trail.$inferInsert)[] = [];
  private readonly read = new Map<string, Promise<unknown>>();
  private readonly rows: Rows;

  constructor(
    private tx: Db,
    /** Each entry behind a savepoint of its own, all it does written at once. */
    readonly careful: boolean,
    /** Of an embedded database. */
    private readonly ahead: Ahead | null = null,
  ) {
    this.rows = new Rows(() => this.tx, careful ? null : ahead);
  }

  /** Reads together what the entries of the group will ask for. */
  async foresee(group: readonly { handler: Handler; target: string; body: unknown }[]): Promise<void> {
    if (this.careful) return;
    const wanted = new Map<WithId, string[]>();
    for (const { handler, target, body } of group)
      for (const [table, id] of handler.foresees?.({ target, body: body as never }) ?? []) {
        const ids = wanted.get(table);
        if (ids) ids.push(id);
        else wanted.set(table, [id]);
      }
    for (const [table, ids] of wanted) await this.rows.foresee(table, ids);
  }

  /** Ends the work, whether it went well or not; what waits is not written any more. */
  end(): void {
    if (this.ahead) this.ahead.before = null;
  }

  /** Applies one entry whose body has been parsed. */
  async apply(handler: Handler, entry: JournalEntry): Promise<Outcome> {
    if (!this.careful) return this.applyOn(this.tx, handler, entry);
    const outside = this.tx;
    try {
      return await outside.transaction(async (savepoint) => {
        this.tx = savepoint as unknown as Db;
        const outcome = await this.applyOn(this.tx, handler, entry);
        await this.flush();
        return outcome;
      });
    } catch (error) {
      this.trail.length = 0;
      this.read.clear();
      throw error;
    } finally {
      this.tx = outside;
    }
  }

  private async applyOn(tx: Db, handler: Handler, entry: JournalEntry): Promise<Outcome> {
    // Undoing reads the trail of what came just before.
    if (entry.kind === 'undo') await this.flush();
    let made = 0;
    const context: Context = {
      ...entry,
      tx,
      once: (key, load) => this.once(key, load),
      rows: this.rows,
      newId: () => rowId(entry.seq, (made += 1)),
    };
    const applied = (await handler.apply(context)) ?? {};
    if (!handler.keepsRead) this.read.clear();
    const batchId = applied.batchId ?? null;
    const touches = [...new Set([...handler.touches, ...(applied.touches ?? [])])];
    this.trail.push({
      seq: entry.seq,
      kind: entry.kind,
      version: handler.version,
      target: entry.target,
      batchId,
      personId: entry.personId,
      by: entry.by,
      at: entry.at,
      body: handler.large ? null : entry.body,
      bodyHash: bodyHash(entry.body),
      touches,
      undoable: handler.undo !== undefined,
    });
    return { batchId, touches };
  }

  /** Writes one line for streamed entries that were brought in together, under the last number. */
  noteStream(handler: Handler, last: JournalEntry): void {
    this.trail.push({
      seq: last.seq,
      kind: last.kind,
      version: handler.version,
      target: last.target,
      batchId: null,
      personId: null,
      by: last.by,
      at: last.at,
      body: null,
      touches: [...handler.touches],
      undoable: false,
    });
  }

  /** Keeps an entry that cannot be applied, with the reason, so that it stops neither others nor opening. */
  async setAside(entry: JournalEntry, reason: unknown): Promise<void> {
    await this.tx
      .insert(setAside)
      .values({
        seq: entry.seq,
        kind: entry.kind.slice(0, 200),
        version: entry.version,
        target: String(entry.target).replaceAll('\u0000', '').slice(0, 400),
        by: entry.by.replaceAll('\u0000', ''),
        at: String(entry.at).slice(0, 60),
        body: JSON.stringify(entry.body) ?? 'null',
        reason: (reason instanceof Error ? reason.message : String(reason))
          .replaceAll('\u0000', '')
          .slice(0, 2000),
      })
      .onConflictDoNothing();
  }

  /** Writes what waits: rows, and the lines of the trail. */
  async flush(): Promise<void> {
    await this.rows.flush();
    if (this.trail.length > 0) await this.rows.write(additions(trail, this.trail.splice(0)));
  }

  private once<T>(key: string, load: () => Promise<T>): Promise<T> {
    let found = this.read.get(key) as Promise<T> | undefined;
    if (!found) {
      // A query that is only waited for is asked anew by each who waits.
      found = Promise.resolve(load());
      this.read.set(key, found);
    }
    return found;
  }
}

/** Number of the last entry the store knows of, applied or set aside. */
export async function lastSeqOf(db: Db): Promise<number> {
  const result = await db.execute(
    sql`select greatest((select coalesce(max(seq), 0) from trail), (select coalesce(max(seq), 0) from set_aside)) as seq`,
  );
  return Number((result as unknown as { rows: { seq: string }[] }).rows[0]!.seq);
}
