import type { z } from 'zod';
import type { LiveReadings, Role } from '@wunsch/contract';
import type { Db } from '../db/database.ts';

/** What a handler works with: the transaction, who asks, and when it was accepted. */
export interface Context<B = unknown> {
  tx: Db;
  seq: number;
  /** Instant of acceptance, the same when the journal is replayed. */
  at: string;
  by: string;
  personId: string | null;
  /** Id of the resource the request names. */
  target: string;
  body: B;
  /** False on the first, hopeful try of a group: a database refusal leads to a second, careful one. */
  careful: boolean;
  /** Reads a row once for all entries of a group; forgotten after any entry that may change steps or batches. */
  once: <T>(key: string, load: () => Promise<T>) => Promise<T>;
  /** Ids for rows the server adds itself; the same again on replay. */
  newId: () => string;
}

/** A streamed entry as it is brought into the store. */
export interface StreamEntry<B = unknown> {
  target: string;
  seq: number;
  by: string;
  body: B;
}

/** What a handler tells the trail. */
export interface Applied {
  /** The batch whose page has changed, if one has. */
  batchId?: string | null;
}

/** One kind of entry the workshop can make: its shape, who may make it, and what it does. */
export interface Handler<S extends z.ZodType = z.ZodType> {
  kind: string;
  body: S;
  /** Roles that may; everyone signed in where left out. */
  roles?: readonly Role[];
  /** Leave the body out of the trail because it is large and kept elsewhere. */
  large?: boolean;
  /** Applies the entry in the transaction, or throws a Problem and leaves nothing behind. */
  apply(context: Context<z.output<S>>): Promise<Applied | void>;
  /**
   * For entries that come thick and fast and cannot fail: on the embedded store they are journalled and answered at once,
   * and brought into the store together, with the next group or a few seconds later.
   */
  stream?: (tx: Db, entries: readonly StreamEntry<z.output<S>>[]) => Promise<void>;
  /** What open pages are told of such an entry at once. */
  live?: (body: z.output<S>) => LiveReadings;
  /** Takes an earlier entry of this kind back; entries without it cannot be undone. */
  undo?(context: Context, original: { target: string; body: z.output<S> }): Promise<void>;
}

/** Keeps a handler's body type together with its functions. */
export function handler<S extends z.ZodType>(definition: Handler<S>): Handler {
  return definition as unknown as Handler;
}

/** Roles that record work. */
export const MAKERS: readonly Role[] = ['owner', 'maker'];

/** Roles that may change how the workshop is set up. */
export const OWNERS: readonly Role[] = ['owner'];
