import { Person } from '../access.ts';
import { Workshop } from '../workshop.ts';
import { z } from 'zod';

/** What the page needs before anything else. */
export const SessionView = z.object({
  state: z.enum(['opening', 'first-run', 'signed-out', 'signed-in']),
  person: Person.nullable(),
  workshop: Workshop.nullable(),
  /** Demo accounts, offered only to this machine. */
  demoPeople: z.array(Person),
});
/** See {@link SessionView}. */
export type SessionView = z.infer<typeof SessionView>;
