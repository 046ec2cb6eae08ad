import { expose } from 'comlink';
import {
  analyseSession,
  answersNeeded,
  choicePower,
  type ForcedChoice,
  type OpenedSession,
  type SessionAnalysis,
} from '@wunsch/core/taste';

const api = {
  analyse: (session: OpenedSession): SessionAnalysis => analyseSession(session),
  /** Chance of a forced choice to find what half of people can tell, and how many answers four of five cases need. */
  reach: (test: ForcedChoice, answers: number): { power: number; needed: number | null } => ({
    power: choicePower(test, answers, 0.5),
    needed: answersNeeded(test, 0.5),
  }),
};

/** What the taste worker answers. */
export type TasteWorker = typeof api;

expose(api);
