import { useSearchParams } from 'react-router';
import type { BatchView, ConcheBegin, StepRecord } from '@wunsch/contract';
import { WORK_STATION, type WorkKind } from '@wunsch/core/ledger';
import { chosenStep } from '../shell/chosenStep.ts';
import { useDoor } from '../shell/door.tsx';
import type { OutboxEntry } from '../shell/outbox.ts';
import { stepsAt, useWork, type StepToBegin, type TakeIn } from './work.ts';

/** A conche is begun under the name of its step. */
const CONCHE = /^\/api\/conches\/([^/]+)$/;

/** The step that a first weight begins which is still on its way, by the entries that wait: what follows goes into the same. */
function begunMeanwhile(waiting: readonly OutboxEntry[], batchId: string, kind: WorkKind): string | null {
  for (const { path, body } of waiting.toReversed()) {
    const conche = CONCHE.exec(path)?.[1];
    if (conche && kind === 'conche' && (body as ConcheBegin).batchId === batchId) return conche;
    const { stepId, begins } = (body ?? {}) as {
      stepId?: string;
      begins?: { batchId: string; kind?: string };
    };
    if (stepId && begins?.batchId === batchId && begins.kind === kind) return stepId;
  }
  return null;
}

/** How chocolate is weighed into a conche at a machine: the first weight begins it. */
export function useTakeIntoConche(view: BatchView, machineId: string | null): TakeIn {
  const work = useWork(view);
  const { outbox } = useDoor();
  return (parcel, massMg, holdOverride, also) => {
    const begun = begunMeanwhile(outbox.waiting(), view.batch.id, 'conche');
    return begun
      ? work.take(begun, parcel, massMg, holdOverride, also)
      : work.conche({ machineId, parcel, massMg, ...(holdOverride && { holdOverride }) });
  };
}

/**
 * The open step of a batch at a station that the page is about, all that are open there, and how material is weighed into it: the first weight
 * begins it.
 */
export function useStep(
  view: BatchView,
  kind: WorkKind,
  fresh: () => Omit<StepToBegin, 'kind'> = () => ({}),
): {
  step: StepRecord | undefined;
  open: readonly StepRecord[];
  done: StepRecord[];
  take: TakeIn;
  weighNow: boolean;
} {
  const work = useWork(view);
  const { outbox } = useDoor();
  const [search] = useSearchParams();
  const all = stepsAt(view, WORK_STATION[kind]);
  const open = all.filter((s) => s.status === 'open');
  const step = chosenStep(open, search);
  return {
    step,
    open,
    done: all.filter((s) => s.status === 'closed'),
    take: (...what) =>
      work.take(
        step?.id ?? begunMeanwhile(outbox.waiting(), view.batch.id, kind) ?? { kind, ...fresh() },
        ...what,
      ),
    weighNow: search.get('weigh') === '1' && !step,
  };
}
