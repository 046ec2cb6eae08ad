import { z } from 'zod';
import { STATIONS } from '@wunsch/core/ledger';
import { Id, Name, Text } from './common.ts';
import { PersonPut } from './access.ts';

/** Starting shapes; each only sets habits, machines and what is shown first. */
export const Shape = z.enum(['kitchen', 'shop', 'estate', 'school']);
/** See {@link Shape}. */
export type Shape = z.infer<typeof Shape>;

/** A workshop's habits and units. */
export const WorkshopPut = z.object({
  name: Name,
  shape: Shape,
  currency: z.string().regex(/^[A-Z]{3}$/, 'three capital letters, e.g. EUR'),
  language: z.enum(['en', 'de']).default('en'),
  temperatureUnit: z.enum(['°C', '°F']),
  massSystem: z.enum(['metric', 'pounds']),
  /** Which cacao % is shown first; both are always there. */
  cacaoSchool: z.enum(['all', 'beans']).default('all'),
  /** Minor units per hour of work. */
  labourRate: z.number().nonnegative().max(1e9).default(1500),
  /** Packaging per bar, minor units. */
  packagingPerBar: z.number().nonnegative().max(1e9).default(30),
  gritAimUm: z.number().min(8).max(200).default(20),
  gritEveryHours: z.number().min(0.5).max(48).default(6),
  barMg: z.int().positive().max(5_000_000).default(60_000),
  keepingMonths: z
    .object({ dark: z.int().min(1).max(60), milk: z.int().min(1).max(60), white: z.int().min(1).max(60) })
    .default({ dark: 18, milk: 12, white: 10 }),
});
/** See {@link WorkshopPut}. */
export type WorkshopPut = z.input<typeof WorkshopPut>;

/** The workshop as stored. */
export const Workshop = WorkshopPut.extend({ version: z.int(), createdAt: z.string() });
/** See {@link Workshop}. */
export type Workshop = z.infer<typeof Workshop>;

/** A machine, oven, bowl or scale with its usable charge. */
export const MachinePut = z.object({
  name: Name,
  station: z.enum(STATIONS),
  kind: Text(60).default(''),
  /** Usable charge, which differs from the plate; null where unknown. */
  minMg: z.int().nonnegative().nullable().default(null),
  maxMg: z.int().positive().nullable().default(null),
  /** Standard uncertainty of a weighing, mg, for scales. */
  uMg: z.int().positive().nullable().default(null),
  /** Name in letters of a device token's owner; the token itself is shown once. */
  active: z.boolean().default(true),
});
/** See {@link MachinePut}. */
export type MachinePut = z.input<typeof MachinePut>;

/** A machine as stored. */
export const Machine = MachinePut.extend({ id: Id, version: z.int(), hasToken: z.boolean() });
/** See {@link Machine}. */
export type Machine = z.infer<typeof Machine>;

/** The answers of the first run: they make a usable workshop and its owner. */
export const FirstRun = z.object({
  workshop: WorkshopPut,
  owner: PersonPut.omit({ role: true, active: true }).required({ password: true }).extend({ id: Id }),
  people: z
    .array(PersonPut.omit({ active: true }).extend({ id: Id }))
    .max(30)
    .default([]),
  machines: z
    .array(MachinePut.extend({ id: Id }))
    .max(50)
    .default([]),
});
/** See {@link FirstRun}. */
export type FirstRun = z.input<typeof FirstRun>;
