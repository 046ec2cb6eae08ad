import { z } from 'zod';

/** A hit of the find box. */
export const FindHit = z.object({
  kind: z.enum(['batch', 'lot', 'recipe', 'note', 'bars', 'box']),
  id: z.string(),
  title: z.string(),
  detail: z.string(),
  path: z.string(),
});
/** See {@link FindHit}. */
export type FindHit = z.infer<typeof FindHit>;
