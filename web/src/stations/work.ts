import { useMemo } from 'react';
import type {
  BatchView,
  ConcheBegin,
  Machine,
  MouldDone,
  MovementRecord,
  ObservationData,
  ObservationRecord,
  ParcelRecord,
  SeriesRecord,
  StepFinish,
  StepRecord,
  TemperOut,
} from '@wunsch/contract';
import { CONCHE_DEFAULTS } from '@wunsch/core/conche';
import {
  BESIDE_WORK,
  ENTRY_STATION,
  isWork,
  mayEnter,
  stepBalance,
  USUAL_LOSS,
  usualWork,
  WORK_STATION,
  type Material,
  type Station,
  type WorkKind,
} from '@wunsch/core/ledger';
import { useRead } from '../shell/door.tsx';
import { WORK_STOCK } from '../shell/workStock.ts';
import { useBench } from '../shell/session.tsx';
import { newId } from '../shell/entry.ts';
import { useEntryHere } from '../shell/useEntryHere.ts';
import { useWords, type Words } from '../words/words.tsx';

/** What lines are read from and entered into: a batch, or a step beside the line that is of none. */
export interface Lined {
  batch: { id: string | null };
  movements: MovementRecord[];
  /** What a probe or a hand has read of its steps; left out where nothing can. */
  series?: Pick<SeriesRecord, 'stepId'>[];
  observations?: Pick<ObservationRecord, 'stepId' | 'data'>[];
}

/** The lines in force of one step. */
export function linesOf(view: Pick<Lined, 'movements'>, stepId: string): MovementRecord[] {
  return view.movements.filter((m) => m.stepId === stepId && m.inForce);
}

/** A step's sums. */
export function balanceOf(view: Pick<Lined, 'movements'>, stepId: string) {
  return stepBalance(linesOf(view, stepId));
}

/** Steps of work of a batch at a station, open ones last. */
export function stepsAt(view: BatchView, station: Station): StepRecord[] {
  return view.steps.filter((s) => s.station === station && isWork(s.kind));
}

/** Parcels that can go into a station: this batch's own first, then lots and left-overs of others, oldest first. */
export function useSources(
  view: BatchView,
  station: Station,
): { own: ParcelRecord[]; lots: ParcelRecord[]; others: ParcelRecord[] } {
  const { data: stock } = useRead<ParcelRecord[]>(WORK_STOCK);
  return useMemo(() => {
    const fits = (p: ParcelRecord) => p.remainingMg > 0 && accepts(station, p.material);
    // What usually goes in here stands before what may go in as well: chocolate before the charge that is still to be ground.
    const usualFirst = (a: ParcelRecord, b: ParcelRecord) =>
      Number(ENTRY_STATION[b.material] === station) - Number(ENTRY_STATION[a.material] === station);
    const own = view.parcels.filter(fits).sort(usualFirst);
    const rest = (stock ?? []).filter((p) => fits(p) && p.batchId !== view.batch.id);
    const lots = rest
      .filter((p) => p.lotId !== null)
      .sort(
        (a, b) =>
          Number(b.lotId === view.batch.lotId) - Number(a.lotId === view.batch.lotId) || usualFirst(a, b),
      );
    return { own, lots, others: rest.filter((p) => p.lotId === null).sort(usualFirst) };
  }, [stock, view, station]);
}

/** Whether a material is offered to go in at a station, by the rule of the core. */
export function accepts(station: Station, material: Material): boolean {
  const kind = usualWork(station);
  return kind !== null && mayEnter(kind, material) && !BESIDE_WORK.has(material);
}

/** A machine by its id, in use or retired since. */
export function useMachine(id: string | null | undefined): Machine | undefined {
  const { data } = useRead<Machine[]>('/api/machines');
  return data?.find((m) => m.id === id);
}

/** Machines that are at work, by id, with the batch that is in each. */
export function useAtWork(): ReadonlyMap<string, string> {
  const { data } = useBench();
  return useMemo(
    () =>
      new Map(
        (data?.running ?? []).flatMap((r): [string, string][] =>
          r.machineId ? [[r.machineId, r.batchCode]] : [],
        ),
      ),
    [data],
  );
}

/** The machine to begin at: the one used last, else the first, of those that are free before those at work. */
export function usualMachine(
  machines: readonly Machine[],
  atWork: ReadonlyMap<string, string>,
  lastId: string | null | undefined,
): Machine | undefined {
  const usual = (of: readonly Machine[]) => of.find((m) => m.id === lastId) ?? of[0];
  return usual(machines.filter((m) => !atWork.has(m.id))) ?? usual(machines);
}

/** Which batch a machine is at work with, in words; nothing where it is free. */
export const atWorkWith = (
  { id }: Pick<Machine, 'id'>,
  atWork: ReadonlyMap<string, string>,
  { t }: Pick<Words, 't'>,
): string => (atWork.has(id) ? t('at-work.with', { batch: atWork.get(id)! }) : '');

/** Active machines of a station. */
export function useMachines(station: Station): Machine[] {
  const { data } = useRead<Machine[]>('/api/machines');
  return (data ?? []).filter((m) => m.station === station && m.active);
}

/**
 * Whether the machines are known, or cannot be for now. A step opened before that would stand at none of them, and its board's readings would
 * find no step to go to.
 */
export function useMachinesKnown(): boolean {
  const { data, error } = useRead<Machine[]>('/api/machines');
  return data !== undefined || error !== undefined;
}

/** A step that its first weight begins. */
export interface StepToBegin {
  kind: WorkKind;
  machineId?: string | null;
  details?: object;
}

/** How material is weighed in: a parcel, all of it where no mass is named, and a word for using it all the same where it is held. */
export type TakeIn = (
  parcel: ParcelRecord,
  massMg: number | null,
  holdOverride?: string,
  /** Further parcels, all of each, in the same act. */
  also?: readonly ParcelRecord[],
) => Promise<unknown>;

/** The calls a station's screen makes. Each resolves once accepted or waiting, and rejects with the server's problem. */
export function useWork(view: Pick<Lined, 'batch'>) {
  const words = useWords();
  const send = useEntryHere();
  const { t, mass } = words;
  const batchId = view.batch.id;
  return useMemo(() => {
    const cameOut = (material: Material, massMg: number | null): string => {
      const what = words.word('material', material);
      return massMg === null ? t('done.out.all', { what }) : t('done.out', { what, mass: mass(massMg) });
    };
    return {
      /** Weighs something into a step, or into one that begins with it. */
      take(
        into: string | StepToBegin,
        parcel: Pick<ParcelRecord, 'id' | 'material' | 'remainingMg'>,
        massMg: number | null,
        holdOverride = '',
        also: readonly ParcelRecord[] = [],
      ) {
        const label = t('done.in', {
          what: words.word('material', parcel.material),
          mass: mass(also.reduce((sum, p) => sum + p.remainingMg, massMg ?? parcel.remainingMg)),
        });
        const step =
          typeof into === 'string'
            ? { stepId: into }
            : { stepId: newId(), begins: { batchId, station: WORK_STATION[into.kind], ...into } };
        return send({
          path: `/api/movements/${newId()}`,
          body: {
            ...step,
            direction: 'in',
            parcelId: parcel.id,
            massMg,
            holdOverride,
            ...(also.length > 0 && { also: also.map((p) => ({ id: newId(), parcelId: p.id })) }),
          },
          label,
          batchId,
          undo: true,
        });
      },
      add(
        stepId: string,
        ingredient: { id: string; name: string },
        massMg: number,
        more: { source?: 'estimated'; uMg?: number } = {},
      ) {
        return send({
          path: `/api/movements/${newId()}`,
          body: {
            stepId,
            direction: 'in',
            ingredientId: ingredient.id,
            massMg,
            label: ingredient.name,
            ...more,
          },
          label: t('done.in', { what: words.word('ingredient', ingredient.name), mass: mass(massMg) }),
          batchId,
          undo: true,
        });
      },
      make(
        stepId: string,
        material: Material,
        massMg: number | null,
        more: { parcelId?: string; count?: number; source?: string; place?: string } = {},
      ) {
        const { parcelId = newId(), ...rest } = more;
        const label = cameOut(material, massMg);
        return send({
          path: `/api/movements/${newId()}`,
          body: { stepId, direction: 'out', material, parcelId, massMg, ...rest },
          label,
          batchId,
          undo: true,
        });
      },
      lose(stepId: string, reason: string, massMg: number, source: 'weighed' | 'estimated' = 'weighed') {
        return send({
          path: `/api/movements/${newId()}`,
          body: { stepId, direction: 'loss', reason, massMg, source },
          label: t('done.loss', { what: words.word('loss', reason), mass: mass(massMg) }),
          batchId,
          undo: true,
        });
      },
      correct(movement: MovementRecord, massMg: number, reason: string, count?: number | null) {
        return send({
          path: `/api/corrections/${newId()}`,
          body: { movementId: movement.id, massMg, reason, ...(count && { count }) },
          label: t('done.correct', { from: mass(movement.massMg), to: mass(massMg) }),
          batchId,
          undo: true,
        });
      },
      observe(stepId: string | null, data: object, label: string, at?: string, replaces?: string) {
        return send({
          path: `/api/observations/${newId()}`,
          body: { batchId, stepId, data, at, ...(replaces && { replaces }) },
          label,
          batchId,
          undo: true,
        });
      },
      close(step: StepRecord, remainder: string | null, handsOnMinutes: number | null) {
        const label = t('done.close', { station: t(`station.${step.station}`) });
        return send({
          path: `/api/steps/${step.id}/close`,
          body: { remainder, remainderId: newId(), handsOnMinutes },
          label,
          batchId,
          undo: true,
        });
      },
      /** A step ends with all that comes of it, what is lost and what is seen as it ends: one act, one entry. */
      finish(
        step: StepRecord,
        {
          made = [],
          lost = [],
          notes = [],
          remainder,
          handsOnMinutes,
          endedAt,
        }: {
          made?: readonly { material: Material; massMg: number | null; count?: number; place?: string }[];
          lost?: readonly { reason: string; massMg: number }[];
          notes?: readonly { data: ObservationData; at?: string }[];
          remainder: string | null;
          handsOnMinutes: number | null;
          /** Where it ended before this is entered. */
          endedAt?: string;
        },
      ) {
        const body: StepFinish = {
          made: made.map((m) => ({ ...m, movementId: newId(), parcelId: newId() })),
          lost: lost.map((l) => ({ ...l, movementId: newId() })),
          notes: notes.map((n) => ({ ...n, id: newId() })),
          remainder,
          remainderId: newId(),
          handsOnMinutes,
          ...(endedAt && { endedAt }),
        };
        const [first] = made;
        return send({
          path: `/api/steps/${step.id}/finished`,
          body,
          label: first
            ? cameOut(first.material, first.massMg)
            : t('done.close', { station: t(`station.${step.station}`) }),
          batchId,
          undo: true,
        });
      },
      /** Tempering ends: one act, one entry. */
      tempered(step: StepRecord, body: TemperOut) {
        return send({
          path: `/api/steps/${step.id}/tempered`,
          body,
          label: t('done.close', { station: t('station.temper') }),
          batchId,
          undo: true,
        });
      },
      /** A conche begins, with a first weight into a machine of its own or with all that is in the grinder of a step: one act, one entry. */
      conche(
        begins:
          | { machineId: string | null; parcel: ParcelRecord; massMg: number | null; holdOverride?: string }
          | { from: StepRecord },
      ) {
        const setting = { celsius: CONCHE_DEFAULTS.referenceC, air: 'open lid' } as const;
        const body: ConcheBegin = {
          // What is conched is always of a batch.
          batchId: batchId!,
          ...setting,
          settingId: newId(),
          ...('from' in begins
            ? {
                machineId: begins.from.machineId,
                from: {
                  stepId: begins.from.id,
                  movementId: newId(),
                  parcelId: newId(),
                  takenId: newId(),
                  remainderId: newId(),
                },
              }
            : {
                machineId: begins.machineId,
                take: {
                  movementId: newId(),
                  parcelId: begins.parcel.id,
                  massMg: begins.massMg,
                  holdOverride: begins.holdOverride ?? '',
                },
              }),
        };
        return send({
          path: `/api/conches/${newId()}`,
          body,
          label: t('done.conche-setting', {
            celsius: words.temperature(setting.celsius, 0),
            air: t(`air.${setting.air}`),
          }),
          batchId,
          undo: true,
        });
      },
      /** Moulding ends: one act, one entry. */
      moulded(step: StepRecord, body: MouldDone) {
        return send({
          path: `/api/steps/${step.id}/moulded`,
          body,
          label: t('done.close', { station: t('station.mould') }),
          batchId,
          undo: true,
        });
      },
      details(step: StepRecord, details: object, more: object = {}) {
        return send({
          path: `/api/steps/${step.id}/details`,
          body: { details: { ...step.details, ...details }, ...more },
          label: t('done.details'),
          batchId,
          ifMatch: step.version,
          quiet: true,
        });
      },
      readings(
        stepId: string,
        place: string,
        startedAt: string,
        readings: readonly { seconds: number; celsius: number }[],
      ) {
        return send({
          path: `/api/readings/${newId()}`,
          body: {
            stepId,
            place,
            startedAt,
            seconds: readings.map((r) => r.seconds),
            celsius: readings.map((r) => r.celsius),
            source: 'file',
          },
          label: t('done.readings', { n: readings.length }),
          batchId,
          undo: true,
        });
      },
    };
  }, [send, batchId, t, mass, words]);
}

/** The name the remainder of a step usually has; `unexplained` when more came out than went in. */
export function usualRemainder(station: Station, differenceMg: number): string | null {
  if (differenceMg === 0) return null;
  return differenceMg < 0 ? 'unexplained' : (USUAL_LOSS[station] ?? 'unexplained');
}
