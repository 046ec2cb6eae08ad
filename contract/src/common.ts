import { isTimeZone, STATIONS } from '@wunsch/core/ledger';
import { z } from 'zod';

/** An id made by the client (UUIDv7), so that a repeated request is the same entry. */
export const Id = z.uuid().describe('UUID made by the client, version 7 preferred');

/** First and last year a workshop can have lived through. */
const FIRST_YEAR = 1900;
const LAST_YEAR = 2200;
const inWorkshopTime = (text: string) => {
  const year = Number(/^\d{4}(?=-)/.exec(text)?.[0] ?? Number.NaN);
  return year >= FIRST_YEAR && year < LAST_YEAR;
};

/** An instant in UTC, of the years both databases and every chart can hold. */
export const Instant = z.iso
  .datetime({ offset: true, message: 'must be an instant like 2026-10-02T08:00:00Z' })
  .refine(inWorkshopTime, `must lie between ${FIRST_YEAR} and ${LAST_YEAR}`)
  .describe('ISO 8601 instant, e.g. 2026-10-02T08:00:00Z');

/** A station of the line. */
export const StationName = z.enum(STATIONS);

/** A calendar day. */
export const Day = z.iso
  .date({ message: 'must be a day like 2026-10-02' })
  .refine(inWorkshopTime, `must lie between ${FIRST_YEAR} and ${LAST_YEAR}`)
  .describe('ISO 8601 date, e.g. 2026-10-02');

/** Largest mass one entry may carry: 100 t. */
export const LARGEST_MASS_MG = 100_000_000_000;

/** A mass in whole milligrams, above 0. */
export const MassMg = z.int().positive().max(LARGEST_MASS_MG).describe('mass in whole milligrams');

/** Text a person typed, trimmed and bounded. */
export const Text = (max: number) => z.string().trim().max(max);

/** A name that must not be empty. */
export const Name = z.string().trim().min(1).max(120);

/** Minor units of the workshop's currency (pence, cents), ≥ 0. */
export const Money = z.number().nonnegative().max(1e12).describe('minor units of the workshop currency');

/** What a field of a request would have to be, for programs and translations. */
export const FieldRule = z.discriminatedUnion('is', [
  z.object({ is: z.literal('missing') }),
  z.object({ is: z.literal('not-a'), expected: z.string() }),
  /** A number, or how long a text or a list is. */
  z.object({
    is: z.enum(['too-little', 'too-much']),
    of: z.enum(['number', 'text', 'list']),
    bound: z.number(),
    inclusive: z.boolean(),
  }),
  z.object({ is: z.literal('not-among'), choices: z.array(z.string()) }),
  z.object({ is: z.literal('not-whole') }),
]);
/** See {@link FieldRule}. */
export type FieldRule = z.infer<typeof FieldRule>;

/** One field that was refused: its path, what would be right in English, and as a rule where it is one that can be put into other words. */
export const RefusedField = z.object({ field: z.string(), detail: z.string(), rule: FieldRule.optional() });
/** See {@link RefusedField}. */
export type RefusedField = z.infer<typeof RefusedField>;

/** RFC 9457 problem details: every refusal of the server has this shape (application/problem+json). */
export const Problem = z.object({
  type: z.string(),
  title: z.string(),
  status: z.int(),
  detail: z.string(),
  /** Stable word for programs and translations, e.g. `oversubscribed`. */
  code: z.string(),
  /** The field of the request that is wrong, as a path. */
  field: z.string().optional(),
  /** Numbers and names the detail speaks of. */
  params: z.record(z.string(), z.unknown()).optional(),
  errors: z.array(RefusedField).optional(),
});
/** See {@link Problem}. */
export type Problem = z.infer<typeof Problem>;

/** Where a temperature was taken. */
export const Place = z.enum(['bean', 'oven', 'bowl', 'grinder', 'room']);
/** See {@link Place}. */
export type Place = z.infer<typeof Place>;

/** Name of one probe among several at the same place, e.g. `tray 2`; empty for the only one. */
export const Probe = Text(40);

/** A time zone this machine knows. */
export const TimeZone = z.string().max(60).refine(isTimeZone, 'must be a time zone like Europe/Berlin');
