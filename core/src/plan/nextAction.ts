import { WORK_STATION, type BatchFlow, type Station } from '../ledger/index.ts';

/** What a batch needs next. The interface has the words for each code. */
export type ActionCode =
  | 'start'
  | 'weigh-in'
  | 'weigh-out'
  | 'finish'
  | 'take-reading'
  | 'taste-sourness'
  | 'draw-off'
  | 'follow-temper'
  | 'carry-on'
  | 'conche'
  | 'taste'
  | 'nothing';

/** The next thing to do with a batch. */
export interface NextAction {
  code: ActionCode;
  station: Station;
  massMg: number;
  /** ISO instant at which it is due, or null when it may be done at any time. */
  dueAt: string | null;
  /** Which of several machines it is to be done at; left out where only one is at work, or none. */
  at?: { stepId: string; machine: string | null };
}

/** What every open step tells. */
interface Run {
  stepId: string;
  /** Name of its machine; null by hand. */
  machine: string | null;
  /** What is in it and has not come out, mg. */
  massMg: number;
}

/** An open step at a machine, and what the clock says of it. */
export type RunClock =
  | (Run & {
      kind: 'grind';
      /** ISO instant of the last grit reading, or of its start. */
      lastGritAt: string | null;
      /** ISO instant of the reading that tells most, by the forecast; the workshop's interval counts where there is none yet. */
      nextGritAt: string | null;
      /** ISO instant at which the grit aim is expected. */
      aimAt: string | null;
    })
  | (Run & {
      kind: 'conche';
      /** ISO instant of the last sourness tasting. */
      lastTastedAt: string | null;
      /** ISO instant at which the aim is expected. */
      aimAt: string | null;
    })
  | (Run & {
      kind: 'roast';
      /** ISO instant at which its plan ends; null without one. */
      endsAt: string | null;
    })
  | (Run & { kind: 'temper' });

/** What the clock adds to the ledger. */
export interface ActionClock {
  /** ISO instant. */
  now: string;
  /** Open steps at machines, in the order they were begun. */
  runs: readonly RunClock[];
  /** Hours between grit readings the workshop keeps to, before a forecast is possible. */
  gritEveryHours: number;
  tastings: number;
  /** Void or abandoned: nothing is done with it any more. */
  isOver?: boolean;
  /** Finished: what is left of it lies there until somebody opens the batch again, and its bars may still be tasted. */
  isFinished?: boolean;
  /** Whether the open recipe lacks ingredients it names. */
  stillToWeighIn?: boolean;
}

/** The usual hours between tastings of a conche. */
export const SOURNESS_EVERY_HOURS = 4;

/**
 * Stations that give several things one after the other, and are then ended by hand, with the share of what went in that may be left by then:
 * rejects that nobody weighs, and what is swept up.
 */
const ENDED_BY_HAND: Partial<Record<Station, number>> = { sort: 0.08, winnow: 0.015 };

/**
 * What to do next with a batch, from where its mass is and what the clock says. Of several machines at work, and of work at several stations, what is
 * due by now; then what is in hand, a bowl before all; then what is due first. Of what only waits, the first along the line; left-over nibs last.
 */
export function nextAction(flow: BatchFlow, clock: ActionClock): NextAction {
  const nothing: NextAction = { code: 'nothing', station: flow.here, massMg: flow.nowMg, dueAt: null };
  if (clock.isOver) return nothing;
  const taste: NextAction = { ...nothing, code: 'taste', station: 'taste' };
  const wantsTasting = flow.bars > 0 && clock.tastings === 0;
  if (clock.isFinished) return wantsTasting ? taste : nothing;
  const filled = flow.stations.filter((s) => s.inProcessMg > 0);
  const empty = flow.stations.find((s) => s.state === 'running' && s.waitingMg === 0);
  const [open = empty, ...others] = filled;
  // Begun, and what went in was taken back: it begins with its first weight.
  if (open && open.inMg + open.inProcessMg === 0 && open.additions.length === 0)
    return { ...nothing, code: 'start', station: open.station, massMg: flow.startMg };
  if (open)
    return soonest(
      [open, ...others].flatMap((s) => underWay(s, clock)),
      clock,
    )!;
  const [first, ...later] = flow.stations.filter(
    (s) => s.waitingMg > 0 && s.state !== 'done' && s.station !== 'taste',
  );
  // A bowl that was closed was complete: nibs that are left over are not in the way of what waits to be ground.
  const waiting = first?.station === 'recipe' && first.stepIds.length > 0 ? (later[0] ?? first) : first;
  if (waiting) {
    const { station, waitingMg, toConcheMg } = waiting;
    if (toConcheMg > 0 && toConcheMg === waitingMg)
      return { ...nothing, code: 'conche', station, massMg: toConcheMg };
    const code = waiting.stepIds.length > 0 ? 'carry-on' : 'start';
    return { ...nothing, code, station, massMg: waitingMg };
  }
  if (wantsTasting) return taste;
  // Begun without a word of how much: its first weight is still to come.
  const isUntouched = flow.startMg === 0 && flow.stations.every((s) => s.stepIds.length === 0);
  return isUntouched ? { ...nothing, code: 'start' } : nothing;
}

/** Of several things the one to do now; of two that nothing tells apart the first. */
function soonest(wants: readonly NextAction[], { now }: ActionClock): NextAction | undefined {
  const rank = ({ code, dueAt }: NextAction) =>
    dueAt === null ? (code === 'follow-temper' ? 1 : 2) : Date.parse(dueAt) <= Date.parse(now) ? 0 : 3;
  return wants.toSorted((a, b) => rank(a) - rank(b) || (a.dueAt ?? '').localeCompare(b.dueAt ?? ''))[0];
}

/** What work that is under way at a station wants next, machine by machine, the last begun first. */
function underWay(open: BatchFlow['stations'][number], clock: ActionClock): NextAction[] {
  const { station, inProcessMg } = open;
  // A machine that all has gone out of, and nobody has ended yet, does not speak for those that are full.
  const here = clock.runs.filter((r) => WORK_STATION[r.kind] === station);
  const filled = here.filter((r) => r.massMg > 0);
  const runs = filled.length > 0 ? filled : here;
  if (runs.length === 0) return [{ station, code: codeAt(open, clock), massMg: inProcessMg, dueAt: null }];
  return runs.toReversed().map((run) => ({
    station,
    ...wantOf(run, open, clock),
    ...(runs.length > 1
      ? { massMg: run.massMg, at: { stepId: run.stepId, machine: run.machine } }
      : { massMg: inProcessMg }),
  }));
}

/** What one machine at work wants, and when. */
function wantOf(
  run: RunClock,
  open: BatchFlow['stations'][number],
  clock: ActionClock,
): Pick<NextAction, 'code' | 'dueAt'> {
  if (run.kind === 'conche') {
    const tasteDue = run.lastTastedAt ? addHours(run.lastTastedAt, SOURNESS_EVERY_HOURS) : null;
    const aimFirst = run.aimAt !== null && tasteDue !== null && run.aimAt < tasteDue;
    return { code: aimFirst ? 'draw-off' : 'taste-sourness', dueAt: aimFirst ? run.aimAt : tasteDue };
  }
  if (run.kind === 'grind') {
    const readingDue =
      run.nextGritAt ?? (run.lastGritAt ? addHours(run.lastGritAt, clock.gritEveryHours) : null);
    const aimFirst = run.aimAt !== null && (readingDue === null || run.aimAt < readingDue);
    return { code: aimFirst ? 'draw-off' : 'take-reading', dueAt: aimFirst ? run.aimAt : readingDue };
  }
  return { code: codeAt(open, clock), dueAt: run.kind === 'roast' ? run.endsAt : null };
}

/** What a step that is under way wants. */
function codeAt(
  { station, stepIds, inMg, inProcessMg }: BatchFlow['stations'][number],
  clock: ActionClock,
): ActionCode {
  // Of several steps it is not known which is nearly empty: a second one may just have been filled.
  if (stepIds.length === 1 && inProcessMg <= (ENDED_BY_HAND[station] ?? -1) * inMg) return 'finish';
  if (station === 'temper') return 'follow-temper';
  // While ingredients are still to come the bowl wants them, not to be emptied.
  return station === 'recipe' && clock.stillToWeighIn ? 'weigh-in' : 'weigh-out';
}

function addHours(iso: string, hours: number): string {
  return new Date(Date.parse(iso) + hours * 3_600_000).toISOString();
}
