import { expose } from 'comlink';
import {
  analyseSession,
  answersNeeded,
  batchesOfBar,
  choicePower,
  type BatchesOfBar,
  type ForcedChoice,
  type OpenedSession,
  type PanelScore,
  type SessionAnalysis,
} from '@wunsch/core/taste';
import { adviseTrial, type Advice, type AdviceQuestion } from '@wunsch/core/dialIn';

const api = {
  /** The next trial of a lot. */
  advise: (question: AdviceQuestion): Advice => adviseTrial(question),
  analyse: (session: OpenedSession): SessionAnalysis => analyseSession(session),
  /** Batches of one bar against one of them. */
  bar: (rows: PanelScore[], against: { reference: string; margin: number }): BatchesOfBar =>
    batchesOfBar(rows, against),
  /** Chance of a forced choice to find what half of people can tell, and how many answers four of five cases need. */
  reach: (test: ForcedChoice, answers: number): { power: number; needed: number | null } => ({
    power: choicePower(test, answers, 0.5),
    needed: answersNeeded(test, 0.5),
  }),
};

/** What the taste worker answers. */
export type TasteWorker = typeof api;

expose(api);
