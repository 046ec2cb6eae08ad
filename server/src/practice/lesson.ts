import type { Person, PracticeHand, PracticeSaid, PracticeScore, Workshop } from '@wunsch/contract';
import type { PracticeLevel } from '@wunsch/core/trainer';
import { Problem } from '../http/problem.ts';
import type { Store } from '../store/store.ts';

/** What a lesson is begun with. */
export interface LessonSetting {
  store: Store;
  person: Person;
  workshop: Workshop;
  level: PracticeLevel;
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
