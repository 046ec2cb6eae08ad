import { z } from 'zod';

/** How it stands with the workshop’s backups. */
export const BackupsView = z.object({
  /** Folder they go to; null where none was named when the server was started. */
  folder: z.string().nullable(),
  /** Whether one is being made at the moment. */
  running: z.boolean(),
  last: z.object({ name: z.string(), at: z.string() }).nullable(),
  /** Backups kept, by age: one a day of late, then a week, then a month. */
  count: z.int(),
  /** The last try, where it did not succeed. */
  failed: z.object({ at: z.string(), why: z.string() }).nullable(),
  nextAt: z.string().nullable(),
});
/** See {@link BackupsView}. */
export type BackupsView = z.infer<typeof BackupsView>;
