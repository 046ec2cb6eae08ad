import type { BatchView, StepRecord } from '@wunsch/contract';
import { useKept } from '../../shell/useKept.ts';
import { useWords } from '../../words/words.tsx';
import { useWork } from '../work.ts';

/** Bars weighed one by one while they are filled, not yet kept. */
export interface FillWeights {
  /** In the order they were weighed, mg. */
  weights: readonly number[];
  /** After how many of them the fill was changed. */
  changes: readonly number[];
  set: (weights: readonly number[], changes: readonly number[]) => void;
  /** Keeps them as one sample against what a bar is to weigh; nothing where none were weighed. */
  keep: (nominalMg: number) => Promise<void>;
}

/** What is weighed at a moulding; it waits on the device until it is kept. */
export function useFillWeights(view: BatchView, step: StepRecord): FillWeights {
  const { t } = useWords();
  const work = useWork(view);
  const [kept, setKept, forget] = useKept<Pick<FillWeights, 'weights' | 'changes'>>(`fillOf.${step.id}`);
  const weights = kept?.weights ?? [];
  const changes = kept?.changes ?? [];
  return {
    weights,
    changes,
    set: (w, c) => setKept({ weights: w, changes: c }),
    keep: async (nominalMg) => {
      if (weights.length === 0) return;
      await work.observe(
        step.id,
        {
          kind: 'fillSample',
          nominalMg,
          weightsMg: [...weights],
          changes: changes.filter((c) => c < weights.length),
        },
        t('fill.done'),
      );
      forget();
    },
  };
}
