import { z } from 'zod';
import { Id, Text } from '../common.ts';

/** Tables a way of looking at can be kept of. */
export const KEPT_TABLES = ['stock', 'batches', 'trail', 'cases'] as const;

/** A way of looking at a table that was given a name: what is sought, how it is sorted and which part is shown. */
export const TableLook = z.object({
  table: z.enum(KEPT_TABLES),
  name: Text(60).min(1),
  /** As it stands behind the ? of the page's address. */
  query: Text(600),
});
/** See {@link TableLook}. */
export type TableLook = z.input<typeof TableLook>;

/** A {@link TableLook} as it is read. */
export const KeptLook = z.object({
  id: Id,
  table: z.string(),
  name: z.string(),
  query: z.string(),
  by: z.string(),
});
/** See {@link KeptLook}. */
export type KeptLook = z.infer<typeof KeptLook>;
