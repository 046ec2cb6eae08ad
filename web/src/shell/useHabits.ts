import { mutate } from 'swr';
import type { WorkshopPut } from '@wunsch/contract';
import { useWords } from '../words/words.tsx';
import { useSession } from './session.tsx';
import { useEntryHere } from './useEntryHere.ts';

/** Changes some of the workshop’s habits and leaves the others as they are; refused where somebody else has changed them meanwhile. */
export function useHabits(): (part: Partial<WorkshopPut>) => Promise<unknown> {
  const { t } = useWords();
  const send = useEntryHere();
  const { version, createdAt: _, ...habits } = useSession().workshop;
  return (part) =>
    send({
      path: '/api/workshop',
      body: { ...habits, ...part },
      ifMatch: version,
      label: t('done.settings'),
    }).then(() => mutate('/api/session'));
}
