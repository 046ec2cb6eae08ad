import { Person } from '../access.ts';
import { Workshop } from '../workshop.ts';
import { z } from 'zod';

/** What the page needs before anything else. */
export const SessionView = z.object({
  state: z.enum(['opening', 'first-run', 'signed-out', 'signed-in']),
  person: Person.nullable(),
  /** The workshop's settings, for those signed in. */
  workshop: Workshop.nullable(),
  /** All that a stranger sees of it. */
  greeting: Workshop.pick({ name: true, language: true }).nullable(),
  /** Whether the first run asks for the code printed where the server runs, because others could reach it. */
  needsCode: z.boolean(),
  /** Demo accounts, offered only to this machine. */
  demoPeople: z.array(Person),
});
/** See {@link SessionView}. */
export type SessionView = z.infer<typeof SessionView>;

/** Somebody signed in on some device. */
export const OpenSession = z.object({
  id: z.string(),
  person: z.string(),
  device: z.string(),
  createdAt: z.string(),
  expiresAt: z.string(),
  /** Whether it is the one that asks. */
  current: z.boolean(),
});
/** See {@link OpenSession}. */
export type OpenSession = z.infer<typeof OpenSession>;

/** Who is signed in where, and what was tried in vain. */
export const SessionsView = z.object({
  open: z.array(OpenSession),
  /** Wrong passwords of the last day, by name and address; for owners. */
  wrong: z.array(z.object({ name: z.string(), from: z.string(), count: z.int(), at: z.string() })),
});
/** See {@link SessionsView}. */
export type SessionsView = z.infer<typeof SessionsView>;
