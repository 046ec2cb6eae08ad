import { useSearchParams } from 'react-router';
import type { BatchView, StepRecord } from '@wunsch/contract';
import { WORK_STATION, type WorkKind } from '@wunsch/core/ledger';
import { stepsAt, useWork, type StepToBegin, type TakeIn } from './work.ts';

/** The open step of a batch at a station, and how material is weighed into it: the first weight begins it. */
export function useStep(
  view: BatchView,
  kind: WorkKind,
  fresh: () => Omit<StepToBegin, 'kind'> = () => ({}),
): { step: StepRecord | undefined; done: StepRecord[]; take: TakeIn; weighNow: boolean } {
  const work = useWork(view);
  const [search] = useSearchParams();
  const all = stepsAt(view, WORK_STATION[kind]);
  const step = all.findLast((s) => s.status === 'open');
  return {
    step,
    done: all.filter((s) => s.status === 'closed'),
    take: (...what) => work.take(step?.id ?? { kind, ...fresh() }, ...what),
    weighNow: search.get('weigh') === '1' && !step,
  };
}
