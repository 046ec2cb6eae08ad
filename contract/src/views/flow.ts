import { StationName } from '../common.ts';
import type { BatchFlow } from '@wunsch/core/ledger';
import type { NextAction } from '@wunsch/core/plan';
import { z } from 'zod';

const range = z.object({ meanMg: z.number(), lowMg: z.number(), highMg: z.number() });

/** The ribbon of a batch, see core/ledger. */
export const FlowSchema: z.ZodType<BatchFlow> = z.object({
  startMg: z.number(),
  stations: z.array(
    z.object({
      station: StationName,
      state: z.enum(['done', 'running', 'waiting', 'skipped', 'not needed', 'ahead']),
      inMg: z.number(),
      additions: z.array(
        z.object({ label: z.string(), massMg: z.number(), ingredientId: z.string().nullable() }),
      ),
      losses: z.array(
        z.object({
          reason: z.string(),
          massMg: z.number(),
          kept: z.boolean(),
          source: z.enum(['weighed', 'estimated', 'counted', 'derived']),
        }),
      ),
      outMg: z.number(),
      inProcessMg: z.number(),
      waitingMg: z.number(),
      toConcheMg: z.number(),
      progress: z.number(),
      expected: range,
      stepIds: z.array(z.string()),
    }),
  ),
  here: StationName,
  nowMg: z.number(),
  bars: z.number(),
  barsExpected: z.object({ low: z.number(), high: z.number() }).nullable(),
  cacaoKept: z.number().nullable(),
});

/** What comes next, see core/plan. */
export const NextSchema: z.ZodType<NextAction> = z.object({
  code: z.enum([
    'start',
    'weigh-in',
    'weigh-out',
    'finish',
    'take-reading',
    'taste-sourness',
    'draw-off',
    'follow-temper',
    'carry-on',
    'conche',
    'taste',
    'nothing',
  ]),
  station: StationName,
  massMg: z.number(),
  dueAt: z.string().nullable(),
  at: z.object({ stepId: z.string(), machine: z.string().nullable() }).optional(),
});
