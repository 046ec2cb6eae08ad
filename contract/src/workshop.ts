import { z } from 'zod';
import { FACTOR_HABITS, FACTORS, type Factor } from '@wunsch/core/dialIn';
import { GRINDING_TOOLS } from '@wunsch/core/grind';
import { RUNS_LOOKED_AT, USUAL_GOOD_RUNS, USUAL_POINTS } from '@wunsch/core/skills';
import { Id, Instant, Money, Name, StationName, Text } from './common.ts';
import { PersonPut } from './access.ts';

/** Starting shapes; each only sets habits, machines and what is shown first. */
export const Shape = z.enum(['kitchen', 'shop', 'estate', 'school']);
/** See {@link Shape}. */
export type Shape = z.infer<typeof Shape>;

/** Habits of the roast room. D and z of the kill step must come from a competent person. */
export const RoastHabits = z.object({
  stirMinutes: z.number().positive().max(120).nullable().default(6),
  ceilingC: z.number().min(60).max(300).default(150),
  doseMinutes: z.number().positive().max(200).nullable().default(12),
  acidGone: z.number().min(0).max(1).nullable().default(0.5),
  moistureLow: z.number().min(0).max(20).nullable().default(1.5),
  moistureHigh: z.number().min(0).max(20).nullable().default(3),
  logReductions: z.number().min(0).max(20).nullable().default(5),
  dMinutes: z.number().positive().max(1000).default(1.5),
  zKelvin: z.number().positive().max(200).default(25),
  referenceC: z.number().min(40).max(200).default(120),
  restHours: z.number().min(0).max(240).default(4),
});
/** See {@link RoastHabits}. */
export type RoastHabits = z.infer<typeof RoastHabits>;

/** What batches usually pass through; a recipe or a batch may differ. */
export const RouteHabits = z.object({
  roasted: z.boolean().default(true),
  conched: z.boolean().default(false),
  tempered: z.boolean().default(true),
});
/** See {@link RouteHabits}. */
export type RouteHabits = z.infer<typeof RouteHabits>;

const months = z.int().min(1).max(60);

/** Products that come out of a step beside each other. */
export const JOINT_PRODUCTS = [
  'wet beans',
  'juice',
  'nibs',
  'cocoa butter',
  'cocoa powder',
  'chocolate',
  'bars',
] as const;

/** What a bar weighs where nobody has said otherwise, mg. */
export const USUAL_BAR_MG = 60_000;

/** What an hour of work, and the packaging of a bar, cost where nobody has said otherwise, minor units of a currency worth about a euro. */
export const USUAL_LABOUR_RATE = 1500;
/** See {@link USUAL_LABOUR_RATE}. */
export const USUAL_PACKAGING = 30;

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
  labourRate: z.number().nonnegative().max(1e9).default(USUAL_LABOUR_RATE),
  /** Packaging per bar, minor units. */
  packagingPerBar: z.number().nonnegative().max(1e9).default(USUAL_PACKAGING),
  /** A kWh, minor units. */
  energyPrice: z.number().nonnegative().max(1e9).default(0),
  /** Rent, insurance and the rest for each kg of bars and blocks made, minor units. */
  overheadPerKg: z.number().nonnegative().max(1e9).default(0),
  /** How several products of one step share what it costs. */
  joint: z.enum(['mass', 'value']).default('mass'),
  /** What a kg of products that come of one step fetches, minor units; by value, they share what the step costs in this proportion. */
  jointValues: z.partialRecord(z.enum(JOINT_PRODUCTS), z.number().positive().max(1e9)).default({}),
  gritAimUm: z.number().min(8).max(200).default(20),
  gritEveryHours: z.number().min(0.5).max(48).default(6),
  barMg: z.int().positive().max(5_000_000).default(USUAL_BAR_MG),
  /** Street, place and country as labels name the maker; empty where nobody has said. */
  address: Text(200).default(''),
  /** Where bars' public pages are reached from outside, e.g. https://bars.example; empty where they are not. */
  publicAddress: z.union([z.literal(''), z.url({ protocol: /^https?$/ }).max(200)]).default(''),
  /** Allergens that may be left from other runs, named on every label. */
  traces: z.array(Text(40)).max(14).default([]),
  /** Bars of one box. */
  boxBars: z.int().positive().max(1000).default(12),
  keepingMonths: z
    .object({
      dark: months.default(18),
      milk: months.default(12),
      white: months.default(10),
      plant: months.default(12),
      fruit: months.default(10),
    })
    .prefault({}),
  /** Slopes between which a cooling curve counts as level, °C/min; instruments and schools differ. */
  curveLevel: z
    .object({ fallingBelow: z.number().min(-10).max(10), risingAbove: z.number().min(-10).max(10) })
    .refine((l) => l.fallingBelow < l.risingAbove, {
      path: ['risingAbove'],
      message: 'the upper slope lies above the lower one',
    })
    .default({ fallingBelow: -0.5, risingAbove: 0.5 }),
  /** Whether the plan gives a station’s work only to those signed off there. */
  signedOnly: z.boolean().default(false),
  /** When somebody is ready to be signed off at a station. */
  signOff: z
    .object({
      goodRuns: z.int().min(1).max(RUNS_LOOKED_AT).default(USUAL_GOOD_RUNS),
      points: z.int().min(1).max(100).default(USUAL_POINTS),
    })
    .prefault({}),
  /** What maker and machines can do of what is dialled in, from and to; what makes sense at all where left out. */
  canDo: z
    .partialRecord(
      z.enum(FACTORS),
      z.tuple([z.number(), z.number()]).refine(([from, to]) => from <= to, 'what can be done rises'),
    )
    .superRefine((all, context) => {
      for (const [factor, range] of Object.entries(all) as [Factor, [number, number]][]) {
        const { low, high } = FACTOR_HABITS[factor];
        if (range[0] < low || range[1] > high)
          context.addIssue({ code: 'custom', path: [factor], message: `between ${low} and ${high}` });
      }
    })
    .default({}),
  roast: RoastHabits.prefault({}),
  route: RouteHabits.prefault({}),
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
  station: StationName,
  kind: Text(60).default(''),
  /** Usable charge, which differs from the plate; null where unknown. */
  minMg: z.int().nonnegative().nullable().default(null),
  maxMg: z.int().positive().nullable().default(null),
  /** Standard uncertainty of a weighing, mg, for scales. */
  uMg: z.int().positive().nullable().default(null),
  /** Name in letters of a device token's owner; the token itself is shown once. */
  active: z.boolean().default(true),
  /** What it cost and will fetch, minor units, and how many kg it should make: its price is written off per kg. */
  price: Money.nullable().default(null),
  resale: Money.nullable().default(null),
  lifeKg: z.number().positive().max(1e9).nullable().default(null),
  /** What it draws while it runs, W. */
  watts: z.number().nonnegative().max(1e6).nullable().default(null),
  /** Loud enough for hearing protection and quiet hours. */
  loud: z.boolean().default(false),
  /** Hours between services. */
  serviceHours: z.number().positive().max(1e6).nullable().default(null),
  /** A tool without turning stones, where it is one. */
  tool: z.enum(GRINDING_TOOLS).nullable().default(null),
  /** Places of a cooling cabinet, where it is one. */
  places: z.int().positive().max(100_000).nullable().default(null),
});
/** See {@link MachinePut}. */
export type MachinePut = z.input<typeof MachinePut>;

/** A machine as stored. */
export const Machine = MachinePut.extend({ id: Id, version: z.int(), hasToken: z.boolean() });
/** See {@link Machine}. */
export type Machine = z.infer<typeof Machine>;

/** Something done to a machine: cleaned between runs, serviced, or rebuilt, after which what it has learned starts again. */
export const MachineEventPut = z.object({
  machineId: Id,
  kind: z.enum(['cleaned', 'serviced', 'rebuilt']),
  note: Text(400).default(''),
  at: Instant.optional(),
});
/** See {@link MachineEventPut}. */
export type MachineEventPut = z.input<typeof MachineEventPut>;

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
  /** The code printed where the server runs, if it asks for one. */
  code: z.string().trim().max(40).optional(),
});
/** See {@link FirstRun}. */
export type FirstRun = z.input<typeof FirstRun>;

/** A journalled entry that could not be applied. It stops nothing; the owner is shown it with the reason. */
export const SetAsideEntry = z.object({
  seq: z.number(),
  kind: z.string(),
  target: z.string(),
  by: z.string(),
  at: z.string(),
  /** Its body as JSON text. */
  body: z.string(),
  reason: z.string(),
});
/** See {@link SetAsideEntry}. */
export type SetAsideEntry = z.infer<typeof SetAsideEntry>;
