import { z } from 'zod';
import { BatchState } from '../ledger.ts';

/** A hit of the find box. */
export const FindHit = z.object({
  kind: z.enum(['batch', 'lot', 'recipe', 'note', 'bars', 'box']),
  id: z.string(),
  title: z.string(),
  detail: z.string(),
  /** How a batch stands; null for all else. */
  state: BatchState.shape.state.nullable(),
  path: z.string(),
});
/** See {@link FindHit}. */
export type FindHit = z.infer<typeof FindHit>;
