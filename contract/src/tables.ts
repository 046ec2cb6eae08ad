/** Tables that can be taken away as CSV from `/api/tables/:name`, in the order they are offered. */
export const TABLE_NAMES = [
  'lots',
  'batches',
  'steps',
  'movements',
  'stock',
  'deliveries',
  'supplies',
  'observations',
  'tastings',
  'cases',
  'trail',
  'recipes',
  'ingredients',
  'orders',
  'customers',
  'machines',
  'machine-log',
  'pickings',
] as const;

/** One of {@link TABLE_NAMES}. */
export type TableName = (typeof TABLE_NAMES)[number];
