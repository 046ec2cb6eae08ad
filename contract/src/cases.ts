import { z } from 'zod';
import { STATIONS } from '@wunsch/core/ledger';
import { CAUSES, CLUES, SIGNS } from '@wunsch/core/faults';
import { Id, Text } from './common.ts';
import { RecallFigures } from './trace.ts';

const Signs = z.array(z.enum(SIGNS)).max(SIGNS.length);
const Clues = z.partialRecord(z.enum(CLUES), z.boolean());

/** What is known of a bar that is not as it should be. */
const CaseFacts = z.object({
  /** The code read off it, and the batch it is of where that is known. */
  code: Text(60).default(''),
  batchId: Id.nullable().default(null),
  signs: Signs.default([]),
  /** What somebody has answered; what the record says is read from the record. */
  clues: Clues.default({}),
  /** In the words of whoever found it, and how it was kept. */
  text: Text(4000).default(''),
  kept: Text(600).default(''),
  name: Text(120).default(''),
  contact: Text(200).default(''),
  /** What was, or is to be, answered. */
  reply: Text(6000).default(''),
});

/** Opening a case: a fault somebody in the workshop found, or a customer told of. */
export const CaseOpen = CaseFacts.extend({ from: z.enum(['maker', 'customer']).default('maker') });
/** See {@link CaseOpen}. */
export type CaseOpen = z.input<typeof CaseOpen>;

/** A change of what is known of a case; guarded by If-Match. */
export const CaseUpdate = CaseFacts;
/** See {@link CaseUpdate}. */
export type CaseUpdate = z.input<typeof CaseUpdate>;

/** A note to oneself at a station, for the next batches it fits. */
export const ReminderPut = z.object({
  station: z.enum(STATIONS),
  text: Text(400).min(1),
  /** Only for batches of this lot or recipe; for all where both are null. */
  lotId: Id.nullable().default(null),
  recipeId: Id.nullable().default(null),
});
/** See {@link ReminderPut}. */
export type ReminderPut = z.input<typeof ReminderPut>;

/** Closing a case: what it was, what is done about it, and what the station is reminded of. One act, one undo. */
export const CaseClose = z.object({
  cause: z.enum(CAUSES).nullable(),
  action: Text(2000).default(''),
  /** All clues as they stood, those of the record with them: the odds of later cases learn from them. */
  clues: Clues.default({}),
  reminder: ReminderPut.extend({ id: Id }).nullable().default(null),
});
/** See {@link CaseClose}. */
export type CaseClose = z.input<typeof CaseClose>;

/** A reminder as it is read back. */
export const Reminder = z.object({
  ...ReminderPut.shape,
  id: z.string(),
  /** Every version of the recipe it is for, older and newer; none where it is for all. */
  recipeIds: z.array(z.string()),
  caseId: z.string().nullable(),
  caseNumber: z.number().nullable(),
  at: z.string(),
  by: z.string(),
});
/** See {@link Reminder}. */
export type Reminder = z.infer<typeof Reminder>;

const Because = z.object({
  of: z.enum(['sign', 'clue']),
  name: z.enum([...SIGNS, ...CLUES]),
  isThere: z.boolean(),
  times: z.number(),
});

/** What a batch's record and the answers say of a fault. */
export const FaultView = z.object({
  /** What the record says, with its figures. */
  findings: z.array(
    z.object({
      clue: z.enum(CLUES),
      isThere: z.boolean(),
      value: z.number().nullable(),
      limit: z.number().nullable(),
      unit: z.string(),
      beside: z.number().nullable(),
    }),
  ),
  /** Likeliest first; empty while no sign is named. The cause null is what is in no table. */
  ranked: z.array(
    z.object({
      cause: z.enum(CAUSES).nullable(),
      station: z.enum(STATIONS).nullable(),
      odds: z.number(),
      because: z.array(Because),
    }),
  ),
  /** What is worth asking, the most telling first. */
  questions: z.array(z.enum(CLUES)),
  /** What would tell the two likeliest causes apart best, whether or not anybody can be asked. */
  settledBy: z.enum(CLUES).nullable(),
  /** Closed cases of this workshop the odds have learned from. */
  learnedFrom: z.int(),
});
/** See {@link FaultView}. */
export type FaultView = z.infer<typeof FaultView>;

/** A case in a list. */
export const CaseBrief = z.object({
  id: z.string(),
  number: z.int(),
  at: z.string(),
  by: z.string(),
  from: z.enum(['maker', 'customer', 'public']),
  code: z.string(),
  batchId: z.string().nullable(),
  batchCode: z.string().nullable(),
  recipeName: z.string().nullable(),
  signs: Signs,
  text: z.string(),
  closedAt: z.string().nullable(),
  cause: z.enum(CAUSES).nullable(),
});
/** See {@link CaseBrief}. */
export type CaseBrief = z.infer<typeof CaseBrief>;

/** A case with everything that bears on it. */
export const CaseView = z.object({
  ...CaseFacts.shape,
  ...CaseBrief.omit({ signs: true, code: true, text: true, batchId: true }).shape,
  version: z.int(),
  lotId: z.string().nullable(),
  recipeId: z.string().nullable(),
  closing: CaseClose.omit({ reminder: true }).extend({ at: z.string(), by: z.string() }).nullable(),
  faults: FaultView,
  /** The other bars of its batch: here, and with whom. */
  sisters: RecallFigures.pick({ bars: true, here: true, customers: true, nameless: true }).nullable(),
  photographs: z.array(z.object({ id: z.string(), name: z.string() })),
});
/** See {@link CaseView}. */
export type CaseView = z.infer<typeof CaseView>;

/** What anybody who has a bar may tell of it. */
export const BarReport = z.object({
  /** Made by the page, so that a second tap is not a second case. */
  id: Id,
  text: Text(2000).min(1),
  kept: Text(600).default(''),
  signs: Signs.default([]),
  name: Text(120).default(''),
  contact: Text(200).default(''),
  photo: z
    .object({
      name: Text(160).min(1),
      type: z.enum(['image/jpeg', 'image/png', 'image/webp']),
      content: z.base64().max(2_100_000),
    })
    .nullable()
    .default(null),
});
/** See {@link BarReport}. */
export type BarReport = z.input<typeof BarReport>;
