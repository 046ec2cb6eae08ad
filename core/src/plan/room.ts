import type { Ran, SetUpKind } from '../grind/index.ts';
import type { Material, Station, WorkKind } from '../ledger/index.ts';
import type { Skill } from '../skills/index.ts';

/** Minutes of a day, 0–1440. */
export type MinuteOfDay = number;

/** Hours of a week, Monday first: beginnings and ends within each day, in order. */
export type WeekHours = readonly (readonly (readonly [MinuteOfDay, MinuteOfDay])[])[];

/** Somebody who may be given work. */
export interface PlanPerson {
  id: string;
  name: string;
  initials: string;
  /** What they may work at; all of it where null. Who may mould may pack. */
  stations: readonly Skill[] | null;
  /** Their own hours; the workshop’s where null. */
  week: WeekHours | null;
}

/** A machine as the plan needs it. */
export interface PlanMachine {
  id: string;
  name: string;
  station: Station;
  kind: string;
  minMg: number | null;
  maxMg: number | null;
  /** Runs in the workshop’s loud hours only. */
  loud: boolean;
  /** Places of a cabinet. */
  places: number | null;
  /** What ran on it last, unless it was cleaned since; nothing is known where left out. */
  ranLast?: Ran | null;
  /** Holds what was begun on it; nothing new goes in. */
  retired?: boolean;
}

/** Moulds of one form. */
export interface PlanMould {
  id: string;
  name: string;
  barMg: number;
  cavities: number;
  count: number;
}

/** Somebody or something that is away: a holiday, an illness, an upkeep day, a broken grinder. */
export interface Absence {
  id: string;
  /** Id of the person or machine; null for the whole workshop. */
  who: string | null;
  /** ISO instants. */
  from: string;
  to: string;
  reason: string;
}

/** Bars somebody waits for. */
export interface PlanOrderLine {
  /** Id of the order’s line. */
  id: string;
  orderId: string;
  customer: string;
  /** ISO instant by which they are wanted. */
  due: string;
  /** Weight of a day late. */
  weight: number;
  recipeId: string;
  /** Lot they are to be of; any where null. */
  lotId: string | null;
  bars: number;
  kind: 'order' | 'sample' | 'class' | 'stock';
  /** Made in batches of its own, so that it makes nobody else’s larger. */
  apart?: boolean;
  /** Has bars made to spare until they are enough in 19 of 20 cases, even where that takes another batch. */
  spare?: boolean;
}

/** A bar kept in stock: never below the floor, made up to the aim. */
export interface StockAim {
  id: string;
  recipeId: string;
  lotId: string | null;
  floor: number;
  aim: number;
}

/** A recipe as the plan needs it. */
export interface PlanRecipe {
  id: string;
  name: string;
  barMg: number;
  /** Nibs and liquor in the whole, share. */
  beansShare: number;
  tempered: boolean;
  conched: boolean;
  allergens: readonly string[];
  /** Ingredients whose flavour clings to stones; none where left out. */
  strong?: readonly string[];
  /** What its bars are wrapped in, by how they were wrapped before, and how many pieces of it are there. */
  packaging?: readonly { name: string; perBar: number; onHand: number }[];
  /** Share of each ingredient in the whole, for what must be there. */
  lines: readonly {
    ingredientId: string;
    name: string;
    share: number;
    isBean: boolean;
    /** Null where nobody keeps count of it. */
    onHandMg: number | null;
  }[];
  /** Lot its newest batches were made from. */
  lotId: string | null;
  /** What begins a batch of it: beans or nibs, or couverture to be tempered. */
  material: Material;
}

/** A lot beans are taken from. */
export interface PlanLot {
  id: string;
  code: string;
  name: string;
  onHandMg: number;
  onHold: boolean;
  material: Material;
  /** Share of what is taken that becomes sorted beans, roasted beans and nibs, by its own batches. */
  yields: Readonly<Partial<Record<Station, number>>>;
  /** How far those shares are off, as standard deviations, not known where left out: of a single batch, and of all together, `ofMean`. */
  yieldSds?: Readonly<Partial<Record<Station, { sd: number; ofMean: number }>>>;
  /** Number of its next batch. */
  nextNumber: number;
  /** ISO instant from which it is here; it is here where left out. */
  from?: string;
}

/** A step that has begun. Times are ISO instants. */
export interface PlanRunning {
  kind: WorkKind;
  machineId: string | null;
  startedAt: string;
  /** When it is over by what is known of it; null where its stage’s usual time says. */
  endsAt: string | null;
  /** Between which it is over with a chance of 80 %, the later one null where it may never be; as uncertain as is usual where left out. */
  endsWithin?: { low: string; high: string | null } | null;
  /** What is in it, mg; all that there is of the batch at its station where left out. */
  massMg?: number;
}

/** A batch in flight. */
export interface PlanBatch {
  id: string;
  code: string;
  lotId: string;
  recipeId: string | null;
  barMg: number;
  route: readonly WorkKind[];
  /** Mass that is in work or waits, mg. */
  massMg: number;
  /** Mass that has yet to go through each station, mg; as much as there is now where left out. */
  massAt?: Readonly<Partial<Record<Station, number>>>;
  /** Stage it has come to. */
  stage: PlanStage;
  /** Its open step, where one runs. */
  running: PlanRunning | null;
  /** Other machines it is ground or conched in at the same time. */
  beside?: readonly PlanRunning[];
  /** Bars to be expected of it in all. */
  bars: number;
  /** Between how many come in four of five cases; so many for certain where left out. */
  barsWithin?: { low: number; high: number } | null;
  /** ISO instant; long ago where left out. */
  startedAt?: string;
  /** The version of its recipe it is made by, where `recipeId` names a newer one that is made now; left out where they are the same. */
  madeBy?: PlanRecipe | null;
}

/** Bars in stock. */
export interface PlanStock {
  recipeId: string | null;
  lotId: string | null;
  bars: number;
  /** Day they are best before, `2026-12-24`; nothing is said of it where null or left out. */
  bestBefore?: string | null;
}

/** How long a stage takes, by the workshop’s own batches: learned factor on the trade’s time. */
export interface LearnedTime {
  stage: PlanStage;
  machineId: string | null;
  /** Median and 80th percentile of the factor. */
  factor: number;
  factor80: number;
  batches: number;
}

/** What the workshop has promised, what it can do, and where everything stands. */
export interface PlanRoom {
  /** ISO instant. */
  now: string;
  timeZone: string;
  /** The workshop’s own hours. */
  week: WeekHours;
  /** Hours in which loud machines may run; always where null. */
  loudHours: readonly [MinuteOfDay, MinuteOfDay] | null;
  /** Days that are holidays, `2026-12-25`. */
  holidays: readonly string[];
  people: readonly PlanPerson[];
  machines: readonly PlanMachine[];
  moulds: readonly PlanMould[];
  absences: readonly Absence[];
  orders: readonly PlanOrderLine[];
  aims: readonly StockAim[];
  recipes: readonly PlanRecipe[];
  /** Newest first. */
  lots: readonly PlanLot[];
  batches: readonly PlanBatch[];
  stock: readonly PlanStock[];
  learned: readonly LearnedTime[];
  /** Hours beans cool before they are winnowed, and days chocolate rests before it is tempered. */
  restHours: number;
  restDays: number;
  /** What the rest shelves hold, kg of chocolate; any amount where left out or null. */
  restKg?: number | null;
}

/** Sticks: what the maker has fixed by hand, by step. */
export interface PlanPin {
  /** Key of the step, see {@link PlannedStep}. */
  step: string;
  /** ISO instant at which it starts. */
  at: string;
  /** `at`: exactly then; `not before`: then or later. */
  how: 'at' | 'not before';
}

/** A step of a plan. */
export interface PlannedStep {
  /** Of batch, stage and part: the same from plan to plan. */
  key: string;
  /** Key of its batch: the batch’s id, or `new:` with recipe, lot and number. */
  batch: string;
  /** Code of the batch, or the one it would have. */
  code: string;
  batchId: string | null;
  recipeId: string | null;
  lotId: string | null;
  stage: PlanStage;
  station: Station;
  part: number;
  parts: number;
  start: string;
  end: string;
  /** Latest start by which nothing promised is late; null where nothing promised hangs on it. */
  latest: string | null;
  /** Who does it; null for what goes on unattended. */
  personId: string | null;
  machineId: string | null;
  /** It has begun. */
  begun: boolean;
  /** Mass in work, mg. */
  massMg: number;
  /** Bars that are knocked out or wrapped; left out at other work, and in plans that older releases made. */
  bars?: number;
  /** What its machine wants before it, after what ran there; null where nothing. */
  setUp?: SetUp | null;
}

/** What a machine wants between two charges that must not, or had better not, meet. */
export interface SetUp {
  kind: SetUpKind;
  minutes: number;
  /** Code of the batch that runs before; null where it ran before the plan begins. */
  after: string | null;
  /** Who does it when; null where nobody is there and free, left out in plans that older releases made. */
  hands?: SetUpHands | null;
}

/** Somebody’s time for making a machine ready. */
export interface SetUpHands {
  personId: string;
  /** ISO instants. */
  start: string;
  end: string;
}

/** Stages of a batch in the plan, in the order of the work. */
export const PLAN_STAGES = [
  'sort',
  'roast',
  'winnow',
  'recipe',
  'load',
  'grind',
  'draw',
  'fill',
  'conche',
  'empty',
  'temper',
  'mould',
  'set',
  'knock',
  'wrap',
  'taste',
] as const;
/** See {@link PLAN_STAGES}. */
export type PlanStage = (typeof PLAN_STAGES)[number];

/** The station each stage belongs to. */
export const STATION_OF_STAGE: Readonly<Record<PlanStage, Station>> = {
  sort: 'sort',
  roast: 'roast',
  winnow: 'winnow',
  recipe: 'recipe',
  load: 'grind',
  grind: 'grind',
  draw: 'grind',
  fill: 'grind',
  conche: 'grind',
  empty: 'grind',
  temper: 'temper',
  mould: 'mould',
  set: 'mould',
  knock: 'mould',
  wrap: 'mould',
  taste: 'taste',
};

/** Stages nobody need be there for. */
export const UNATTENDED: ReadonlySet<PlanStage> = new Set<PlanStage>(['grind', 'conche', 'set']);
