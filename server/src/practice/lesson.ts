import type { Person, PracticeHand, PracticeSaid, PracticeScore, Workshop } from '@wunsch/contract';
import { Telephone, type Away, type Call, type PracticeLevel } from '@wunsch/core/trainer';
import type { PracticeNames } from './names.ts';
import { Problem } from '../http/problem.ts';
import type { Store } from '../store/store.ts';

/** What a lesson is begun with. */
export interface LessonSetting {
  store: Store;
  person: Person;
  workshop: Workshop;
  level: PracticeLevel;
  /** What machine and lot are called. */
  names: PracticeNames;
  /** What everything hidden is drawn from. */
  seed: number;
}

/** A lesson under way in a practice workshop. */
export interface Lesson {
  /** Page of it, below the practice's own address. */
  path: string;
  /** Moves what is simulated on to now. */
  tick: () => Promise<void>;
  /** What hands do and see, null where they see nothing; left out where there is nothing of it. */
  hands?: (hand: PracticeHand) => PracticeSaid | null;
  /** How a telephone that may ring stands. */
  telephone?: () => 'rings' | 'talking' | null;
  /** What it comes to as it stands; final once the learner has ended the step. */
  score: () => Promise<PracticeScore>;
}

/** Refuses what this lesson’s hands cannot do. */
export const notHere = (act: string) =>
  new Problem({
    status: 409,
    code: 'not-in-hand',
    detail: `there is nothing in this practice to ${act}`,
  });

/** The telephone of a lesson, on its seconds: what hands do with it, how it stands, and when it kept them away. */
export function telephoneOf(call: Call | null, seconds: () => number) {
  const telephone = call && new Telephone(call);
  return {
    away: (until: number): Away[] => telephone?.away(until) ?? [],
    /** Does what hands do with the telephone, and refuses everything else while it is talked on. */
    hand: (hand: PracticeHand): boolean => {
      const now = seconds();
      if (hand.act !== 'take-call' && hand.act !== 'end-call') {
        if (telephone?.state(now) === 'talking')
          throw new Problem({
            status: 409,
            code: 'on-the-telephone',
            detail: 'your hand is at the telephone: say first that you will ring back',
          });
        return false;
      }
      if (!telephone) throw notHere(hand.act);
      try {
        if (hand.act === 'take-call') telephone.take(now);
        else telephone.end(now);
      } catch (error) {
        if (!(error instanceof RangeError)) throw error;
        throw new Problem({ status: 409, code: 'no-call', detail: error.message });
      }
      return true;
    },
    state: (): 'rings' | 'talking' | null => {
      const state = telephone?.state(seconds());
      return state === 'rings' || state === 'talking' ? state : null;
    },
  };
}

/** What the replay marks of a call: when it was taken and when it was over. */
export const handsAway = (away: readonly Away[]) =>
  away.flatMap(({ from, until }) => [
    { minutes: from / 60, what: 'take-call' },
    { minutes: until / 60, what: 'end-call' },
  ]);
