import { useSearchParams } from 'react-router';
import type { BatchView, StepRecord } from '@wunsch/contract';
import { WORK_STATION, type WorkKind } from '@wunsch/core/ledger';
import { useDoor } from '../shell/door.tsx';
import type { OutboxEntry } from '../shell/outbox.ts';
import { stepsAt, useWork, type StepToBegin, type TakeIn } from './work.ts';

/** The step that a first weight begins which is still on its way, by the entries that wait: what follows goes into the same. */
function begunMeanwhile(waiting: readonly OutboxEntry[], batchId: string, kind: WorkKind): string | null {
  for (const { body } of waiting.toReversed()) {
    const { stepId, begins } = (body ?? {}) as {
      stepId?: string;
      begins?: { batchId: string; kind?: string };
    };
    if (stepId && begins?.batchId === batchId && begins.kind === kind) return stepId;
  }
  return null;
}

/** The open step of a batch at a station, and how material is weighed into it: the first weight begins it. */
export function useStep(
  view: BatchView,
  kind: WorkKind,
  fresh: () => Omit<StepToBegin, 'kind'> = () => ({}),
): { step: StepRecord | undefined; done: StepRecord[]; take: TakeIn; weighNow: boolean } {
  const work = useWork(view);
  const { outbox } = useDoor();
  const [search] = useSearchParams();
  const all = stepsAt(view, WORK_STATION[kind]);
  const step = all.findLast((s) => s.status === 'open');
  return {
    step,
    done: all.filter((s) => s.status === 'closed'),
    take: (...what) =>
      work.take(
        step?.id ?? begunMeanwhile(outbox.waiting(), view.batch.id, kind) ?? { kind, ...fresh() },
        ...what,
      ),
    weighNow: search.get('weigh') === '1' && !step,
  };
}
