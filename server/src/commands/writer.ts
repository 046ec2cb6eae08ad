import { and, desc, eq, sql } from 'drizzle-orm';
import { v5 as uuidV5 } from 'uuid';
import { isDeepStrictEqual } from 'node:util';
import type { ChangeEvent, Role } from '@wunsch/contract';
import type { Db } from '../db/database.ts';
import { trail } from '../db/schema/index.ts';
import { Problem } from '../formats/problem.ts';
import type { Journal, JournalEntry } from '../journal/journal.ts';
import type { Context, Handler } from './command.ts';

/** A request to make an entry. */
export interface Request {
  kind: string;
  target: string;
  body: unknown;
  actor: { id: string | null; initials: string; role: Role } | null;
  /** When it happened, for entries made elsewhere earlier; now where left out. */
  at?: string;
}

/** The answer once the entry is durable. */
export interface Accepted {
  seq: number;
  /** True when the same entry had been accepted before. */
  repeated: boolean;
}

/** Most entries flushed and committed together. */
const GROUP = 64;

/** Namespace of ids for rows the server makes itself. */
const ROW_IDS = '0f3c1c52-7d0e-5b8e-9a51-7c7f1b0c9a11';

interface Waiting {
  request: Request;
  resolve: (accepted: Accepted) => void;
  reject: (error: unknown) => void;
}

/** How the writer makes entries durable: with the journal before the embedded store, or on a PostgreSQL server by its own log. */
export interface WriterOptions {
  db: Db;
  handlers: readonly Handler[];
  /** The journal of an embedded store; null on a PostgreSQL server. */
  journal: Journal | null;
  lastSeq: number;
  publish: (event: ChangeEvent) => void;
  /** Called when an entry was journalled and could not be committed: the process must end and recover. */
  onFatal: (error: unknown) => void;
}

/**
 * The one door through which anything is written. Entries are applied in order; on the embedded store a
 * group is applied in a transaction, journalled and flushed, committed, and only then answered.
 */
export class Writer {
  private readonly handlers: Map<string, Handler>;
  private readonly queue: Waiting[] = [];
  private running = false;
  private seq: number;
  private failed: unknown = null;
  private idle: (() => void)[] = [];

  constructor(private readonly options: WriterOptions) {
    this.handlers = new Map(options.handlers.map((h) => [h.kind, h]));
    this.seq = options.lastSeq;
  }

  /** Number of the last entry. */
  get lastSeq(): number {
    return this.seq;
  }

  /** Makes an entry; resolves once it is durable, rejects with a Problem that says what would be right. */
  submit(request: Request): Promise<Accepted> {
    return new Promise((resolve, reject) => {
      this.queue.push({ request, resolve, reject });
      void this.drain();
    });
  }

  /** Resolves when no entry is waiting or being written. */
  settled(): Promise<void> {
    if (!this.running && this.queue.length === 0) return Promise.resolve();
    return new Promise((resolve) => this.idle.push(resolve));
  }

  /** Applies journalled entries which the store has not got. They were accepted before, so none may fail. */
  async replay(entries: AsyncIterable<JournalEntry>): Promise<number> {
    let count = 0;
    let group: JournalEntry[] = [];
    const apply = async () => {
      await this.options.db.transaction(async (tx) => {
        for (const entry of group) await this.applyEntry(tx as unknown as Db, entry);
      });
      count += group.length;
      this.seq = group.at(-1)?.seq ?? this.seq;
      group = [];
    };
    for await (const entry of entries) {
      group.push(entry);
      if (group.length >= GROUP) await apply();
    }
    if (group.length > 0) await apply();
    return count;
  }

  private async drain(): Promise<void> {
    if (this.running) return;
    this.running = true;
    while (this.queue.length > 0) {
      const group = this.queue.splice(0, this.options.journal ? GROUP : 1);
      await (this.options.journal ? this.writeEmbedded(group) : this.writeServer(group[0]!));
    }
    this.running = false;
    this.idle.splice(0).forEach((resolve) => resolve());
  }

  private async writeEmbedded(group: Waiting[]): Promise<void> {
    const outcomes: (() => void)[] = [];
    const events: ChangeEvent[] = [];
    const start = this.seq;
    let journalled = false;
    try {
      if (this.failed) throw this.failed;
      await this.options.db.transaction(async (tx) => {
        const entries: JournalEntry[] = [];
        for (const { request, resolve, reject } of group) {
          try {
            const before = await this.earlier(tx as unknown as Db, request);
            if (before) {
              outcomes.push(() => resolve({ seq: before, repeated: true }));
              continue;
            }
            const entry = this.toEntry(request, this.seq + 1);
            const batchId = await tx.transaction((savepoint) => this.applyEntry(savepoint as unknown as Db, entry));
            this.seq = entry.seq;
            entries.push(entry);
            events.push({ seq: entry.seq, kind: entry.kind, target: entry.target, batchId, by: entry.personId });
            outcomes.push(() => resolve({ seq: entry.seq, repeated: false }));
          } catch (error) {
            outcomes.push(() => reject(error));
          }
        }
        await this.options.journal!.append(entries);
        journalled = entries.length > 0;
      });
    } catch (error) {
      this.seq = start;
      group.forEach(({ reject }) => reject(error));
      if (journalled) {
        this.failed = error;
        this.options.onFatal(error);
      }
      return;
    }
    outcomes.forEach((answer) => answer());
    events.forEach(this.options.publish);
  }

  private async writeServer({ request, resolve, reject }: Waiting): Promise<void> {
    try {
      const outcome = await this.options.db.transaction(async (transaction) => {
        const tx = transaction as unknown as Db;
        // One writer at a time over all web servers keeps the ledger and its numbering simple to reason about.
        await tx.execute(sql`select pg_advisory_xact_lock(724012)`);
        const before = await this.earlier(tx, request);
        if (before) return { seq: before, event: null };
        const [row] = await tx.select({ seq: trail.seq }).from(trail).orderBy(desc(trail.seq)).limit(1);
        const entry = this.toEntry(request, (row?.seq ?? 0) + 1);
        const batchId = await this.applyEntry(tx, entry);
        const event: ChangeEvent = { seq: entry.seq, kind: entry.kind, target: entry.target, batchId, by: entry.personId };
        await tx.execute(sql`select pg_notify('wunsch', ${JSON.stringify(event)})`);
        return { seq: entry.seq, event };
      });
      this.seq = Math.max(this.seq, outcome.seq);
      resolve({ seq: outcome.seq, repeated: outcome.event === null });
    } catch (error) {
      reject(error);
    }
  }

  /** Number of the same entry accepted before; throws when the id was used for another. */
  private async earlier(tx: Db, request: Request): Promise<number | null> {
    const handler = this.handlerOf(request.kind);
    const [last] = await tx
      .select({ seq: trail.seq, body: trail.body })
      .from(trail)
      .where(and(eq(trail.target, request.target), eq(trail.kind, request.kind)))
      .orderBy(desc(trail.seq))
      .limit(1);
    if (!last) return null;
    if (handler.large || isDeepStrictEqual(last.body, JSON.parse(JSON.stringify(request.body)))) return last.seq;
    return null;
  }

  private toEntry(request: Request, seq: number): JournalEntry {
    const handler = this.handlerOf(request.kind);
    if (handler.roles && !handler.roles.includes(request.actor?.role ?? 'viewer')) {
      const detail = `this needs one of the roles ${handler.roles.join(', ')}`;
      throw new Problem({ status: 403, code: 'role', detail, params: { roles: [...handler.roles] } });
    }
    return {
      seq,
      kind: request.kind,
      target: request.target,
      at: request.at ?? new Date().toISOString(),
      by: request.actor?.initials ?? '',
      personId: request.actor?.id ?? null,
      body: request.body,
    };
  }

  private async applyEntry(tx: Db, entry: JournalEntry): Promise<string | null> {
    const handler = this.handlerOf(entry.kind);
    let made = 0;
    const context: Context = {
      ...entry,
      tx,
      newId: () => uuidV5(`${entry.seq}:${(made += 1)}`, ROW_IDS),
    };
    const applied = (await handler.apply(context)) ?? {};
    const batchId = applied.batchId ?? null;
    await tx.insert(trail).values({
      seq: entry.seq,
      kind: entry.kind,
      target: entry.target,
      batchId,
      personId: entry.personId,
      by: entry.by,
      at: entry.at,
      body: handler.large ? null : entry.body,
      undoable: handler.undo !== undefined,
    });
    return batchId;
  }

  private handlerOf(kind: string): Handler {
    const found = this.handlers.get(kind);
    if (!found) throw new Error(`no handler for ${kind}`);
    return found;
  }
}
