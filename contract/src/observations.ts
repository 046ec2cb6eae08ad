import { z } from 'zod';
import { Id, Instant, Name, Place, StationName, Text } from './common.ts';
import { CONCHE_OBSERVATIONS } from './stations/conche.ts';
import { FERMENT_OBSERVATIONS } from './stations/ferment.ts';
import { GRIND_OBSERVATIONS } from './stations/grind.ts';
import { HOLD_OBSERVATIONS } from './stations/hold.ts';
import { MOULD_OBSERVATIONS } from './stations/mould.ts';
import { REST_OBSERVATIONS } from './stations/rest.ts';
import { SORT_OBSERVATIONS } from './stations/sort.ts';
import { TEMPER_OBSERVATIONS } from './stations/temper.ts';
import { WINNOW_OBSERVATIONS } from './stations/winnow.ts';

/** What may be noted anywhere. */
const GENERAL_OBSERVATIONS = [
  z.object({ kind: z.literal('note'), text: Text(4000).min(1) }),
  z.object({
    kind: z.literal('event'),
    name: Text(80).min(1),
    note: Text(400).default(''),
    /** A number that belongs to it: the new setting in °C, or the seconds a door stood open. */
    value: z.number().nullable().optional(),
  }),
  z.object({ kind: z.literal('temperature'), place: Place, celsius: z.number().min(-60).max(500) }),
  z.object({ kind: z.literal('moisture'), percent: z.number().min(0).max(70) }),
  z.object({
    kind: z.literal('room'),
    celsius: z.number().min(-30).max(60),
    humidity: z.number().gt(0).max(100),
  }),
  z.object({
    kind: z.literal('timer'),
    label: Name,
    dueAt: Instant,
    /** The station it calls to: once nothing of the batch waits there any more, it has nothing to say. */
    calls: StationName.optional(),
  }),
  z.object({ kind: z.literal('timerDone'), timerId: Id }),
] as const;

/** What was seen, felt or measured, beside weights; each station brings its own. */
export const ObservationData = z.discriminatedUnion('kind', [
  ...GENERAL_OBSERVATIONS,
  ...FERMENT_OBSERVATIONS,
  ...HOLD_OBSERVATIONS,
  ...SORT_OBSERVATIONS,
  ...WINNOW_OBSERVATIONS,
  ...GRIND_OBSERVATIONS,
  ...CONCHE_OBSERVATIONS,
  ...REST_OBSERVATIONS,
  ...TEMPER_OBSERVATIONS,
  ...MOULD_OBSERVATIONS,
]);
/** See {@link ObservationData}. */
export type ObservationData = z.infer<typeof ObservationData>;

/** An observation on a step, a batch, a lot, or the workshop as a whole. */
export const ObservationPut = z.object({
  batchId: Id.nullable().default(null),
  stepId: Id.nullable().default(null),
  lotId: Id.nullable().default(null),
  at: Instant.optional(),
  data: ObservationData,
  /** The observation this one corrects. */
  replaces: Id.nullable().default(null),
});
/** See {@link ObservationPut}. */
export type ObservationPut = z.input<typeof ObservationPut>;
