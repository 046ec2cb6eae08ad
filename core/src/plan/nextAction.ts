import type { BatchFlow, Station } from '../ledger/index.ts';

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
}

/** What the clock adds to the ledger. */
export interface ActionClock {
  /** ISO instant of the last grit reading of the running grind, or of its start. */
  lastGritAt: string | null;
  /** ISO instant of the reading that tells most, by the forecast; the workshop's interval counts where there is none yet. */
  nextGritAt?: string | null;
  /** Hours between grit readings the workshop keeps to, before a forecast is possible. */
  gritEveryHours: number;
  /** ISO instant at which the grit aim is expected. */
  aimAt: string | null;
  /** The running conche, where there is one: its last sourness tasting, and when its aim is expected. */
  conche?: { lastTastedAt: string | null; aimAt: string | null } | null;
  /** ISO instant at which the running roast's plan ends. */
  roastEndsAt: string | null;
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

/** What to do next with a batch, from where its mass is and what the clock says. */
export function nextAction(flow: BatchFlow, clock: ActionClock): NextAction {
  const nothing: NextAction = { code: 'nothing', station: flow.here, massMg: flow.nowMg, dueAt: null };
  if (clock.isOver) return nothing;
  const taste: NextAction = { code: 'taste', station: 'taste', massMg: flow.nowMg, dueAt: null };
  const wantsTasting = flow.bars > 0 && clock.tastings === 0;
  if (clock.isFinished) return wantsTasting ? taste : nothing;
  const running = flow.stations.find((s) => s.inProcessMg > 0);
  const open = running ?? flow.stations.find((s) => s.state === 'running' && s.waitingMg === 0);
  // Begun, and what went in was taken back: it begins with its first weight.
  if (open && open.inMg + open.inProcessMg === 0 && open.additions.length === 0)
    return { code: 'start', station: open.station, massMg: flow.startMg, dueAt: null };
  if (open?.station === 'grind' && clock.conche) {
    const { lastTastedAt, aimAt } = clock.conche;
    const tasteDue = lastTastedAt ? addHours(lastTastedAt, SOURNESS_EVERY_HOURS) : null;
    const aimFirst = aimAt !== null && tasteDue !== null && aimAt < tasteDue;
    return {
      code: aimFirst ? 'draw-off' : 'taste-sourness',
      station: 'grind',
      massMg: open.inProcessMg,
      dueAt: aimFirst ? aimAt : tasteDue,
    };
  }
  if (open?.station === 'grind') {
    const readingDue =
      clock.nextGritAt ?? (clock.lastGritAt ? addHours(clock.lastGritAt, clock.gritEveryHours) : null);
    const aimFirst = clock.aimAt !== null && (readingDue === null || clock.aimAt < readingDue);
    return {
      code: aimFirst ? 'draw-off' : 'take-reading',
      station: 'grind',
      massMg: open.inProcessMg,
      dueAt: aimFirst ? clock.aimAt : readingDue,
    };
  }
  if (open)
    return {
      code: codeAt(open, clock),
      station: open.station,
      massMg: open.inProcessMg,
      dueAt: open.station === 'roast' ? clock.roastEndsAt : null,
    };
  const waiting = flow.stations.find((s) => s.waitingMg > 0 && s.state !== 'done' && s.station !== 'taste');
  if (waiting) {
    const { station, waitingMg, toConcheMg } = waiting;
    if (toConcheMg > 0 && toConcheMg === waitingMg)
      return { code: 'conche', station, massMg: toConcheMg, dueAt: null };
    const code = waiting.stepIds.length > 0 ? 'carry-on' : 'start';
    return { code, station, massMg: waitingMg, dueAt: null };
  }
  if (wantsTasting) return taste;
  // Begun without a word of how much: its first weight is still to come.
  const isUntouched = flow.startMg === 0 && flow.stations.every((s) => s.stepIds.length === 0);
  return isUntouched ? { ...nothing, code: 'start' } : nothing;
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
