import type { PracticeScore } from '@wunsch/contract';
import type { Person, Workshop } from '@wunsch/contract';
import type { BowlPlace, PracticeLevel } from '@wunsch/core/trainer';
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
  /** Puts the bowl somewhere else, where the lesson has one. */
  put?: (place: BowlPlace) => void;
  /** What it comes to as it stands; final once the learner has ended the step. */
  score: () => Promise<PracticeScore>;
}
