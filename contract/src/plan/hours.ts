import { z } from 'zod';
import { Id, Instant, StationName, Text, TimeZone } from '../common.ts';

const MinuteOfDay = z.int().min(0).max(1440);

/** Hours of a week, Monday first: beginnings and ends in minutes of the day, in order. */
export const WeekHours = z
  .array(z.array(z.tuple([MinuteOfDay, MinuteOfDay])).max(6))
  .length(7)
  .refine(
    (week) => week.every((day) => day.every(([a, b], k) => b > a && (k === 0 || a >= day[k - 1]![1]))),
    'hours run forward and do not overlap',
  );

/** When the workshop works, and who may work where. */
export const WorkHoursPut = z.object({
  timeZone: TimeZone,
  week: WeekHours,
  /** Between which loud machines may run; always where null. */
  loudHours: z.tuple([MinuteOfDay, MinuteOfDay]).nullable().default(null),
  /** Whose public holidays are kept, e.g. `DE` and `BY`; none where null. */
  country: z
    .string()
    .regex(/^[A-Z]{2}$/, 'two capital letters, e.g. DE')
    .nullable()
    .default(null),
  region: z.string().max(10).nullable().default(null),
  /** Days chocolate rests before it is tempered, and what the rest shelves hold, kg; any amount where null. */
  restDays: z.number().min(0).max(365).default(1),
  restKg: z.number().min(0.1).max(100_000).nullable().default(null),
  /** Days from an order until what is bought is there. */
  deliveryDays: z.number().min(0).max(365).default(7),
  /** The same of beans, which often come by ship; as all else where null. */
  beanDeliveryDays: z.number().min(0).max(730).nullable().default(null),
  people: z
    .array(
      z.object({
        personId: Id,
        /** Their own hours; the workshop’s where null. */
        week: WeekHours.nullable().default(null),
        /** Stations they may work; all of them where null. */
        stations: z.array(StationName).nullable().default(null),
      }),
    )
    .max(200)
    .default([]),
});
/** See {@link WorkHoursPut}. */
export type WorkHoursPut = z.input<typeof WorkHoursPut>;

/** Somebody or something that is away. */
export const AbsencePut = z
  .object({
    /** Person or machine; the whole workshop where null. */
    who: Id.nullable().default(null),
    from: Instant,
    to: Instant,
    reason: Text(120).default(''),
    /** Called off. */
    isOff: z.boolean().default(false),
  })
  .refine((a) => Date.parse(a.to) > Date.parse(a.from), {
    path: ['to'],
    message: 'it ends after it begins',
  });
/** See {@link AbsencePut}. */
export type AbsencePut = z.input<typeof AbsencePut>;

/** A country or region whose holidays can be kept. */
export const HolidayPlace = z.object({ code: z.string(), name: z.string() });
