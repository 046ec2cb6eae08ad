import { useSearchParams } from 'react-router';
import type { BatchView, StepRecord } from '@wunsch/contract';
import { WORK_STATION, type WorkKind } from '@wunsch/core/ledger';
import { stepsAt, useWork } from './work.ts';

/** The open step of a batch at a station, and a way to it that opens one when there is none. */
export function useStep(
  view: BatchView,
  kind: WorkKind,
  fresh: () => { machineId?: string | null; details?: object } = () => ({}),
): { step: StepRecord | undefined; done: StepRecord[]; ensure: () => Promise<string>; weighNow: boolean } {
  const work = useWork(view);
  const [search] = useSearchParams();
  const all = stepsAt(view, WORK_STATION[kind]);
  const step = all.findLast((s) => s.status === 'open');
  return {
    step,
    done: all.filter((s) => s.status === 'closed'),
    ensure: () => (step ? Promise.resolve(step.id) : work.open(kind, fresh())),
    weighNow: search.get('weigh') === '1' && !step,
  };
}
