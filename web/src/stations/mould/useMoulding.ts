import { useEffect, useMemo, useState } from 'react';
import type {
  CabinetRound,
  BatchView,
  Machine,
  MouldingRecord,
  MouldRecord,
  ObservationRecord,
  RoomNow,
  StepRecord,
} from '@wunsch/contract';
import { planRounds, type RoundPlan } from '@wunsch/core/mould';
import { pathBySheet, type ChocolateType, type Ranged } from '@wunsch/core/temper';
import { useRead } from '../../shell/door.tsx';
import { temperWork } from '../../workers/temper.ts';
import { usePouredBowl } from '../temper/index.ts';
import { linesOf, useMachines } from '../work.ts';

/** Usual minutes at a mould, and those bars set; the maker changes what is different here. */
export const ROUND_HABITS = { fillMinutes: 1, turnMinutes: 0.5, setMinutes: 20 } as const;

/** Share of a bowl that usually stays in it and on tools, and the most it is guessed to be, mg. */
const HOLD_UP = { share: 0.015, mostMg: 350_000 } as const;

/** Mouldings the hold-up is learned from, at least. */
const ENOUGH = 3;

/** Where in its window a bowl is kept while it is poured, share from its lower end. */
const UPPER_PART = 0.75;

/** Moulds in use, in order of name. */
export function useMoulds(): MouldRecord[] {
  const { data } = useRead<MouldRecord[]>('/api/moulds');
  return useMemo(() => (data ?? []).filter((m) => m.active), [data]);
}

/** The room as its sensor last said. */
export function useRoom(): RoomNow | null {
  return useRead<RoomNow | null>('/api/room').data ?? null;
}

/** The cabinet: the first machine at the moulds that has places. */
export function useCabinet(): Machine | null {
  return useMachines('mould').find((m) => m.places !== null) ?? null;
}

/** A guess to the gram, as nobody would weigh it finer; of less than that as it is. */
const toTheGram = (mg: number) => (mg < 1000 ? Math.round(mg) : Math.round(mg / 1000) * 1000);

/**
 * What usually stays in bowl and tools: the median of earlier mouldings out of the same bowl, or of all where they are too few, and how many those
 * are; a rule of thumb until then.
 */
export function useHoldUp(
  view: BatchView,
  step: StepRecord,
  inMg: number,
): { massMg: number; bowls: number } {
  const { data } = useRead<MouldingRecord[]>('/api/mouldings');
  const bowlId = bowlOf(view, step)?.machineId ?? null;
  const told = (data ?? []).filter((m) => m.holdUpMg > 0);
  const own = told.filter((m) => bowlId !== null && m.bowlId === bowlId);
  const known = (own.length >= ENOUGH ? own : told).map((m) => m.holdUpMg).sort((a, b) => a - b);
  const guess = Math.min(HOLD_UP.mostMg, toTheGram(inMg * HOLD_UP.share));
  if (known.length < ENOUGH) return { massMg: guess, bowls: 0 };
  const median = known[Math.floor((known.length - 1) / 2)]!;
  return { massMg: Math.min(median, Math.max(guess, toTheGram(inMg * 0.1))), bowls: known.length };
}

/** A round in the cabinet, or out of it. */
export interface RoundNow {
  id: string;
  number: number;
  moulds: number;
  bars: number;
  inAt: number;
  dueAt: number;
  outAt: number | null;
  record: ObservationRecord;
}

/** The rounds of a moulding so far, in order. */
export function roundsOf(view: BatchView, step: StepRecord): RoundNow[] {
  const outs = new Map(
    view.observations.flatMap((o) =>
      o.data.kind === 'roundOut' ? [[o.data.roundId, Date.parse(o.at)] as const] : [],
    ),
  );
  return view.observations
    .flatMap((o) => (o.stepId === step.id && o.data.kind === 'round' ? [{ ...o, data: o.data }] : []))
    .sort((a, b) => a.at.localeCompare(b.at))
    .map((o, i) => ({
      id: o.id,
      number: i + 1,
      moulds: o.data.moulds,
      bars: o.data.bars,
      inAt: Date.parse(o.at),
      dueAt: Date.parse(o.data.dueAt),
      outAt: outs.get(o.id) ?? null,
      record: o,
    }));
}

/** Rounds of other mouldings that stand in the cabinet now. */
export function useOthersInside(stepId: string): CabinetRound[] {
  const { data } = useRead<CabinetRound[]>('/api/cabinet');
  return useMemo(() => (data ?? []).filter((r) => r.stepId !== stepId), [data, stepId]);
}

/** What the rounds still to come are planned from. */
export interface RoundWish {
  bars: number;
  mould: MouldRecord | null;
  cavities: number | null;
  places: number | null;
  setMinutes: number;
  bowlMinutes: number | null;
  /** What of other batches stands in the cabinet. */
  others?: readonly CabinetRound[];
}

/** The rounds still to come from now; null where the moulds are not known or nothing is left to fill, `too-wide` where the cabinet takes none. */
export function roundsAhead(
  wish: RoundWish,
  rounds: readonly RoundNow[],
  now: number,
): RoundPlan | 'too-wide' | null {
  const { bars, mould, places, setMinutes, bowlMinutes } = wish;
  const cavities = wish.cavities ?? mould?.cavities ?? null;
  const left = bars - rounds.reduce((sum, r) => sum + r.bars, 0);
  if (!cavities || left <= 0) return null;
  const minutesTo = (at: number) => Math.max(0, (at - now) / 60_000);
  const own = rounds
    .filter((r) => r.outAt === null)
    .flatMap((r) => Array.from({ length: r.moulds }, () => minutesTo(r.dueAt)));
  const count = mould?.count ?? Math.max(1, Math.ceil(left / cavities));
  const busyUntil = [...own, ...crowdedUntil(wish, count, minutesTo)];
  if (places !== null && places < (mould?.places ?? 1)) return 'too-wide';
  return planRounds({
    bars: left,
    cavities,
    moulds: count,
    places,
    placesPerMould: mould?.places ?? 1,
    fillMinutes: ROUND_HABITS.fillMinutes,
    turnMinutes: ROUND_HABITS.turnMinutes,
    setMinutes,
    busyUntil,
    bowlMinutes,
  });
}

/** Where other batches leave too little room for all of one's moulds: minutes until they make room for each that finds none. */
function crowdedUntil(
  { places, mould, others = [] }: RoundWish,
  count: number,
  minutesTo: (at: number) => number,
): number[] {
  if (places === null) return [];
  const each = mould?.places ?? 1;
  const fit = Math.floor(places / each + 1e-9);
  const theirs = others
    .flatMap((r) =>
      Array.from({ length: Math.ceil(r.places / each - 1e-9) }, () => minutesTo(Date.parse(r.dueAt))),
    )
    .sort((a, b) => a - b);
  const short = Math.min(count, fit) - Math.max(0, fit - theirs.length);
  return theirs.slice(0, Math.max(0, short));
}

/** The tempered bowl a moulding was poured from; undefined where it came from elsewhere. */
export function bowlOf(view: BatchView, step: StepRecord): StepRecord | undefined {
  const poured = new Set(
    linesOf(view, step.id).flatMap((m) => (m.direction === 'in' && m.parcelId ? [m.parcelId] : [])),
  );
  const from = view.movements.find(
    (m) => m.direction === 'out' && m.inForce && m.parcelId && poured.has(m.parcelId),
  );
  return view.steps.find((s) => s.id === from?.stepId && s.station === 'temper');
}

/** How long the poured bowl still fills moulds, epoch ms, held in its window; null where its log is too short to say. */
export function useBowlEnd(
  view: BatchView,
  bowl: StepRecord,
): { low: number; middle: number; high: number } | 'long' | null {
  const { followed } = usePouredBowl(view, bowl);
  const type: ChocolateType = bowl.details.chocolateType ?? 'dark';
  const [lasts, setLasts] = useState<Ranged | null | undefined>(undefined);
  const { sheet } = view.lot;
  useEffect(() => {
    if (!followed) return;
    const path = pathBySheet(type, sheet);
    const { celsius, stableNow, unstableNow, readyBetween } = followed;
    let wanted = true;
    temperWork
      .ask((thread) =>
        thread.lasts({
          stable: stableNow.middle,
          unstable: unstableNow.middle,
          // Kept in the upper part of its window, as whoever pours for long does.
          celsius: Math.max(
            Math.min(celsius, path.windowHighC),
            path.windowLowC + UPPER_PART * (path.windowHighC - path.windowLowC),
          ),
          type,
          coolC: path.coolC,
          full: readyBetween[1],
        }),
      )
      .then((found) => wanted && setLasts(found))
      .catch(() => undefined);
    return () => {
      wanted = false;
    };
  }, [followed, type, sheet]);
  if (!followed || lasts === undefined) return null;
  if (lasts === null) return 'long';
  const from = Date.parse(bowl.startedAt) + followed.at * 1000;
  const at = (minutes: number) => from + minutes * 60_000;
  return { low: at(lasts.low), middle: at(lasts.middle), high: at(lasts.high) };
}
