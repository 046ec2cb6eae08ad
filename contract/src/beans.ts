import { z } from 'zod';
import { MATERIALS } from '@wunsch/core/ledger';
import { Day, Id, MassMg, Money, Name, Text } from './common.ts';

/** The facts of a lot that may be edited later. */
export const LotFacts = z.object({
  code: z.string().trim().min(1).max(24).describe('short code, also the start of its batches’ codes'),
  name: Name,
  country: Text(80).default(''),
  region: Text(120).default(''),
  grower: Text(120).default(''),
  variety: Text(120).default(''),
  harvest: Text(40).default(''),
  notes: Text(4000).default(''),
  /** Price per kg, and freight of the whole lot; minor units. */
  pricePerKg: Money.default(0),
  freight: Money.default(0),
  /** Wet basis, %. */
  moisture: z.number().min(0).max(60).nullable().default(null),
  beansPer100g: z.number().min(20).max(400).nullable().default(null),
  /** Cocoa butter of its nibs, % by mass. */
  nibFat: z.number().min(30).max(70).nullable().default(null),
  place: Text(80).default(''),
  onHold: z.boolean().default(false),
  holdReason: Text(200).default(''),
});

/** Receiving a lot: its facts and the mass on arrival. */
export const LotPut = LotFacts.extend({
  material: z.enum(MATERIALS).default('dry beans'),
  massMg: MassMg,
  bags: z.int().positive().max(10_000).nullable().default(null),
  receivedOn: Day,
  /** Ids of the arrival's ledger entries, made by the client. */
  stepId: Id,
  movementId: Id,
  parcelId: Id,
});
/** See {@link LotPut}. */
export type LotPut = z.input<typeof LotPut>;

/** A change of a lot's facts; guarded by If-Match. */
export const LotUpdate = LotFacts;
/** See {@link LotUpdate}. */
export type LotUpdate = z.input<typeof LotUpdate>;

/** A lot as stored, with what is left of it. */
export const Lot = LotFacts.extend({
  id: Id,
  material: z.enum(MATERIALS),
  receivedOn: z.string(),
  bags: z.int().nullable(),
  arrivedMg: z.number(),
  remainingMg: z.number(),
  parcelId: Id,
  version: z.int(),
});
/** See {@link Lot}. */
export type Lot = z.infer<typeof Lot>;
