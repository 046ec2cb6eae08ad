import { z } from 'zod';
import { MATERIALS, STATIONS } from '@wunsch/core/ledger';
import { Id, Instant, Text } from './common.ts';

/** What a trace may begin at. */
export const TRACE_OF = [
  'lot',
  'batch',
  'parcel',
  'supply',
  'ingredient',
  'machine',
  'person',
  'code',
] as const;

/** Where a trace begins: a thing by its id, or a code read off a label, box or bar. */
export const TraceQuery = z
  .object({
    of: z.enum(TRACE_OF),
    id: Text(120).min(1),
    way: z.enum(['forward', 'back']).default('forward'),
    /** Of a machine or a person: from when to when. */
    from: Instant.optional(),
    to: Instant.optional(),
  })
  .superRefine((query, context) => {
    const needsId = !['person', 'code'].includes(query.of);
    if (needsId && !Id.safeParse(query.id).success)
      context.addIssue({
        code: 'custom',
        path: ['id'],
        message: `must be the id of a ${query.of}; a code off a label is asked for with of=code`,
      });
    if (query.from && query.to && query.from > query.to)
      context.addIssue({ code: 'custom', path: ['to'], message: 'must not lie before from' });
  });
/** See {@link TraceQuery}. */
export type TraceQuery = z.input<typeof TraceQuery>;

const Run = z.object({
  batchCode: z.string().nullable(),
  startedAt: z.string(),
  by: z.string(),
});

const Here = z.object({
  parcelId: z.string(),
  material: z.enum(MATERIALS),
  label: z.string(),
  batchId: z.string().nullable(),
  batchCode: z.string().nullable(),
  lotCode: z.string().nullable(),
  place: z.string(),
  onHold: z.boolean(),
  massMg: z.number(),
  contentMg: z.number(),
  count: z.number().nullable(),
});

/** Figures of a recall; see the core’s `recallOf`. */
export const RecallFigures = z.object({
  bars: z.object({
    made: z.number(),
    here: z.number(),
    delivered: z.number(),
    sold: z.number(),
    given: z.number(),
    broken: z.number(),
    missing: z.number(),
  }),
  mass: z.object({
    rootMg: z.number(),
    hereMg: z.number(),
    inProcessMg: z.number(),
    goneMg: z.number(),
    lostMg: z.number(),
    missingMg: z.number(),
  }),
  barsKnown: z.number().nullable(),
  massKnown: z.number(),
  here: z.array(Here),
  toSetAside: z.array(z.string()),
  customers: z.array(
    z.object({
      customerId: z.string(),
      name: z.string(),
      count: z.number(),
      massMg: z.number(),
      lines: z.array(
        z.object({
          at: z.string(),
          batchCode: z.string().nullable(),
          material: z.enum(MATERIALS).nullable(),
          count: z.number().nullable(),
          massMg: z.number(),
        }),
      ),
    }),
  ),
  nameless: z.array(z.object({ destination: z.string(), count: z.number(), massMg: z.number() })),
  batches: z.array(z.object({ id: z.string(), code: z.string() })),
  missing: z.array(
    z.object({
      batchCode: z.string().nullable(),
      reason: z.string(),
      count: z.number().nullable(),
      contentMg: z.number(),
    }),
  ),
});
/** See {@link RecallFigures}. */
export type RecallFigures = z.infer<typeof RecallFigures>;

/** A trace as it is drawn and told. */
export const TraceView = z.object({
  of: z.enum(TRACE_OF),
  id: z.string(),
  way: z.enum(['forward', 'back']),
  /** What it begins at, by name, and a detail beside it. */
  name: z.string(),
  detail: z.string(),
  rows: z.array(
    z.object({
      batchId: z.string(),
      code: z.string(),
      startedAt: z.string(),
      endedAt: z.string().nullable(),
      stages: z.array(
        z.object({
          station: z.enum(STATIONS),
          massMg: z.number(),
          contentMg: z.number(),
          isOpen: z.boolean(),
        }),
      ),
      bars: z.number(),
      /** Where its pieces are: on hand by place, with customers, given, missing; largest first. */
      ends: z.array(
        z.object({
          kind: z.enum(['here', 'delivered', 'sold', 'given', 'broken', 'missing']),
          name: z.string(),
          count: z.number(),
        }),
      ),
    }),
  ),
  links: z.array(
    z.object({
      parcelId: z.string(),
      fromBatchId: z.string().nullable(),
      fromStation: z.enum(STATIONS).nullable(),
      toBatchId: z.string(),
      toStation: z.enum(STATIONS),
      material: z.enum(MATERIALS).nullable(),
      name: z.string(),
      massMg: z.number(),
      /** Whether any of what is traced is in it. */
      isTraced: z.boolean(),
    }),
  ),
  /** Forward: what a recall must know. */
  recall: RecallFigures.nullable(),
  /** Back: what came from outside. */
  origins: z.array(
    z.object({
      name: z.string(),
      material: z.enum(MATERIALS).nullable(),
      lotId: z.string().nullable(),
      parcelId: z.string().nullable(),
      share: z.number(),
    }),
  ),
  /** Back: who was at it and on what, by step in order of time. */
  steps: z.array(
    z.object({
      id: z.string(),
      kind: z.string(),
      station: z.enum(STATIONS),
      batchId: z.string().nullable(),
      batchCode: z.string().nullable(),
      machine: z.string().nullable(),
      startedAt: z.string(),
      by: z.string(),
    }),
  ),
  neighbours: z.array(
    z.object({
      machine: z.string(),
      of: Run,
      run: Run,
      hoursBetween: z.number(),
      cleanedAt: z.string().nullable(),
      cleanedBy: z.string().nullable(),
    }),
  ),
  /** How long it took to find, ms. */
  tookMs: z.number(),
});
/** See {@link TraceView}. */
export type TraceView = z.infer<typeof TraceView>;

/** Keeping a recall: what it was about, whether for practice, and whether what is here is set aside with it. */
export const RecallKeep = z.object({
  of: z.enum(TRACE_OF),
  id: Text(120).min(1),
  from: Instant.optional(),
  to: Instant.optional(),
  isPractice: z.boolean(),
  reason: Text(400).min(1),
  setAside: z.boolean().default(false),
});
/** See {@link RecallKeep}. */
export type RecallKeep = z.input<typeof RecallKeep>;

/** A recall as it was kept. */
export const RecallRecord = z.object({
  id: Id,
  number: z.int(),
  at: z.string(),
  by: z.string(),
  of: z.enum(TRACE_OF),
  ofId: z.string(),
  name: z.string(),
  isPractice: z.boolean(),
  reason: z.string(),
  setAside: z.boolean(),
  tookMs: z.number(),
  figures: RecallFigures,
});
/** See {@link RecallRecord}. */
export type RecallRecord = z.infer<typeof RecallRecord>;
