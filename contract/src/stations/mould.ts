import { z } from 'zod';
import { Day, MassMg, Text } from '../common.ts';

/** What a moulding keeps beside its weights. */
export const MOULD_DETAILS = {
  fillMg: MassMg,
  cavities: z.int().positive().max(1000),
  labelName: Text(120),
  madeOn: Day,
  bestBefore: Day,
  barCode: Text(40),
};

/** How the bars came out. */
export const MOULD_OBSERVATIONS = [
  z.object({
    kind: z.literal('result'),
    gloss: z.int().min(0).max(5),
    snap: z.int().min(0).max(5),
    release: z.int().min(0).max(5),
    bloom: z.boolean(),
    note: Text(400).default(''),
  }),
  /** Net masses of single bars, weighed to control the fill. */
  z.object({
    kind: z.literal('fillSample'),
    nominalMg: MassMg.min(1),
    weightsMg: z.array(MassMg).min(1).max(200),
  }),
] as const;
