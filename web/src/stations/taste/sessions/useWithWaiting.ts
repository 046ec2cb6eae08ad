import { useEffect, useSyncExternalStore } from 'react';
import type { Glass } from '@wunsch/contract';
import { useDoor } from '../../../shell/door.tsx';
import type { OutboxEntry } from '../../../shell/outbox.ts';

/** The card an entry carries, where it is one of this seat's. */
function cardOf(entry: OutboxEntry, seatId: string | undefined): { round: number; place: number } | null {
  if (!entry.path.startsWith('/api/session-cards/') && !entry.path.startsWith('/api/guest/cards/'))
    return null;
  const body = entry.body as { seatId?: string; round: number; place: number };
  return body.seatId === undefined || body.seatId === seatId ? body : null;
}

/**
 * Glasses whose cards are still on their way to the server count as tasted, and so do those it has accepted before the glasses are read
 * again: nobody is asked twice for want of a network. `remember` takes the glasses as they are once a card was accepted.
 */
export function useWithWaiting(
  glasses: readonly Glass[] | undefined,
  {
    seatId,
    isChoice,
    remember,
  }: { seatId: string | undefined; isChoice: boolean; remember: (tasted: (g: Glass) => Glass) => void },
): { glasses: readonly Glass[] | undefined; waiting: number } {
  const { outbox } = useDoor();
  const list = useSyncExternalStore(outbox.subscribe, outbox.waiting);
  const markedBy =
    (cards: readonly { round: number; place: number }[]) =>
    (g: Glass): Glass =>
      cards.some((b) => b.round === g.round && (isChoice || b.place === g.place)) ? { ...g, done: true } : g;
  useEffect(() =>
    outbox.whenSent((entry) => {
      const card = cardOf(entry, seatId);
      if (card) remember(markedBy([card]));
    }),
  );
  const mine = list.map((e) => cardOf(e, seatId)).filter((c) => c !== null);
  return { waiting: mine.length, glasses: glasses?.map(markedBy(mine)) };
}
