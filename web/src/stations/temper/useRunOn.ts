import type { BowlRunOn, StepRecord } from '@wunsch/contract';
import { useRead } from '../../shell/door.tsx';

/** How long a step’s bowl runs on after it is lifted, as its own logs tell; null for a bowl that has no figure of its own. */
export function useRunOn({ machineId }: Pick<StepRecord, 'machineId'>): BowlRunOn {
  return useRead<BowlRunOn>(machineId ? `/api/machines/${machineId}/run-on` : null).data ?? null;
}
