import { z } from 'zod';
import { MOST_ROWS } from '@wunsch/core/spreadsheet';
import { Day, Id, MassMg, Money, Name, Text } from './common.ts';

const Row = z.int().positive().max(1_000_000).describe('row of the file it stood in, from 1');
const Code = z.string().trim().min(1).max(24);
const Score = z.number().min(0).max(10);
const Bars = z.int().positive().max(10_000_000);

/** A lot as an old table has it. */
export const OldLot = z.object({
  row: Row,
  code: Code,
  name: Name,
  country: Text(80).default(''),
  region: Text(120).default(''),
  grower: Text(120).default(''),
  variety: Text(120).default(''),
  harvest: Text(40).default(''),
  receivedOn: Day,
  massMg: MassMg,
  pricePerKg: Money.default(0),
  moisture: z.number().min(0).max(60).nullable().default(null),
  place: Text(80).default(''),
  notes: Text(400).default(''),
});

/** A batch as an old table has it: the weights that were written down, from beans towards bars. */
export const OldBatch = z.object({
  row: Row,
  code: Code,
  /** Code of a lot that is in the books. */
  lot: Code,
  startedOn: Day,
  beansMg: MassMg,
  roastedMg: MassMg.nullable().default(null),
  nibsMg: MassMg.nullable().default(null),
  sugarMg: MassMg.nullable().default(null),
  butterMg: MassMg.nullable().default(null),
  chocolateMg: MassMg.nullable().default(null),
  bars: Bars.nullable().default(null),
  barMg: z.int().positive().max(5_000_000).nullable().default(null),
  bestBefore: Day.nullable().default(null),
  note: Text(400).default(''),
  goesOn: z
    .boolean()
    .default(false)
    .describe(
      'whether it is still being made and goes on here, from where its weights end; finished otherwise',
    ),
});

/** Bars that went out, as an old table has it. */
export const OldSale = z.object({
  row: Row,
  on: Day,
  batch: Code,
  /** Name of a customer; one that is not known yet is made. */
  customer: Name,
  bars: Bars,
  price: Money.nullable().default(null),
});

/** A tasting as an old table has it; scores from 0 to 10. */
export const OldTasting = z.object({
  row: Row,
  on: Day,
  batch: Code,
  taster: Text(120).default(''),
  liking: Score,
  grit: Score.nullable().default(null),
  words: Text(400).default(''),
});

const File = Text(200).describe('name of the file it was read from');
const rows = <T extends z.ZodType>(row: T) => z.array(row).min(1).max(MOST_ROWS);

/** Taking over an old table, whole: every row stands, or none does. */
export const ImportPut = z.discriminatedUnion('of', [
  z.object({ of: z.literal('lots'), file: File, rows: rows(OldLot) }),
  z.object({ of: z.literal('batches'), file: File, rows: rows(OldBatch) }),
  z.object({ of: z.literal('sales'), file: File, rows: rows(OldSale) }),
  z.object({ of: z.literal('tastings'), file: File, rows: rows(OldTasting) }),
]);
/** See {@link ImportPut}. */
export type ImportPut = z.input<typeof ImportPut>;

/** A table that was taken over. */
export const ImportRun = z.object({
  id: Id,
  of: z.enum(['lots', 'batches', 'sales', 'tastings']),
  file: z.string(),
  rows: z.int(),
  at: z.string(),
  by: z.string(),
  /** Whether it has been taken back. */
  voided: z.boolean(),
  /** Number of its entry, by which whoever made it may take it back. */
  seq: z.int(),
});
/** See {@link ImportRun}. */
export type ImportRun = z.infer<typeof ImportRun>;
