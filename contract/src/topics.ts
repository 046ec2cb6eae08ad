import { z } from 'zod';

/**
 * What an entry may touch. Every kind of entry declares its topics once; caches on the server, reminders and open pages
 * read again what they name, and nothing guesses from the names of kinds.
 */
export const TOPICS = [
  /** Batches and their steps: what the Bench, the line, the slip and a batch's page show. */
  'batches',
  /** What is on hand of anything, and where. */
  'stock',
  /** Lots and their facts. */
  'lots',
  /** Pods picked, by plot and day. */
  'harvest',
  /** Weights of finished steps, from which yields are forecast. */
  'yields',
  /** Finished runs of machines, from which they learn. */
  'runs',
  'machines',
  /** Moulds, and the designs of labels. */
  'moulds',
  'recipes',
  'ingredients',
  'people',
  'workshop',
  'tastings',
  /** Sessions of a panel and their cards. */
  'panels',
  'trials',
  'samples',
  'attachments',
  /** Notes, events, tests and readings taken by hand. */
  'observations',
  /** Series of temperatures. */
  'readings',
  'timers',
  /** Orders, stock aims, hours, absences and the plan in force. */
  'plan',
  /** Ways of looking at tables that were given a name. */
  'looks',
  /** Recalls that were kept. */
  'recalls',
  /** Faults and complaints, and what stations are reminded of. */
  'cases',
  /** Classes and their guests. */
  'classes',
  /** Old tables that were taken over. */
  'imports',
  /** What of bars is shown to anyone. */
  'pages',
  'sessions',
  /** Entries that could not be applied and wait for the owner. */
  'set-aside',
] as const;

/** One of {@link TOPICS}; names of later releases are let through. */
export const Topic = z.enum(TOPICS);
/** See {@link Topic}. */
export type Topic = z.infer<typeof Topic>;
