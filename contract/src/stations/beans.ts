import { z } from 'zod';
import { arrivalFacts, moistureFault } from '@wunsch/core/beans';
import { MATERIALS } from '@wunsch/core/ledger';
import { CHOCOLATE_TYPES } from '@wunsch/core/temper';
import { Day, Id, MassMg, Money, Name, Text } from '../common.ts';

const position = z.array(z.number()).min(2).max(3);
const ring = z.array(position).min(4).max(20_000);
const Geometry = z.discriminatedUnion('type', [
  z.object({ type: z.literal('Point'), coordinates: position }),
  z.object({ type: z.literal('MultiPoint'), coordinates: z.array(position).min(1) }),
  z.object({ type: z.literal('Polygon'), coordinates: z.array(ring).min(1) }),
  z.object({ type: z.literal('MultiPolygon'), coordinates: z.array(z.array(ring).min(1)).min(1) }),
]);

/** Plots the beans grew on: a GeoJSON FeatureCollection (RFC 7946) of points and polygons, longitude before latitude. */
export const Plots = z
  .object({
    type: z.literal('FeatureCollection'),
    features: z
      .array(
        z.object({
          type: z.literal('Feature'),
          id: z.union([z.string(), z.number()]).optional(),
          properties: z.record(z.string(), z.unknown()).nullable().default({}),
          geometry: Geometry,
        }),
      )
      .min(1)
      .max(2000),
  })
  .superRefine((plots, context) => {
    const numbers = (g: unknown): number[][] =>
      Array.isArray(g) && typeof g[0] === 'number'
        ? [g as number[]]
        : Array.isArray(g)
          ? g.flatMap(numbers)
          : [];
    plots.features.forEach((feature, i) => {
      const off = numbers(feature.geometry.coordinates).find(
        ([lon, lat]) => Math.abs(lon!) > 180 || Math.abs(lat!) > 90,
      );
      if (off)
        context.addIssue({
          code: 'custom',
          path: ['features', i, 'geometry'],
          message: `${off[0]}, ${off[1]} is not a longitude and a latitude in degrees`,
        });
    });
  });
/** See {@link Plots}. */
export type Plots = z.infer<typeof Plots>;

const sheetCelsius = z.number().min(15).max(70).nullable().default(null);

/** What the maker of bought chocolate, butter or powder prints on its sheet. */
export const LotSheet = z
  .object({
    maker: Text(120).default(''),
    /** The maker's own lot number. */
    makerLot: Text(80).default(''),
    bestBefore: Day.nullable().default(null),
    kind: z.enum(CHOCOLATE_TYPES).nullable().default(null),
    /** Cacao and fat in all, % by mass. */
    cacao: z.number().min(0).max(100).nullable().default(null),
    fat: z.number().min(0).max(100).nullable().default(null),
    /** Its ingredients in falling order and the allergens among them, as the sheet prints them. */
    ingredients: Text(1000).default(''),
    allergens: z.array(Text(40)).max(14).default([]),
    meltC: sheetCelsius,
    coolC: sheetCelsius,
    workLowC: sheetCelsius,
    workHighC: sheetCelsius,
  })
  .refine((s) => s.workLowC === null || s.workHighC === null || s.workLowC < s.workHighC, {
    path: ['workHighC'],
    message: 'the working window ends above where it begins',
  });
/** See {@link LotSheet}. */
export type LotSheet = z.infer<typeof LotSheet>;

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
  /** It cost nothing, as a customer's own beans or a gift do. Else a price of 0 is one that nobody knows. */
  isFree: z.boolean().default(false),
  /** Wet basis, %; how much it can be depends on the material. */
  moisture: z.number().min(0).max(80).nullable().default(null),
  beansPer100g: z.number().min(20).max(400).nullable().default(null),
  /** Cocoa butter of its nibs, % by mass. */
  nibFat: z.number().min(30).max(70).nullable().default(null),
  place: Text(80).default(''),
  onHold: z.boolean().default(false),
  holdReason: Text(200).default(''),
  certificates: Text(400).default(''),
  /** What the grower says of fermenting and drying. */
  growerNotes: Text(2000).default(''),
  /** Highest temperature the beans' surface may see in the roast, °C. */
  ceilingC: z.number().min(60).max(300).nullable().default(null),
  /** Time from ordering to arrival, weeks. */
  leadWeeks: z.number().min(0).max(104).nullable().default(null),
  plots: Plots.nullable().default(null),
  /** For what was made elsewhere. */
  sheet: LotSheet.nullable().default(null),
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

/**
 * Receiving a lot, as it is sent: facts that a material does not have are refused by name, so that a slip is noticed where it is
 * made.
 */
export const LotSent = LotPut.superRefine((lot, context) => {
  const facts = arrivalFacts(lot.material);
  const stray = [
    ...(facts.beans ? [] : (['beansPer100g', 'ceilingC'] as const)),
    ...(facts.nibFat ? [] : (['nibFat'] as const)),
    ...(facts.mostMoisture === null ? (['moisture'] as const) : []),
    ...(facts.grown ? [] : (['plots'] as const)),
    ...(facts.sheet.length > 0 || !facts.grown ? [] : (['sheet'] as const)),
  ].filter((name) => lot[name] !== null);
  for (const name of stray)
    context.addIssue({
      code: 'custom',
      path: [name],
      message: `${lot.material} have no ${name}; leave it out`,
    });
  const fault = moistureFault(lot.material, lot.moisture);
  if (fault) context.addIssue({ code: 'custom', path: ['moisture'], message: fault });
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
  /** The lot of pods or wet beans it was fermented and dried from. */
  fromLotId: Id.nullable(),
  receivedOn: z.string(),
  bags: z.int().nullable(),
  arrivedMg: z.number(),
  remainingMg: z.number(),
  parcelId: Id,
  version: z.int(),
});
/** See {@link Lot}. */
export type Lot = z.infer<typeof Lot>;

/** Taking dried beans in: the wet lot is used up, and a lot of dry beans takes its place with its lineage. */
export const LotDried = z.object({
  fromLotId: Id,
  code: LotFacts.shape.code,
  name: Name,
  massMg: MassMg,
  moisture: LotFacts.shape.moisture,
  receivedOn: Day,
  place: Text(80).default(''),
  stepId: Id,
  takenId: Id,
  movementId: Id,
  lossId: Id,
  parcelId: Id,
});
/** See {@link LotDried}. */
export type LotDried = z.input<typeof LotDried>;

/** Juice drained from fresh beans: all of a parcel of them goes in; the juice comes out by the scales, and what is left to ferment. */
export const JuiceDrain = z.object({
  parcelId: Id,
  takenId: Id,
  juice: z.object({ movementId: Id, parcelId: Id, massMg: MassMg }),
  rest: z.object({ movementId: Id, parcelId: Id }),
  /** Where the juice is put. */
  place: Text(80).default(''),
  handsOnMinutes: z.number().min(0).max(100_000).nullable().default(null),
});
/** See {@link JuiceDrain}. */
export type JuiceDrain = z.input<typeof JuiceDrain>;

/** A sample of beans, or another maker's bar, tasted to decide on buying. */
export const SamplePut = z.object({
  name: Name,
  kind: z.enum(['beans', 'bar']).default('beans'),
  from: Text(120).default(''),
  country: Text(80).default(''),
  pricePerKg: Money.nullable().default(null),
  /** What was found on which day, with a liking from 0 to 10. */
  notes: z
    .array(
      z.object({
        day: Day,
        by: Text(12).default(''),
        liking: z.number().min(0).max(10).nullable().default(null),
        text: Text(2000).default(''),
      }),
    )
    .max(60)
    .default([]),
  decision: z.enum(['open', 'buy', 'decline']).default('open'),
  reason: Text(1000).default(''),
});
/** See {@link SamplePut}. */
export type SamplePut = z.input<typeof SamplePut>;

/** A sample as stored. */
export const Sample = SamplePut.extend({ id: Id, createdAt: z.string(), version: z.int() });
/** See {@link Sample}. */
export type Sample = z.infer<typeof Sample>;

/** A photograph or document kept with a lot, a batch or a sample. */
export const Attachment = z.object({
  id: Id,
  lotId: Id.nullable(),
  batchId: Id.nullable(),
  /** The step it shows: a dip of a bowl, bars looked at. */
  stepId: Id.nullable(),
  name: z.string(),
  type: z.string(),
  size: z.int(),
  at: z.string(),
  by: z.string(),
});
/** See {@link Attachment}. */
export type Attachment = z.infer<typeof Attachment>;
