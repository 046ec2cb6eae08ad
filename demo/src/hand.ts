import { WORK_STATION, type WorkKind } from '@wunsch/core/ledger';
import type { Scribe } from './scribe.ts';
import type { Initials } from './workshop.ts';

const HANDS: readonly Initials[] = ['AK', 'JB', 'MR'];

/** Hands at work on one batch: each call writes one entry of somebody. Times are epoch ms. */
export interface Hand {
  say: (kind: string, body: object, at: number, by?: Initials) => string;
  note: (text: string, at: number, stepId?: string | null, by?: Initials) => string;
  see: (stepId: string, data: object, at: number, by?: Initials) => string;
  open: (kind: WorkKind, at: number, details?: object, machineId?: string | null) => string;
  line: (stepId: string, body: object, at: number) => string;
  take: (stepId: string, parcelId: string, at: number, massMg?: number | null, more?: object) => string;
  make: (
    stepId: string,
    material: string,
    massMg: number | null,
    at: number,
    more?: object,
  ) => { parcelId: string; id: string };
  close: (stepId: string, at: number, remainder: string | null, minutes: number) => string;
}

/** See {@link Hand}. */
export function handOf(scribe: Scribe, batchId: string): Hand {
  const say = (kind: string, body: object, at: number, by: Initials = scribe.pick(HANDS)) =>
    scribe.write(kind, scribe.id(), body, at, by);
  const note = (text: string, at: number, stepId: string | null = null, by: Initials = scribe.pick(HANDS)) =>
    say(
      'observation.add',
      { batchId, stepId, replaces: null, at: new Date(at).toISOString(), data: { kind: 'note', text } },
      at,
      by,
    );
  const see = (stepId: string, data: object, at: number, by?: Initials) =>
    say('observation.add', { batchId, stepId, replaces: null, at: new Date(at).toISOString(), data }, at, by);
  const open = (kind: WorkKind, at: number, details: object = {}, machineId: string | null = null) =>
    say(
      'step.open',
      {
        batchId,
        station: WORK_STATION[kind],
        kind,
        machineId,
        startedAt: new Date(at).toISOString(),
        details,
      },
      at,
    );
  const line = (stepId: string, body: object, at: number) =>
    say(
      'movement.add',
      {
        stepId,
        massMg: null,
        parcelId: null,
        ingredientId: null,
        material: null,
        label: null,
        reason: null,
        count: null,
        source: 'weighed',
        uMg: null,
        place: '',
        note: '',
        holdOverride: '',
        at: new Date(at).toISOString(),
        ...body,
      },
      at,
    );
  const take = (
    stepId: string,
    parcelId: string,
    at: number,
    massMg: number | null = null,
    more: object = {},
  ) => line(stepId, { direction: 'in', parcelId, massMg, ...more }, at);
  const make = (stepId: string, material: string, massMg: number | null, at: number, more: object = {}) => {
    const parcelId = scribe.id();
    return { parcelId, id: line(stepId, { direction: 'out', parcelId, material, massMg, ...more }, at) };
  };
  const close = (stepId: string, at: number, remainder: string | null, minutes: number) =>
    scribe.write(
      'step.close',
      stepId,
      {
        endedAt: new Date(at).toISOString(),
        remainder,
        remainderId: scribe.id(),
        handsOnMinutes: Math.round(minutes),
      },
      at,
      scribe.pick(HANDS),
    );
  return { say, note, see, open, line, take, make, close };
}
