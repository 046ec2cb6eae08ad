import { setImmediate } from 'node:timers/promises';
import { desc, sql } from 'drizzle-orm';
import type { Role, Topic } from '@wunsch/contract';
import type { Db } from '../db/database.ts';
import type { Ahead } from '../db/prepared.ts';
import { trail } from '../db/schema/index.ts';
import { refreshStatistics } from '../db/statistics.ts';
import { Problem } from '../http/problem.ts';
import { JournalWriteError, type Journal, type JournalEntry } from '../journal/journal.ts';
import type { BusEvent } from '../live/bus.ts';
import { bodyHash, parseBody, readBody } from './body.ts';
import type { Handler } from './command.ts';
import { GroupWork, type Outcome } from './group.ts';
import { keyOf, knownEntries, type Known } from './known.ts';
import { asRefusal } from './refusal.ts';

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
  /** What it touched, and the batch it belongs to; nothing where it had been accepted before. */
  touches: readonly Topic[];
  batchId: string | null;
}

/** Most entries flushed and committed together. */
const GROUP = 64;

/** So many entries after which an embedded database is asked what has grown. */
const COUNT_AFTER = 300;

/** Streamed entries wait at most this long before they are brought into the store, ms. */
const STREAM_WAIT = 4000;

/** Most streamed entries kept waiting. */
const STREAM_MOST = 4000;

/** Largest notice PostgreSQL carries, with room to spare, bytes. */
const NOTICE_MOST = 7000;

/** A request whose body has been parsed, waiting for its turn. */
interface Entering {
  request: Request;
  handler: Handler;
  body: unknown;
  hash: string;
  resolve: (accepted: Accepted) => void;
  reject: (error: unknown) => void;
}

/** Somebody who waits until the store has every streamed entry. */
interface Asking {
  request: null;
  resolve: () => void;
  reject: (error: unknown) => void;
}

type Waiting = Entering | Asking;

/** How the writer makes entries durable: with the journal before the embedded store, or on a PostgreSQL server by its own log. */
export interface WriterOptions {
  db: Db;
  /** Of an embedded database: what a group writes is kept and written together. */
  ahead?: Ahead;
  handlers: readonly Handler[];
  /** The journal of an embedded store; null on a PostgreSQL server or in memory. */
  journal: Journal | null;
  /** Whether several servers share the database: they write one after the other and tell each other. */
  shared: boolean;
  lastSeq: number;
  /** Told of each entry once it is durable, before whoever made it is answered. */
  publish: (event: BusEvent) => void;
  /** Called when an entry was journalled and could not be committed: the process must end and recover. */
  onFatal: (error: unknown) => void;
  /** Refuses entries while there is no room for them. */
  requireRoom?: () => Promise<void>;
  /** Epoch ms now; a practice workshop has a clock of its own. */
  now?: () => number;
}

/**
 * The one door through which anything is written. Bodies are parsed before they wait; entries are applied in order; on the
 * embedded store a group is applied in a transaction, journalled and flushed, committed, and only then answered.
 */
export class Writer {
  private readonly handlers: Map<string, Handler>;
  private readonly queue: Waiting[] = [];
  private running = false;
  private seq: number;
  private failed: unknown = null;
  private idle: (() => void)[] = [];
  /** Streamed entries, journalled and answered, that the store has not got yet. */
  private pending: JournalEntry[] = [];
  /** Entries written since the database last counted what it holds. */
  private uncounted = COUNT_AFTER;
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
  async submit(request: Request): Promise<Accepted> {
    const handler = this.handlerOf(request.kind);
    requireRole(handler, request);
    const body = parseBody(handler, request.body);
    parseTarget(request.target);
    return new Promise((resolve, reject) => {
      this.queue.push({ request, handler, body, hash: bodyHash(body), resolve, reject });
      void this.drain();
    });
  }

  /** Resolves once the store has every streamed entry; at once where none waits. */
  async settleStream(): Promise<void> {
    if (this.pending.length === 0) return;
    await new Promise<void>((resolve, reject) => {
      this.queue.push({ request: null, resolve, reject });
      void this.drain();
    });
  }

  /** Resolves when no entry is waiting or being written. */
  settled(): Promise<void> {
    if (!this.running && this.queue.length === 0) return Promise.resolve();
    return new Promise((resolve) => this.idle.push(resolve));
  }

  /**
   * Applies journalled entries which the store has not got. One that cannot be applied is set aside with the reason;
   * it stops neither those after it nor the opening.
   */
  async replay(entries: AsyncIterable<JournalEntry>): Promise<{ applied: number; setAside: number }> {
    const sum = { applied: 0, setAside: 0 };
    let group: JournalEntry[] = [];
    const flush = async () => {
      const aside = await this.replayGroup(group);
      sum.setAside += aside;
      sum.applied += group.length - aside;
      this.seq = group.at(-1)?.seq ?? this.seq;
      await this.countAnew(group);
      group = [];
    };
    for await (const entry of entries) {
      group.push(entry);
      if (group.length >= GROUP) await flush();
    }
    if (group.length > 0) await flush();
    return sum;
  }

  private async replayGroup(group: readonly JournalEntry[]): Promise<number> {
    const run = (careful: boolean) =>
      this.together(careful, async (work) => {
        let aside = 0;
        for (const entry of group) {
          try {
            const handler = this.handlerOf(entry.kind);
            const body = readBody(handler, entry.version, entry.body, entry);
            await work.apply(handler, { ...entry, version: handler.version, body });
          } catch (error) {
            if (!careful) throw error;
            await work.setAside(entry, error);
            aside += 1;
          }
        }
        return aside;
      });
    return run(false).catch(() => run(true));
  }

  private async drain(): Promise<void> {
    if (this.running) return;
    this.running = true;
    // What comes in at the same moment is written together from the first.
    await setImmediate();
    while (this.queue.length > 0) {
      const group = this.takeRun();
      const first = group[0]!;
      if (first.request === null) await this.bringIn(group as Asking[]);
      else if (this.options.shared) for (const next of group as Entering[]) await this.writeShared(next);
      else if (this.streams(first)) await this.journalStream(group as Entering[]);
      else {
        if (this.pending.length > 0) await this.bringIn([]);
        await this.writeAlone(group as Entering[]);
        await this.countAnew((group as Entering[]).map((w) => w.request));
      }
      if (this.pending.length >= STREAM_MOST) await this.bringIn([]);
    }
    this.running = false;
    this.idle.splice(0).forEach((resolve) => resolve());
  }

  /** The longest run of waiting entries of one sort, at most a group. */
  private takeRun(): Waiting[] {
    const sortOf = (w: Waiting) => (w.request === null ? 'ask' : this.streams(w) ? 'stream' : 'entry');
    const first = sortOf(this.queue[0]!);
    const other = this.queue.findIndex((w) => sortOf(w) !== first);
    return this.queue.splice(0, Math.min(GROUP, other < 0 ? this.queue.length : other));
  }

  private streams(waiting: Waiting): boolean {
    return waiting.request !== null && waiting.handler.stream !== undefined && this.options.journal !== null;
  }

  /** Journals and answers streamed entries; the store gets them later, but always before any entry that follows. */
  private async journalStream(group: Entering[]): Promise<void> {
    const start = this.seq;
    try {
      await this.requireReady();
      const entries = group.map((waiting) => this.toEntry(waiting, (this.seq += 1)));
      await this.options.journal!.append(entries);
      group.forEach((waiting, i) => {
        const entry = entries[i]!;
        this.pending.push(entry);
        waiting.resolve({ seq: entry.seq, repeated: false, touches: waiting.handler.touches, batchId: null });
        this.publish(waiting.handler, entry, { batchId: null, touches: waiting.handler.touches });
      });
    } catch (error) {
      this.seq = start;
      group.forEach(({ reject }) => reject(toldOf(error)));
      return;
    }
    this.streamTimer ??= setTimeout(() => {
      this.streamTimer = null;
      void this.settleStream().catch(() => undefined);
    }, STREAM_WAIT);
    this.streamTimer.unref();
  }

  /**
   * Brings streamed entries into the store in a transaction of their own; the trail gets one line for each kind. Where the
   * store refuses them together they are tried one by one, and the one that cannot be kept is set aside.
   */
  private async bringIn(askers: Asking[]): Promise<void> {
    const entries = this.pending;
    const together = () =>
      this.together(false, async (work, tx) => {
        for (const kind of new Set(entries.map((e) => e.kind))) {
          const mine = entries.filter((e) => e.kind === kind);
          const handler = this.handlerOf(kind);
          await handler.stream!(tx, mine as never);
          work.noteStream(handler, mine.at(-1)!);
        }
      });
    const singly = () =>
      this.together(true, async (work) => {
        for (const entry of entries)
          await work
            .apply(this.handlerOf(entry.kind), entry)
            .catch((error: unknown) => work.setAside(entry, error));
      });
    try {
      if (this.failed) throw this.failed;
      if (entries.length > 0) await together().catch(singly);
      this.pending = this.pending.slice(entries.length);
      askers.forEach((a) => a.resolve());
    } catch (error) {
      askers.forEach((a) => a.reject(error));
    }
  }

  /**
   * Writes a group in one transaction. It is first tried without savepoints; if any entry is refused the transaction is
   * taken back and the group written again, each entry behind a savepoint of its own.
   */
  private async writeAlone(group: Entering[]): Promise<void> {
    if (!(await this.tryGroup(group, false))) await this.tryGroup(group, true);
  }

  private async tryGroup(group: Entering[], careful: boolean): Promise<boolean> {
    const outcomes: (() => void)[] = [];
    const start = this.seq;
    let journalled = false;
    try {
      await this.requireReady();
      await this.together(careful, async (work, tx) => {
        const entries: JournalEntry[] = [];
        const known = await this.earlier(tx, group);
        await work.foresee(
          group.map(({ handler, request, body }) => ({ handler, target: request.target, body })),
        );
        for (const waiting of group) {
          const { handler, hash, resolve, reject } = waiting;
          const key = keyOf(waiting.request);
          try {
            const before = sameAs(handler, known.get(key), hash);
            if (before !== null) {
              outcomes.push(() => resolve(before));
              continue;
            }
            const entry = this.toEntry(waiting, this.seq + 1);
            const outcome = await work.apply(handler, entry);
            this.seq = entry.seq;
            entries.push(entry);
            known.set(key, { seq: entry.seq, hash, ...outcome });
            outcomes.push(() => {
              resolve({ seq: entry.seq, repeated: false, ...outcome });
              this.publish(handler, entry, outcome);
            });
          } catch (error) {
            if (!careful) throw error;
            outcomes.push(() => reject(asRefusal(error)));
          }
        }
        await work.flush();
        await this.options.journal?.append(entries);
        journalled = this.options.journal !== null && entries.length > 0;
      });
    } catch (error) {
      this.seq = start;
      if (!careful && !journalled && !this.failed && !(error instanceof JournalWriteError)) return false;
      group.forEach(({ reject }) => reject(toldOf(error)));
      if (journalled) {
        this.failed = error;
        this.options.onFatal(error);
      }
      return true;
    }
    outcomes.forEach((answer) => answer());
    return true;
  }

  /** Works on a group in a transaction; what it leaves waiting is written at the end. */
  private together<T>(careful: boolean, task: (work: GroupWork, tx: Db) => Promise<T>): Promise<T> {
    return this.options.db.transaction(async (transaction) => {
      const tx = transaction as unknown as Db;
      const work = new GroupWork(tx, careful, this.options.ahead);
      try {
        const done = await task(work, tx);
        await work.flush();
        return done;
      } finally {
        work.end();
      }
    });
  }

  /** Writes an entry to a database that several servers share. */
  private async writeShared(waiting: Entering): Promise<void> {
    const { request, handler, hash, resolve, reject } = waiting;
    let written: BusEvent | null = null;
    try {
      const accepted = await this.together(true, async (work, tx) => {
        // One writer at a time over all web servers keeps the ledger and its numbering simple to reason about.
        await tx.execute(sql`select pg_advisory_xact_lock(724012)`);
        const before = sameAs(handler, (await this.earlier(tx, [waiting])).get(keyOf(request)), hash);
        if (before !== null) return before;
        const [row] = await tx.select({ seq: trail.seq }).from(trail).orderBy(desc(trail.seq)).limit(1);
        const entry = this.toEntry(waiting, (row?.seq ?? 0) + 1);
        const outcome = await work.apply(handler, entry);
        const event = eventOf(handler, entry, outcome);
        const { live: _, ...bare } = event;
        const notice = JSON.stringify(event);
        await tx.execute(
          sql`select pg_notify('wunsch', ${notice.length < NOTICE_MOST ? notice : JSON.stringify(bare)})`,
        );
        written = event;
        return { seq: entry.seq, repeated: false, ...outcome };
      });
      if (written) this.options.publish(written);
      this.seq = Math.max(this.seq, accepted.seq);
      resolve(accepted);
    } catch (error) {
      reject(asRefusal(error));
    }
  }

  /** Lets an embedded database count its tables from time to time. That it could not is no reason to refuse anybody anything. */
  private async countAnew(written: readonly { kind: string }[]): Promise<void> {
    for (const { kind } of written) this.uncounted += this.handlers.get(kind)?.large ? COUNT_AFTER : 1;
    if (this.options.shared || this.uncounted < COUNT_AFTER) return;
    this.uncounted = 0;
    await refreshStatistics(this.options.db).catch(() => undefined);
  }

  private async requireReady(): Promise<void> {
    if (this.failed) throw this.failed;
    await this.options.requireRoom?.();
  }

  private publish(handler: Handler, entry: JournalEntry, outcome: Outcome): void {
    this.options.publish(eventOf(handler, entry, outcome));
  }

  /** The newest entry in force under each target and kind asked for. */
  private earlier(tx: Db, group: readonly Entering[]): Promise<Map<string, Known>> {
    const targets = group.map((w) => w.request.target);
    return knownEntries(tx, targets, (kind) => this.handlers.get(kind));
  }

  private toEntry({ request, handler, body }: Entering, seq: number): JournalEntry {
    return {
      seq,
      kind: request.kind,
      version: handler.version,
      target: request.target,
      at: request.at ?? new Date(this.options.now?.() ?? Date.now()).toISOString(),
      by: request.actor?.initials ?? '',
      personId: request.actor?.id ?? null,
      body,
    };
  }

  private handlerOf(kind: string): Handler {
    const found = this.handlers.get(kind);
    if (!found) throw new Error(`this release knows no entry of the kind ${kind}`);
    return found;
  }
}

function requireRole(handler: Handler, request: Request): void {
  if (!handler.roles || handler.roles.includes(request.actor?.role ?? 'viewer')) return;
  const detail = `this needs one of the roles ${handler.roles.join(', ')}`;
  throw new Problem({ status: 403, code: 'role', detail, params: { roles: [...handler.roles] } });
}

const LONGEST_TARGET = 200;

function parseTarget(target: string): void {
  if (target.length === 0 || target.length > LONGEST_TARGET || target.includes('\u0000'))
    throw new Problem({ status: 422, code: 'not-valid', field: 'id', detail: 'this is no id' });
}

/** The answer to an entry accepted before if it is the very same; an id that already made something else is refused. */
function sameAs(handler: Handler, known: Known | undefined, hash: string): Accepted | null {
  if (!known) return null;
  const { seq, touches, batchId } = known;
  if (known.hash === null || known.hash === hash) return { seq, repeated: true, touches, batchId };
  if (!handler.creates) return null;
  throw new Problem({
    status: 409,
    code: 'id-used',
    detail: 'this id already names another entry with other contents; make a new id',
    params: { seq: known.seq },
  });
}

function eventOf(handler: Handler, entry: JournalEntry, { batchId, touches }: Outcome): BusEvent {
  const { seq, kind, target, personId } = entry;
  const live = handler.live?.(entry.body as never);
  return { seq, kind, target, batchId, by: personId, touches: [...touches], ...(live && { live }) };
}

/** What the person is told where the disk did not take an entry. */
function toldOf(error: unknown): unknown {
  if (!(error instanceof JournalWriteError)) return error;
  return new Problem({ status: 507, code: error.code, detail: error.message });
}
