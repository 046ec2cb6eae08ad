import { useSyncExternalStore } from 'react';
import type { Glass } from '@wunsch/contract';
import { useDoor } from '../../../shell/door.tsx';

/** Glasses whose cards are still on their way to the server count as tasted: nobody is asked twice for want of a network. */
export function useWithWaiting(
  glasses: readonly Glass[] | undefined,
  { seatId, isChoice }: { seatId: string | undefined; isChoice: boolean },
): { glasses: readonly Glass[] | undefined; waiting: number } {
  const { outbox } = useDoor();
  const list = useSyncExternalStore(outbox.subscribe, outbox.waiting);
  const mine = list
    .filter((e) => e.path.startsWith('/api/session-cards/') || e.path.startsWith('/api/guest/cards/'))
    .map((e) => e.body as { seatId?: string; round: number; place: number })
    .filter((b) => b.seatId === undefined || b.seatId === seatId);
  return {
    waiting: mine.length,
    glasses: glasses?.map((g) =>
      mine.some((b) => b.round === g.round && (isChoice || b.place === g.place)) ? { ...g, done: true } : g,
    ),
  };
}
