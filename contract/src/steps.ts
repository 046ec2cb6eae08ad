import { z } from 'zod';
import {
  STEP_KINDS,
  usualWork,
  WORK_KINDS,
  WORK_STATION,
  type StepKind,
  type WorkKind,
} from '@wunsch/core/ledger';
import { Id, Instant, Money, StationName, Text } from './common.ts';
import { CONCHE_DETAILS } from './stations/conche.ts';
import { GRIND_DETAILS } from './stations/grind.ts';
import { FILLING_DETAILS, MOULD_DETAILS, WRAP_DETAILS } from './stations/mould.ts';
import { RECIPE_DETAILS } from './stations/recipe.ts';
import { ROAST_DETAILS } from './stations/roast.ts';
import { SORT_DETAILS } from './stations/sort.ts';
import { TEMPER_DETAILS } from './stations/temper.ts';
import { WINNOW_DETAILS } from './stations/winnow.ts';

/** What a step keeps that says where material went. */
const LEAVE_DETAILS = {
  /** Where material went that left the workshop, and what it fetched, minor units. */
  destination: Text(80),
  fetched: z.number().nonnegative().max(1e12),
  /** The delivery it is a line of, to whom, and for which order. */
  deliveryId: Id,
  /** The class it was used at. */
  classId: Id,
  customerId: Id,
  orderId: Id,
  /** Minor units for a piece, or for a kg of what is not counted. */
  price: Money,
};

/** What a step keeps that says what was found when stock was taken. */
const COUNT_DETAILS = {
  /** The stock-taking it is a line of. */
  countId: Id,
  countReason: Text(40),
};

/** The details each kind of step may keep, as its station declares them. */
export const DETAILS_OF: Readonly<Record<StepKind, z.ZodRawShape>> = {
  receive: {},
  dry: {},
  sort: SORT_DETAILS,
  roast: ROAST_DETAILS,
  winnow: WINNOW_DETAILS,
  recipe: RECIPE_DETAILS,
  grind: GRIND_DETAILS,
  conche: CONCHE_DETAILS,
  temper: TEMPER_DETAILS,
  mould: MOULD_DETAILS,
  wrap: WRAP_DETAILS,
  leave: LEAVE_DETAILS,
  'write-off': {},
  count: COUNT_DETAILS,
  part: {},
  drain: {},
  press: {},
  prepare: FILLING_DETAILS,
};

/** The details of any kind of step; which of them a step may keep depends on its kind ({@link DETAILS_OF}). */
export const StepDetails = z
  .object({
    ...SORT_DETAILS,
    ...ROAST_DETAILS,
    ...WINNOW_DETAILS,
    ...RECIPE_DETAILS,
    ...GRIND_DETAILS,
    ...CONCHE_DETAILS,
    ...TEMPER_DETAILS,
    ...MOULD_DETAILS,
    ...WRAP_DETAILS,
    ...LEAVE_DETAILS,
    ...COUNT_DETAILS,
    ...FILLING_DETAILS,
  })
  .partial();
/** See {@link StepDetails}. */
export type StepDetails = z.infer<typeof StepDetails>;

/** Kinds of work that keep a detail, in words; empty for a name nobody knows. */
function homesOf(detail: string): string {
  return WORK_KINDS.filter((kind) => detail in DETAILS_OF[kind]).join(' or ');
}

/** What is wrong with details kept by a step of a kind: those that belong to another, by name. */
export function strayDetails(kind: StepKind, details: object): { field: string; detail: string }[] {
  return Object.keys(details)
    .filter((name) => !(name in DETAILS_OF[kind]))
    .map((name) => {
      const homes = homesOf(name);
      return {
        field: name,
        detail: homes ? `${name} belongs to ${homes}, not to ${kind}` : `${kind} keeps no ${name}`,
      };
    });
}

/** Details as they are sent: names that nobody knows are refused, not dropped. */
const SentDetails = StepDetails.strict();

/** Opening a step at a station. The kind is the station's usual work where it is left out. */
export const StepPut = z
  .object({
    batchId: Id,
    station: StationName,
    kind: z.enum(WORK_KINDS).optional(),
    machineId: Id.nullable().default(null),
    startedAt: Instant.optional(),
    details: SentDetails.default({}),
  })
  .superRefine((step, context) => {
    const kind = workOf(step);
    if (!kind) {
      context.addIssue({
        code: 'custom',
        path: ['station'],
        message: `no step is opened at ${step.station}; it is one of ${WORK_KINDS.join(', ')}`,
      });
      return;
    }
    if (WORK_STATION[kind] !== step.station)
      context.addIssue({
        code: 'custom',
        path: ['kind'],
        message: `${kind} is done at ${WORK_STATION[kind]}, not at ${step.station}`,
      });
    for (const { field, detail } of strayDetails(kind, step.details))
      context.addIssue({ code: 'custom', path: ['details', field], message: detail });
  });
/** See {@link StepPut}. */
export type StepPut = z.input<typeof StepPut>;

/** The kind of work a step is opened for; null where its station has none. */
export function workOf(step: {
  station: z.infer<typeof StationName>;
  kind?: WorkKind | undefined;
}): WorkKind | null {
  return step.kind ?? usualWork(step.station);
}

/** Changing an open or closed step's details; guarded by If-Match. */
export const StepUpdate = z.object({
  details: SentDetails,
  machineId: Id.nullable().optional(),
  startedAt: Instant.optional(),
});

/** Most people who are at one step. */
const MOST_HANDS = 12;

/** Who was at a step, where that is not whoever entered it: a tablet is signed in as one, and several work. */
export const StepHands = z.object({
  personIds: z
    .array(Id)
    .min(1)
    .max(MOST_HANDS)
    .refine((ids) => new Set(ids).size === ids.length, 'each person once'),
});
/** See {@link StepHands}. */
export type StepHands = z.input<typeof StepHands>;

/**
 * When the work of a step really began and ended, where it was entered later than it was done. What went in at its beginning, and what came out at
 * its end, moves with it.
 */
export const StepTimes = z.object({
  startedAt: Instant,
  /** Of a step that is closed; null while it is open. */
  endedAt: Instant.nullable(),
  /** What the books said when this was looked at; refused where they say something else by now. */
  was: z.object({ startedAt: Instant, endedAt: Instant.nullable() }),
  /** Whether what was noted at its end goes along: that beans are out is noted with their weight, which may be hours later. */
  notesToo: z.boolean().optional(),
});
/** See {@link StepTimes}. */
export type StepTimes = z.input<typeof StepTimes>;

/** A kind of step as it is read back. */
export const StepKindName = z.enum(STEP_KINDS);
