import { z } from 'zod';
import { Name, Text } from '../common.ts';

/** One stage of a roast plan as it is stored. */
export const RoastStage = z.object({
  name: Name,
  setC: z.number().min(20).max(400),
  minutes: z.number().positive().max(600),
  fan: z.boolean().default(false),
  until: Text(200).nullable().default(null),
  /** Bean temperature that ends the stage before its time is up, °C. */
  endBeanC: z.number().min(20).max(300).nullable().optional(),
});

/** What a roast is to come to; what is null is free. */
export const RoastAimDetails = z.object({
  doseMinutes: z.number().positive().max(200).nullable().default(null),
  /** Least share of the sharp acid driven off. */
  acidGone: z.number().min(0).max(1).nullable().default(null),
  /** Moisture left, % wet basis. */
  moistureLow: z.number().min(0).max(20).nullable().default(null),
  moistureHigh: z.number().min(0).max(20).nullable().default(null),
  surfaceMaxC: z.number().min(60).max(300).nullable().default(null),
  /** Decimal reductions wanted at the coldest part; advisory. */
  logReductions: z.number().min(0).max(20).nullable().default(null),
});
/** See {@link RoastAimDetails}. */
export type RoastAimDetails = z.infer<typeof RoastAimDetails>;

/** What a roast keeps beside its weights. */
export const ROAST_DETAILS = {
  plan: z.object({ name: Name, stages: z.array(RoastStage).min(1).max(20) }),
  byHand: z.boolean(),
  load: z.int().positive(),
  loads: z.int().positive(),
  ceilingC: z.number().min(40).max(300),
  /** Stir at least this often, s. */
  stirSeconds: z.number().positive().max(36_000),
  aim: RoastAimDetails,
  /** Rest after the roast before cracking, h. */
  restHours: z.number().min(0).max(240),
};
