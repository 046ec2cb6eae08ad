import { openDB, type DBSchema, type IDBPDatabase } from 'idb';
import { v7 } from 'uuid';
import { OLDEST_ENTRY, type Problem, type Topic } from '@wunsch/contract';
import { ApiProblem, ServerAway, type Asked, type Method } from './api.ts';
import { isSameAct, type Act } from './sameAct.ts';

/** An entry on its way to the server. */
export interface OutboxEntry {
  id: string;
  method: 'PUT' | 'POST';
  path: string;
  body: unknown;
  ifMatch?: number;
  /** What it is, in words, for the list of what is still waiting. */
  label: string;
  /** ISO instant it was made, on this device's clock. */
  at: string;
  batchId: string | null;
  /** Whoever made it, where that is known. */
  by?: string;
}

/** An entry made while the server was away which it then refused. */
export interface RefusedEntry extends OutboxEntry {
  reason: string;
  /** What the server said, for the page's own words. */
  problem?: Problem;
}

/** What the server says of an entry it has accepted. */
export interface AcceptedEntry {
  seq: number;
  /** What it touched; empty where it had been accepted before. */
  touches: Topic[];
  batchId: string | null;
}

/** The server's answer to an entry, or that it waits. */
export type Outcome = { waiting: false; seq: number } | { waiting: true };

interface Schema extends DBSchema {
  waiting: { key: string; value: OutboxEntry };
  refused: { key: string; value: RefusedEntry };
}

/** Longest time an accepted entry waits for the page to show it, ms. */
const SHOWN_WITHIN = 500;

/** A second tap follows the first within so long, ms. */
const DOUBLE_TAP = 500;

/** What may well come twice alike, one soon after the other: weighings and readings. All else is done once while it is on its way. */
const COMES_AGAIN = /^\/api\/(observations|movements|readings)\//;

/** States of what may well be accepted later: nobody is signed in, or too much came at once. */
const LATER = new Set([401, 429]);

/** How long to wait before the next try while the server is away, ms. */
const RETRY = 2000;

/** Sent within so long, s, an entry is made now. */
const AT_ONCE = 2;

/** How long ago an entry was made, s, where it could not be sent at once. */
function ageOf({ at }: OutboxEntry): number | undefined {
  const age = (Date.now() - Date.parse(at)) / 1000;
  return age > AT_ONCE ? Math.min(age, OLDEST_ENTRY) : undefined;
}

/**
 * Entries made while the server is away. They are kept in IndexedDB, sent in order when it returns, and
 * never dropped: what the server refuses is kept with its reason until someone has read it.
 */
export class Outbox {
  private db: Promise<IDBPDatabase<Schema>> | null = null;
  private list: OutboxEntry[] = [];
  private refusedList: RefusedEntry[] = [];
  private readonly listeners = new Set<() => void>();
  private readonly sentListeners = new Set<(entry: OutboxEntry) => void>();
  private readonly answers = new Map<
    string,
    { resolve: (o: Outcome) => void; reject: (e: unknown) => void }
  >();
  /** Entries that are on their way, or were sent a moment ago. */
  private recent: (Act & { outcome: Promise<Outcome> })[] = [];
  private flushing = false;
  private person: string | null = null;
  private timer: ReturnType<typeof setTimeout> | null = null;
  /** Called after each entry the server has accepted; the entry counts as done once the page shows it, or soon after. */
  onSent: (accepted: AcceptedEntry) => Promise<unknown> = () => Promise.resolve();

  /** `name` tells its place on the disk from other workshops' on this device. */
  constructor(
    private readonly name: string,
    private readonly ask: <T>(method: Method, path: string, body?: unknown, more?: Asked) => Promise<T>,
  ) {}

  /** Loads what an earlier page left behind and starts sending. */
  async start(): Promise<void> {
    await this.onDisk(async (db) => {
      this.list = await db.getAll('waiting');
      this.refusedList = await db.getAll('refused');
    });
    this.changed();
    window.addEventListener('online', () => void this.flush());
    void this.flush();
  }

  /** Says who is at the page: what somebody else has left behind waits until they are, and is never entered in another’s name. */
  isHere(person: string): void {
    this.person = person;
    void this.flush();
  }

  /** Entries not yet accepted, oldest first. */
  waiting = (): readonly OutboxEntry[] => this.list;

  /** Entries made while the server was away which it then refused. */
  refused = (): readonly RefusedEntry[] => this.refusedList;

  subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  /** Tells of each entry the server has accepted, while it still counts as waiting; whoever shows it marks it done before it is read again. */
  whenSent = (listener: (entry: OutboxEntry) => void): (() => void) => {
    this.sentListeners.add(listener);
    return () => this.sentListeners.delete(listener);
  };

  /** Sends an entry; resolves with its number, or with `waiting` when the server is away. A second tap is the first again. */
  send(entry: Omit<OutboxEntry, 'id' | 'at'>): Promise<Outcome> {
    const now = Date.now();
    const { path, body } = entry;
    this.recent = this.recent.filter((r) => now - r.at < DOUBLE_TAP || this.isUnderWay(r));
    const first = this.recent.find((r) => isSameAct(r, { path, body, at: now }));
    if (first) return first.outcome;
    const sent = { path, body, at: now, outcome: this.sendOnce(entry) };
    this.recent.push(sent);
    // What was refused may be tried again at once.
    sent.outcome.catch(() => (this.recent = this.recent.filter((r) => r !== sent)));
    return sent.outcome;
  }

  private isUnderWay({ path }: Act): boolean {
    return !COMES_AGAIN.test(path) && this.list.some((e) => e.path === path);
  }

  private async sendOnce(entry: Omit<OutboxEntry, 'id' | 'at'>): Promise<Outcome> {
    const whole: OutboxEntry = {
      ...entry,
      id: v7(),
      at: new Date().toISOString(),
      ...(this.person !== null && { by: this.person }),
    };
    // Whoever waits is noted before the entry can be seen, since entries before it may be on their way just now.
    const outcome = new Promise<Outcome>((resolve, reject) =>
      this.answers.set(whole.id, { resolve, reject }),
    );
    await this.onDisk((db) => {
      const transaction = db.transaction('waiting', 'readwrite');
      const put = transaction.store.put(whole);
      // Without waiting to hear of it: whoever taps and leaves the page at once has still made the entry.
      transaction.commit();
      return Promise.all([put, transaction.done]);
    });
    this.list = [...this.list, whole];
    this.changed();
    void this.flush();
    return outcome;
  }

  async forget(id: string): Promise<void> {
    this.refusedList = this.refusedList.filter((e) => e.id !== id);
    await this.onDisk((db) => db.delete('refused', id));
    this.changed();
  }

  private async flush(): Promise<void> {
    if (this.flushing) return;
    this.flushing = true;
    for (;;) {
      const entry = this.list.find((e) => e.by === undefined || e.by === this.person);
      if (!entry) break;
      const waiter = this.answers.get(entry.id);
      try {
        const { method, path, body, ifMatch } = entry;
        const accepted = await this.ask<AcceptedEntry>(method, path, body, {
          ifMatch,
          madeAgo: ageOf(entry),
        });
        this.sentListeners.forEach((listener) => listener(entry));
        // It waits until the page shows it, so that nothing looks undone in between; sent twice it would be the same entry.
        await Promise.race([
          this.onSent(accepted).catch(() => undefined),
          new Promise((resolve) => setTimeout(resolve, SHOWN_WITHIN)),
        ]);
        await this.done(entry);
        waiter?.resolve({ waiting: false, seq: accepted.seq });
      } catch (error) {
        if (error instanceof ServerAway || (error instanceof ApiProblem && LATER.has(error.problem.status))) {
          this.list.forEach((e) => this.answers.get(e.id)?.resolve({ waiting: true }));
          this.answers.clear();
          this.timer ??= setTimeout(() => {
            this.timer = null;
            void this.flush();
          }, RETRY);
          break;
        }
        // Kept as refused before it stops waiting: a page closed in between finds it in one place or the other.
        if (!waiter) await this.keepRefused(entry, error);
        await this.done(entry);
        waiter?.reject(error);
      }
    }
    this.flushing = false;
  }

  private async done(entry: OutboxEntry): Promise<void> {
    this.list = this.list.filter((e) => e.id !== entry.id);
    this.answers.delete(entry.id);
    await this.onDisk((db) => db.delete('waiting', entry.id));
    this.changed();
  }

  private async keepRefused(entry: OutboxEntry, error: unknown): Promise<void> {
    const kept: RefusedEntry = {
      ...entry,
      reason: error instanceof Error ? error.message : String(error),
      ...(error instanceof ApiProblem && { problem: error.problem }),
    };
    this.refusedList = [...this.refusedList, kept];
    await this.onDisk((db) => db.put('refused', kept));
    this.changed();
  }

  /** A browser that keeps nothing on its disk (a private window) still sends; what waits is then lost with the page. */
  private async onDisk(work: (db: IDBPDatabase<Schema>) => Promise<unknown>): Promise<void> {
    try {
      await work(await this.open());
    } catch {
      this.db = null;
    }
  }

  private async open(): Promise<IDBPDatabase<Schema>> {
    this.db ??= openDB<Schema>(this.name, 1, {
      upgrade(db) {
        db.createObjectStore('waiting', { keyPath: 'id' });
        db.createObjectStore('refused', { keyPath: 'id' });
      },
    });
    return this.db;
  }

  private changed(): void {
    this.listeners.forEach((listener) => listener());
  }
}
