import { z } from 'zod';
import { LABEL_LANGUAGES, LABEL_PARTS, designFaults, designFaultText } from '@wunsch/core/label';
import { SHELL_STAGES } from '@wunsch/core/mould';
import { Day, Id, Instant, MassMg, Name, Text } from '../common.ts';

/** What a moulding keeps beside its weights. */
export const MOULD_DETAILS = {
  fillMg: MassMg,
  cavities: z.int().positive().max(1000),
  labelName: Text(120),
  madeOn: Day,
  bestBefore: Day,
  barCode: Text(40),
  /** The moulds used, of those the workshop has. */
  mouldId: Id,
  /** Share of a bar that is nuts, fruit, salt …, % by mass. */
  inclusionPercent: z.number().min(0).max(90),
  /** Shells that are filled and capped: planned masses of one piece, mg, and how many. */
  shells: z.object({
    pieces: z.int().positive().max(100_000),
    brimMg: MassMg,
    shellMg: MassMg,
    fillingMg: MassMg,
    capMg: z.int().nonnegative().max(1e9),
  }),
  waterActivity: z.number().min(0).max(1),
  /** Where the bars set. */
  setPlace: z.enum(['cabinet', 'room', 'cold-room', 'refrigerator']),
};

/** What making a filling keeps beside its weights. */
export const FILLING_DETAILS = {
  fillingName: Text(120),
  waterActivity: MOULD_DETAILS.waterActivity,
  bestBefore: MOULD_DETAILS.bestBefore,
};

/** What wrapping keeps beside its weights. */
export const WRAP_DETAILS = {
  /** The last look at the bars: what was seen. */
  lastLook: z.object({ gloss: z.boolean(), corners: z.boolean(), weight: z.boolean() }),
};

/** How the bars came out, and what is noted while they are moulded. */
export const MOULD_OBSERVATIONS = [
  z.object({
    kind: z.literal('result'),
    gloss: z.int().min(0).max(5),
    snap: z.int().min(0).max(5),
    release: z.int().min(0).max(5),
    bloom: z.boolean(),
    note: Text(400).default(''),
  }),
  /** Net masses of single bars, weighed to control the fill. */
  z.object({
    kind: z.literal('fillSample'),
    nominalMg: MassMg.min(1),
    weightsMg: z.array(MassMg).min(1).max(200),
    /** Bars before which the fill was changed: from each of these numbers on, counted from 0, it is another fill. */
    changes: z.array(z.int().min(1).max(199)).max(50).default([]),
  }),
  /** Moulds filled and gone into the cabinet; it rings when they should be set. */
  z.object({
    kind: z.literal('round'),
    moulds: z.int().positive().max(2000),
    bars: z.int().positive().max(100_000),
    label: Name,
    dueAt: Instant,
  }),
  /** A round knocked out, or given more minutes because one stuck. */
  z.object({ kind: z.literal('roundOut'), roundId: Id }),
  /** A stage of filled pieces done; it rings when the next may begin, where it is waited for. */
  z.object({
    kind: z.literal('shellStage'),
    stage: z.enum(SHELL_STAGES),
    label: Name,
    dueAt: Instant.nullable().default(null),
  }),
] as const;

/** A kind of mould the workshop has: a thing with a name. */
export const MouldPut = z.object({
  name: Name,
  makes: z.enum(['bars', 'minis', 'blocks', 'pieces', 'tablets']).default('bars'),
  cavities: z.int().positive().max(1000),
  /** What one cavity takes of chocolate, filled as it should be. */
  fillMg: MassMg,
  /** How many there are. */
  count: z.int().positive().max(5000),
  /** Places of the cabinet each takes. */
  places: z.number().positive().max(100).default(1),
  active: z.boolean().default(true),
});
/** See {@link MouldPut}. */
export type MouldPut = z.input<typeof MouldPut>;

/** A mould as stored. */
export const MouldRecord = MouldPut.extend({ id: Id, version: z.int() });
/** See {@link MouldRecord}. */
export type MouldRecord = z.infer<typeof MouldRecord>;

const mm = (max: number) => z.number().min(0).max(max);

/** How labels are made: size, sides, sheet, symbol, languages, market. */
export const LabelDesignSchema = z
  .object({
    widthMm: mm(300),
    heightMm: mm(420),
    marginMm: mm(50),
    front: z.array(z.enum(LABEL_PARTS)).max(LABEL_PARTS.length),
    back: z.array(z.enum(LABEL_PARTS)).max(LABEL_PARTS.length).default([]),
    sheet: z
      .object({
        paper: z.enum(['A4', 'Letter']),
        rows: z.int().min(1).max(60),
        columns: z.int().min(1).max(40),
        gapXMm: mm(100),
        gapYMm: mm(100),
        leftMm: mm(100),
        topMm: mm(100),
      })
      .nullable()
      .default(null),
    symbol: z.enum(['qr', 'datamatrix']).default('qr'),
    symbolSays: z.enum(['page', 'batch', 'text']).default('page'),
    symbolText: Text(300).default(''),
    symbolMm: z.number().min(4).max(60).default(16),
    languages: z.array(z.enum(LABEL_LANGUAGES)).min(1).max(LABEL_LANGUAGES.length).default(['en']),
    market: z.enum(['EU', 'US']).default('EU'),
    nutrition: z.boolean().default(false),
  })
  .superRefine((design, context) => {
    for (const fault of designFaults(design))
      context.addIssue({ code: 'custom', message: designFaultText(fault) });
  });

/** A design the workshop keeps under a name. */
export const LabelDesignPut = z.object({
  name: Name,
  design: LabelDesignSchema,
  active: z.boolean().default(true),
});
/** See {@link LabelDesignPut}. */
export type LabelDesignPut = z.input<typeof LabelDesignPut>;

/** A design as stored; those to begin with have a key for an id and version 0. */
export const LabelDesignRecord = z.object({
  id: z.string(),
  name: z.string(),
  design: LabelDesignSchema,
  active: z.boolean(),
  version: z.int(),
});
/** See {@link LabelDesignRecord}. */
export type LabelDesignRecord = z.infer<typeof LabelDesignRecord>;

/** What a label of some bars looks like and lacks. */
export const LabelView = z.object({
  /** The bars' code, and how many there are of them. */
  code: z.string(),
  bars: z.int(),
  netMg: z.number(),
  /** SVG at true size, each side. */
  front: z.string(),
  back: z.string().nullable(),
  fits: z.boolean(),
  soldAs: z.string().nullable(),
  checks: z.array(
    z.object({
      name: z.string(),
      state: z.enum(['met', 'missing', 'look']),
      params: z.record(z.string(), z.union([z.string(), z.number()])),
    }),
  ),
  /** Where the sizes of type come from. */
  source: z.string(),
  /** Places of a sheet; 1 without one. */
  places: z.int(),
});
/** See {@link LabelView}. */
export type LabelView = z.infer<typeof LabelView>;

/** A finished moulding looked back on: masses in mg. */
export const MouldingRecord = z.object({
  stepId: z.string(),
  batchId: z.string().nullable(),
  endedAt: z.string(),
  mouldId: z.string().nullable(),
  fillMg: z.number().nullable(),
  inMg: z.number(),
  bars: z.number(),
  holdUpMg: z.number(),
  reworkMg: z.number(),
  /** Bowl or machine its chocolate was tempered in; null where that is not known, or there were several. */
  bowlId: z.string().nullable(),
});
/** See {@link MouldingRecord}. */
export type MouldingRecord = z.infer<typeof MouldingRecord>;

/** A round that stands in the cabinet, of whichever batch. */
export const CabinetRound = z.object({
  id: z.string(),
  stepId: z.string(),
  batchCode: z.string(),
  moulds: z.int(),
  bars: z.int(),
  /** Places its moulds take, a part of one for small moulds. */
  places: z.number(),
  dueAt: z.string(),
});
/** See {@link CabinetRound}. */
export type CabinetRound = z.infer<typeof CabinetRound>;

/** The room as last noted. */
export const RoomNow = z.object({ at: z.string(), celsius: z.number(), humidity: z.number() });
/** See {@link RoomNow}. */
export type RoomNow = z.infer<typeof RoomNow>;
