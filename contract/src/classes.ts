import { z } from 'zod';
import { BAR_REFUSALS, CLASS_STEPS } from '@wunsch/core/classes';
import { FLOW_WORDS } from '@wunsch/core/recipe';
import { Id, Instant, MassMg, Money, Name, Text } from './common.ts';

/** Most guests of one class. */
const MOST_GUESTS = 60;

const Step = z.enum(CLASS_STEPS);
const Percent = z.number().gt(0).max(100);
const Minutes = z.int().min(0).max(600);

const ClassFacts = z.object({
  title: Name,
  startsAt: Instant,
  /** Length, min. */
  minutes: z.int().min(20).max(720),
  places: z.int().min(1).max(MOST_GUESTS),
  /** What a guest pays, minor units. */
  price: Money.default(0),
  /** The chocolate everyone begins from: something on hand, or a recipe that is still to be made. */
  base: z.discriminatedUnion('of', [
    z.object({ of: z.literal('parcel'), id: Id }),
    z.object({ of: z.literal('recipe'), id: Id }),
  ]),
  /** Chocolate in one bar, and how many a guest makes. */
  barMg: MassMg.max(2_000_000),
  barsEach: z.int().min(1).max(40),
  mouldId: Id.nullable().default(null),
  /** What makes it sweeter, and the cacao % to choose among. */
  sugarId: Id,
  sweetness: z.array(Percent).min(1).max(8),
  /** What may be stirred in or strewn on, and how much of it, % of the bar. */
  flavours: z
    .array(z.object({ ingredientId: Id, percent: z.number().gt(0).max(60) }))
    .max(16)
    .default([]),
  /** Most flavours one guest may choose. */
  flavoursEach: z.int().min(0).max(6).default(2),
  show: z.array(Step).max(CLASS_STEPS.length),
  /** Minutes that differ from the usual. */
  minutesOf: z.partialRecord(Step, Minutes).default({}),
  /** Scales to weigh at. */
  scales: z.int().min(1).max(20).default(2),
  eachGuest: Money.default(0),
  fixed: Money.default(0),
  /** Of everyone who works for it, beforehand and on the day. */
  hours: z.number().min(0).max(200).default(4),
  note: Text(2000).default(''),
  state: z.enum(['planned', 'called-off']).default('planned'),
});

const distinct = (facts: { flavours: { ingredientId: string }[] }) =>
  new Set(facts.flavours.map((f) => f.ingredientId)).size === facts.flavours.length;
const twice = { path: ['flavours'], message: 'each flavour is offered once' };

/** Planning a class; the target is the class. */
export const ClassPlan = ClassFacts.refine(distinct, twice);
/** See {@link ClassPlan}. */
export type ClassPlan = z.input<typeof ClassPlan>;
/** A class as stored; tolerant of what an older release left out. */
export const StoredClass = ClassFacts;
/** See {@link StoredClass}. */
export type StoredClass = z.output<typeof StoredClass>;

/** What a guest chooses. */
export const GuestChoice = z.object({
  allergies: z.array(Text(40).min(1)).max(14).default([]),
  /** What they must not, or do not want to, touch, in their own words. */
  avoid: Text(300).default(''),
  /** null until they have chosen. */
  cacaoPercent: Percent.nullable().default(null),
  flavourIds: z.array(Id).max(6).default([]),
});
/** See {@link GuestChoice}. */
export type GuestChoice = z.input<typeof GuestChoice>;

/** Letters of a guest’s own address: none that look alike. */
export const GUEST_CODE = /^[A-HJ-NP-Z2-9]{12}$/;

/** Taking a guest in. */
export const GuestAdd = GuestChoice.extend({
  classId: Id,
  name: Name,
  /** The guest’s own address, drawn at random by whoever takes them in. */
  code: z.string().regex(GUEST_CODE, 'twelve letters and digits drawn at random'),
});
/** See {@link GuestAdd}. */
export type GuestAdd = z.input<typeof GuestAdd>;

/** Changing what is known of a guest (If-Match). */
export const GuestUpdate = GuestChoice.extend({
  name: Name,
  state: z.enum(['coming', 'not-coming']).default('coming'),
});
/** See {@link GuestUpdate}. */
export type GuestUpdate = z.input<typeof GuestUpdate>;
/** A guest as stored. */
export const StoredGuest = GuestUpdate;

/** How a guest likes what they made. */
export const GuestScore = z.object({
  liking: z.number().min(0).max(10),
  words: Text(600).default(''),
});
/** See {@link GuestScore}. */
export type GuestScore = z.input<typeof GuestScore>;

/** The class has been: who came, and what of the stock it took. One act, one undo. */
export const ClassHold = z.object({
  cameIds: z.array(Id).max(MOST_GUESTS),
  lines: z
    .array(
      z.object({
        parcelId: Id,
        massMg: MassMg.nullable().default(null),
        count: z.int().positive().max(10_000).nullable().default(null),
        stepId: Id,
        takenId: Id,
        lossId: Id,
      }),
    )
    .max(120),
  note: Text(2000).default(''),
});
/** See {@link ClassHold}. */
export type ClassHold = z.input<typeof ClassHold>;

/** Why a bar of a class cannot be made. */
export const ClassProblem = z.enum([...BAR_REFUSALS, 'sugar-gone', 'unreckonable']);
/** See {@link ClassProblem}. */
export type ClassProblem = z.infer<typeof ClassProblem>;

/** What a guest weighs out, and the figures of it. */
export const GuestBarView = z.object({
  baseMg: z.number(),
  sugarMg: z.number(),
  flavours: z.array(z.object({ id: z.string(), name: z.string(), massMg: z.number() })),
  cacaoPercent: z.number(),
  sugarPercent: z.number(),
  fatPercent: z.number(),
  allergens: z.array(z.string()),
  flow: z.enum(FLOW_WORDS),
  faults: z.array(z.enum(['felt', 'wet', 'thick'])),
});
/** See {@link GuestBarView}. */
export type GuestBarView = z.infer<typeof GuestBarView>;

/** A class in a list. */
export const ClassBrief = z.object({
  id: z.string(),
  title: z.string(),
  startsAt: z.string(),
  minutes: z.number(),
  places: z.number(),
  guests: z.number(),
  state: z.enum(['planned', 'called-off', 'held']),
  /** Mean of what guests said of their bars; null while nobody has. */
  liking: z.number().nullable(),
});
/** See {@link ClassBrief}. */
export type ClassBrief = z.infer<typeof ClassBrief>;

const Cost = z.object({
  parts: z.array(
    z.object({ name: z.enum(['materials', 'eachGuest', 'labour', 'fixed']), amount: z.number() }),
  ),
  total: z.number(),
  perHead: z.number().nullable(),
  income: z.number(),
  left: z.number(),
  paysFrom: z.number().nullable(),
});

/** A class with its guests, their bars, how it runs and what it costs. */
export const ClassView = z.object({
  ...ClassFacts.shape,
  id: z.string(),
  version: z.int(),
  held: z.object({ at: z.string(), by: z.string(), note: z.string() }).nullable(),
  baseName: z.string(),
  sugarName: z.string(),
  /** With what the offered flavours are called and hold. */
  offers: z.array(
    z.object({
      ingredientId: z.string(),
      name: z.string(),
      percent: z.number(),
      allergens: z.array(z.string()),
    }),
  ),
  /** Most cacao % a bar without flavours can have; null where the base says nothing of itself. */
  mostCacao: z.number().nullable(),
  /** Why the first bar it offers cannot be made; null where it can. */
  problem: ClassProblem.nullable(),
  guests: z.array(
    z.object({
      ...StoredGuest.shape,
      id: z.string(),
      version: z.int(),
      code: z.string(),
      /** Whether they were there; null until the class has been. */
      came: z.boolean().nullable(),
      bar: GuestBarView.nullable(),
      /** Why their choice cannot be made. */
      problem: ClassProblem.nullable(),
      findings: z.array(
        z.object({
          allergen: z.string(),
          where: z.enum(['own', 'table', 'workshop']),
          others: z.array(z.string()),
        }),
      ),
      score: z.object({ liking: z.number(), words: z.string() }).nullable(),
    }),
  ),
  /** For everyone who comes; who has not chosen is reckoned with the first sweetness and no flavour. */
  needs: z.array(
    z.object({
      what: z.enum(['base', 'sugar', 'flavour', 'beans', 'moulds']),
      name: z.string(),
      /** null for moulds, which are counted. */
      massMg: z.number().nullable(),
      /** With every place taken, before it is held; left out of what depends on what those still to come will choose. */
      fullMg: z.number().optional(),
      pieces: z.number().nullable(),
      fullPieces: z.number().optional(),
      /** null where nobody keeps count of it. */
      onHandMg: z.number().nullable(),
      /** What it is taken from, oldest first. */
      parcels: z.array(z.object({ id: z.string(), remainingMg: z.number() })),
    }),
  ),
  sheet: z.object({
    rows: z.array(z.object({ step: Step, from: z.number(), to: z.number(), unattended: z.boolean() })),
    ends: z.number(),
    over: z.number(),
    spare: z.number(),
    before: z.array(
      z.object({
        what: z.enum([
          'beans-raw',
          'beans-roasted',
          'oven',
          'nibs-milled',
          'base-melted',
          'moulds',
          'scales',
          'labels',
        ]),
        hoursBefore: z.number(),
        massMg: z.number().nullable(),
      }),
    ),
  }),
  /** With those who come, and with every place taken. */
  cost: Cost,
  costFull: Cost,
  /** Names of what is in the bars and has no price: it counts as nothing. */
  unpriced: z.array(z.string()),
  traces: z.array(z.string()),
  /** Where guests’ own addresses begin. */
  address: z.string(),
});
/** See {@link ClassView}. */
export type ClassView = z.infer<typeof ClassView>;

/** What a guest sees on their own phone: nothing of the other guests. */
export const ClassSeat = z.object({
  workshop: z.string(),
  title: z.string(),
  startsAt: z.string(),
  minutes: z.number(),
  name: z.string(),
  ...GuestChoice.shape,
  sweetness: z.array(z.number()),
  flavours: ClassView.shape.offers,
  flavoursEach: z.number(),
  barMg: z.number(),
  barsEach: z.number(),
  bar: GuestBarView.nullable(),
  problem: ClassProblem.nullable(),
  /** Allergens of their own that are in their own bar, at the table, or among the workshop’s traces. */
  findings: z.array(z.object({ allergen: z.string(), where: z.enum(['own', 'table', 'workshop']) })),
  mayChoose: z.boolean(),
  mayScore: z.boolean(),
  score: z.object({ liking: z.number(), words: z.string() }).nullable(),
});
/** See {@link ClassSeat}. */
export type ClassSeat = z.infer<typeof ClassSeat>;
