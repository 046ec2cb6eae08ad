import { z } from 'zod';
import type { EntryKind, LiveReadings, Role, Topic } from '@wunsch/contract';
import type { Db } from '../db/database.ts';
import type { Rows, WithId } from './rows.ts';

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
  /** Reads a row once for all entries of a group; forgotten after any entry that may change steps or batches. */
  once: <T>(key: string, load: () => Promise<T>) => Promise<T>;
  /** Rows that many entries of a group read and change. What goes through here and what goes through `tx` always see each other. */
  rows: Rows;
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
  /** Topics touched this time beside those the kind always touches. */
  touches?: readonly Topic[];
}

/** What an upcaster knows of the entry it brings up to date. */
export interface OldEntry {
  seq: number;
  target: string;
  at: string;
}

/** Brings the body of an older version one version on. */
export type Upcaster = (body: Record<string, unknown>, entry: OldEntry) => Record<string, unknown>;

/** The HTTP door of a kind: an idempotent PUT with an id made by the client. */
export interface PutDoor {
  path: string;
  summary: string;
  tag: string;
  /** Shape of the request, where it differs from what is journalled. */
  body?: z.ZodType;
  /** Changing what exists needs the version it was read at, as If-Match; it is journalled as `ifMatch`. */
  guarded?: boolean;
  bodyLimit?: number;
  /**
   * The door adds a `salt` of chance to what is journalled: what is drawn from it can be drawn again on replay, and by nobody who does
   * not read the journal.
   */
  salted?: boolean;
}

/**
 * One kind of entry the workshop can make, and everything that is known of it: its shape in every version, who may make it,
 * what it does and touches, how the trail tells of it, and how it is taken back.
 */
export interface Handler<S extends z.ZodType = z.ZodType> {
  kind: EntryKind;
  /** Version of the body written now; entries are for ever, so a change of shape is a new version and an upcaster. */
  version: number;
  body: S;
  /** By version n, what makes a body of n one of n + 1. */
  upcasters?: Readonly<Record<number, Upcaster>>;
  /** Where the kind can be made over HTTP, if it is a plain one. */
  put?: PutDoor;
  /** Roles that may; everyone signed in where left out. */
  roles?: readonly Role[];
  /** Leave the body out of the trail because it is large and kept elsewhere. */
  large?: boolean;
  /** Makes the thing its target names: the same id with another body is refused. */
  creates?: boolean;
  /** What such an entry always touches. */
  touches: readonly Topic[];
  /** The parts of the body worth a line in the trail; never passwords or tokens. Nothing where left out. */
  line?: (body: z.output<S>) => Record<string, unknown>;
  /** Whether applying it may change steps or batches that other entries of a group have read. */
  keepsRead?: boolean;
  /** Rows it will ask for, so that those of a whole group are read together. */
  foresees?: (entry: { target: string; body: z.output<S> }) => readonly (readonly [WithId, string])[];
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
  undo?(
    context: Context,
    /** What it said, and its place in the trail where it is the maker who takes it back. */
    original: { target: string; body: z.output<S>; batchId: string | null; seq?: number },
  ): Promise<void>;
}

/** Keeps a handler's body type together with its functions. */
export function handler<S extends z.ZodType>(definition: Handler<S>): Handler {
  return definition as unknown as Handler;
}

/** A line of the trail that tells these parts of a body. */
export const lineOf =
  (...keys: string[]) =>
  (body: unknown): Record<string, unknown> =>
    Object.fromEntries(Object.entries(body as object).filter(([key]) => keys.includes(key)));

/** A body with the version the change was made from. */
export const withMatch = <T extends z.ZodRawShape>(body: z.ZodObject<T>) =>
  z.object({ ...body.shape, ifMatch: z.int().nullable().default(null) });

/** A body with the {@link PutDoor.salted} chance of its door; empty in entries from before there was any. */
export const withSalt = <T extends z.ZodType>(body: T) =>
  z.intersection(body, z.object({ salt: z.string().max(64).default('') }));

/** Roles that record work. */
export const MAKERS: readonly Role[] = ['owner', 'maker'];

/** Roles that taste. */
export const TASTERS: readonly Role[] = ['owner', 'maker', 'taster'];

/** Roles that may change how the workshop is set up. */
export const OWNERS: readonly Role[] = ['owner'];
