import { z } from 'zod';
import { Day, Id, MassMg, Money, Text } from '../common.ts';
import { LotPut } from './beans.ts';

/** Pods picked on a day in a plot. */
export const PickingPut = z.object({
  on: Day,
  plot: z.string().trim().min(1).max(80),
  /** Trees that were picked; null where nobody counted. */
  trees: z.int().min(1).max(1_000_000).nullable().default(null),
  pods: z.int().min(1).max(10_000_000),
  /** Wet beans out of them; null where they were not weighed. */
  wetMg: MassMg.nullable().default(null),
  /** Paid for them in all, and to whom where they were bought; minor units. */
  paid: Money.default(0),
  from: Text(120).default(''),
  note: Text(200).default(''),
});
/** See {@link PickingPut}. */
export type PickingPut = z.input<typeof PickingPut>;

/** Taking pickings in as one lot of pods or wet beans: one act of the maker. */
export const HarvestTaken = LotPut.extend({
  material: z.enum(['pods', 'wet beans']),
  pickings: z.array(Id).min(1).max(1000),
});
/** See {@link HarvestTaken}. */
export type HarvestTaken = z.input<typeof HarvestTaken>;

/** A picking as it is kept, and the lot it went into. */
export const PickingRecord = PickingPut.extend({
  id: Id,
  by: z.string(),
  lotId: Id.nullable(),
  lotCode: z.string().nullable(),
});
/** See {@link PickingRecord}. */
export type PickingRecord = z.infer<typeof PickingRecord>;
