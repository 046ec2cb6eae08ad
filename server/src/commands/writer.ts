import { and, asc, desc, inArray, isNull, sql } from 'drizzle-orm';
import { v5 as uuidV5 } from 'uuid';
import { isDeepStrictEqual } from 'node:util';
import type { Role } from '@wunsch/contract';
import type { Db } from '../db/database.ts';
import { trail } from '../db/schema/index.ts';
import { Problem } from '../formats/problem.ts';
import type { Journal, JournalEntry } from '../journal/journal.ts';
import type { BusEvent } from '../live/bus.ts';
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

/** An entry accepted before. */
interface Known {
  seq: number;
  body: unknown;
}

const keyOf = (r: { target: string; kind: string }) => `${r.kind} ${r.target}`;

/** What the entries of one transaction share: rows read once, and the trail written in one go. */
class GroupWork {
  readonly trail: (typeof trail.$inferInsert)[] = [];
  private readonly read = new Map<string, Promise<unknown>>();

  constructor(
    public tx: Db,
    readonly careful: boolean,
  ) {}

  on(tx: Db): this {
    this.tx = tx;
    return this;
  }

  once<T>(key: string, load: () => Promise<T>): Promise<T> {
    let found = this.read.get(key) as Promise<T> | undefined;
    if (!found) {
      found = load();
      this.read.set(key, found);
    }
    return found;
  }

  forget(): void {
    this.read.clear();
  }

  async flushTrail(): Promise<void> {
    if (this.trail.length > 0) await this.tx.insert(trail).values(this.trail.splice(0));
  }
}

/** Streamed entries wait at most this long before they are brought into the store, ms. */
const STREAM_WAIT = 4000;

/** Most streamed entries kept waiting. */
const STREAM_MOST = 4000;

/** Largest notice PostgreSQL carries, with room to spare, bytes. */
const NOTICE_MOST = 7000;

interface Entering {
  request: Request;
  resolve: (accepted: Accepted) => void;
  reject: (error: unknown) => void;
}

interface Waiting {
  /** Null asks only that streamed entries be brought into the store. */
  request: Request | null;
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
  publish: (event: BusEvent) => void;
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
  /** Streamed entries, journalled and answered, that the store has not got yet. */
  private readonly pending: JournalEntry[] = [];
  private streamTimer: ReturnType<typeof setTimeout> | null = null;

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

  /** Resolves once the store has every streamed entry; at once where none waits. */
  async settleStream(): Promise<void> {
    if (this.pending.length === 0) return;
    await new Promise((resolve, reject) => {
      this.queue.push({ request: null, resolve, reject });
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
        const work = new GroupWork(tx as unknown as Db, false);
        for (const entry of group) await this.applyEntry(work, entry);
        await work.flushTrail();
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
      if (!this.options.journal) {
        const next = this.queue.shift()!;
        if (next.request) await this.writeServer(next as Entering);
        else next.resolve({ seq: this.seq, repeated: false });
        continue;
      }
      const group = this.takeRun();
      if (group[0]!.request === null) await this.bringIn(group);
      else if (this.isStream(group[0]!)) await this.journalStream(group as Entering[]);
      else await this.writeEmbedded(group as Entering[]);
      if (this.pending.length >= STREAM_MOST) await this.bringIn([]);
    }
    this.running = false;
    this.idle.splice(0).forEach((resolve) => resolve());
  }

  /** The longest run of waiting entries of one sort, at most a group. */
  private takeRun(): Waiting[] {
    const sortOf = (w: Waiting) => (w.request === null ? 'flush' : this.isStream(w) ? 'stream' : 'entry');
    const first = sortOf(this.queue[0]!);
    const other = this.queue.findIndex((w) => sortOf(w) !== first);
    return this.queue.splice(0, Math.min(GROUP, other < 0 ? this.queue.length : other));
  }

  private isStream(waiting: Waiting): boolean {
    return waiting.request !== null && this.handlerOf(waiting.request.kind).stream !== undefined;
  }

  /** Journals and answers streamed entries; the store gets them later, but always before any entry that follows. */
  private async journalStream(group: Entering[]): Promise<void> {
    const start = this.seq;
    const accepted: { waiting: Entering; entry: JournalEntry }[] = [];
    try {
      if (this.failed) throw this.failed;
      for (const waiting of group) {
        try {
          accepted.push({ waiting, entry: this.toEntry(waiting.request, this.seq + 1) });
          this.seq += 1;
        } catch (error) {
          waiting.reject(error);
        }
      }
      await this.options.journal!.append(accepted.map((a) => a.entry));
    } catch (error) {
      this.seq = start;
      accepted.forEach(({ waiting }) => waiting.reject(error));
      return;
    }
    for (const { waiting, entry } of accepted) {
      this.pending.push(entry);
      waiting.resolve({ seq: entry.seq, repeated: false });
      this.options.publish(this.eventOf(entry, null));
    }
    this.streamTimer ??= setTimeout(() => {
      this.streamTimer = null;
      void this.settleStream().catch(() => undefined);
    }, STREAM_WAIT);
    this.streamTimer.unref();
  }

  /** Brings streamed entries into the store in a transaction of their own. */
  private async bringIn(askers: Waiting[]): Promise<void> {
    try {
      if (this.failed) throw this.failed;
      await this.options.db.transaction(async (transaction) => {
        const work = new GroupWork(transaction as unknown as Db, false);
        await this.applyPending(work);
        await work.flushTrail();
      });
      this.pending.length = 0;
      askers.forEach((a) => a.resolve({ seq: this.seq, repeated: false }));
    } catch (error) {
      askers.forEach((a) => a.reject(error));
    }
  }

  /** Writes the streamed entries that wait; the trail gets one line for each kind, under the last number. */
  private async applyPending(work: GroupWork): Promise<void> {
    for (const kind of new Set(this.pending.map((e) => e.kind))) {
      const entries = this.pending.filter((e) => e.kind === kind);
      await this.handlerOf(kind).stream!(work.tx, entries as never);
      const last = entries.at(-1)!;
      work.trail.push({
        seq: last.seq,
        kind,
        target: last.target,
        batchId: null,
        personId: null,
        by: last.by,
        at: last.at,
        body: null,
        undoable: false,
      });
    }
  }

  private eventOf(entry: JournalEntry, batchId: string | null): BusEvent {
    const { seq, kind, target, personId } = entry;
    const live = this.handlerOf(kind).live?.(entry.body as never);
    return { seq, kind, target, batchId, by: personId, ...(live && { live }) };
  }

  /**
   * Writes a group in one transaction. It is first tried without savepoints; if any entry is refused the
   * transaction is taken back and the group written again, each entry behind a savepoint of its own.
   */
  private async writeEmbedded(group: Entering[]): Promise<void> {
    if (await this.tryGroup(group, false)) return;
    await this.tryGroup(group, true);
  }

  private async tryGroup(group: Entering[], careful: boolean): Promise<boolean> {
    const outcomes: (() => void)[] = [];
    const events: BusEvent[] = [];
    const start = this.seq;
    let journalled = false;
    try {
      if (this.failed) throw this.failed;
      await this.options.db.transaction(async (transaction) => {
        const tx = transaction as unknown as Db;
        const entries: JournalEntry[] = [];
        const known = await this.earlier(
          tx,
          group.map((w) => w.request),
        );
        const work = new GroupWork(tx, careful);
        await this.applyPending(work);
        for (const { request, resolve, reject } of group) {
          const before = this.sameAs(known.get(keyOf(request)), request);
          if (before !== null) {
            outcomes.push(() => resolve({ seq: before, repeated: true }));
            continue;
          }
          try {
            const entry = this.toEntry(request, this.seq + 1);
            const batchId = careful
              ? await tx.transaction((savepoint) =>
                  this.applyEntry(work.on(savepoint as unknown as Db), entry),
                )
              : await this.applyEntry(work, entry);
            work.on(tx);
            this.seq = entry.seq;
            entries.push(entry);
            known.set(keyOf(request), { seq: entry.seq, body: entry.body });
            events.push(this.eventOf(entry, batchId));
            outcomes.push(() => resolve({ seq: entry.seq, repeated: false }));
          } catch (error) {
            if (!careful) throw error;
            work.forget();
            outcomes.push(() => reject(error));
          }
        }
        await work.flushTrail();
        await this.options.journal!.append(entries);
        journalled = entries.length > 0;
      });
    } catch (error) {
      this.seq = start;
      if (!careful && !journalled && !this.failed) return false;
      group.forEach(({ reject }) => reject(error));
      if (journalled) {
        this.failed = error;
        this.options.onFatal(error);
      }
      return true;
    }
    this.pending.length = 0;
    outcomes.forEach((answer) => answer());
    events.forEach(this.options.publish);
    return true;
  }

  private async writeServer({ request, resolve, reject }: Entering): Promise<void> {
    try {
      const outcome = await this.options.db.transaction(async (transaction) => {
        const tx = transaction as unknown as Db;
        // One writer at a time over all web servers keeps the ledger and its numbering simple to reason about.
        await tx.execute(sql`select pg_advisory_xact_lock(724012)`);
        const before = this.sameAs((await this.earlier(tx, [request])).get(keyOf(request)), request);
        if (before !== null) return { seq: before, event: null };
        const [row] = await tx.select({ seq: trail.seq }).from(trail).orderBy(desc(trail.seq)).limit(1);
        const entry = this.toEntry(request, (row?.seq ?? 0) + 1);
        const work = new GroupWork(tx, true);
        const batchId = await this.applyEntry(work, entry);
        await work.flushTrail();
        const event = this.eventOf(entry, batchId);
        const { live: _, ...bare } = event;
        const notice = JSON.stringify(event);
        await tx.execute(
          sql`select pg_notify('wunsch', ${notice.length < NOTICE_MOST ? notice : JSON.stringify(bare)})`,
        );
        return { seq: entry.seq, event };
      });
      this.seq = Math.max(this.seq, outcome.seq);
      resolve({ seq: outcome.seq, repeated: outcome.event === null });
    } catch (error) {
      reject(error);
    }
  }

  /** The newest entry in force under each target and kind asked for. */
  private async earlier(tx: Db, requests: readonly Request[]): Promise<Map<string, Known>> {
    const rows = await tx
      .select({ seq: trail.seq, body: trail.body, target: trail.target, kind: trail.kind })
      .from(trail)
      .where(and(inArray(trail.target, [...new Set(requests.map((r) => r.target))]), isNull(trail.undoneBy)))
      .orderBy(asc(trail.seq));
    return new Map(rows.map((row) => [keyOf(row), row]));
  }

  /** Number of an entry accepted before if it is the very same. */
  private sameAs(known: Known | undefined, request: Request): number | null {
    if (!known) return null;
    const same =
      this.handlerOf(request.kind).large ||
      isDeepStrictEqual(known.body, JSON.parse(JSON.stringify(request.body)));
    return same ? known.seq : null;
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

  private async applyEntry(work: GroupWork, entry: JournalEntry): Promise<string | null> {
    const handler = this.handlerOf(entry.kind);
    // Undoing reads the trail of what came just before.
    if (entry.kind === 'undo') await work.flushTrail();
    let made = 0;
    const context: Context = {
      ...entry,
      tx: work.tx,
      careful: work.careful,
      once: (key, load) => work.once(key, load),
      newId: () => uuidV5(`${entry.seq}:${(made += 1)}`, ROW_IDS),
    };
    const applied = (await handler.apply(context)) ?? {};
    if (!/^(movement|observation|readings|tasting)\./.test(entry.kind)) work.forget();
    const batchId = applied.batchId ?? null;
    work.trail.push({
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
    if (work.careful) await work.flushTrail();
    return batchId;
  }

  private handlerOf(kind: string): Handler {
    const found = this.handlers.get(kind);
    if (!found) throw new Error(`no handler for ${kind}`);
    return found;
  }
}
