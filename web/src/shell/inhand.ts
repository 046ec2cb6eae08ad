import { useMatches } from 'react-router';
import { useSyncExternalStore } from 'react';
import type { BatchView } from '@wunsch/contract';
import { useRead } from './door.tsx';
import { useBench } from './session.tsx';

const KEY = 'wunsch.in-hand';
const listeners = new Set<() => void>();

/** Takes a batch in hand: the slip shows it until another is taken. */
export function takeInHand(batchId: string): void {
  if (localStorage.getItem(KEY) === batchId) return;
  localStorage.setItem(KEY, batchId);
  listeners.forEach((l) => l());
}

/** The batch in hand: the one in the address, else the one last taken, else the first in flight. */
export function useInHand(): string | null {
  const matches = useMatches();
  const stored = useSyncExternalStore(
    (l) => {
      listeners.add(l);
      return () => listeners.delete(l);
    },
    () => localStorage.getItem(KEY),
  );
  const { data } = useBench();
  // A practice's batch is in nobody's hand outside.
  const isPractice = matches.some((m) => m.params.practiceId);
  const inAddress = isPractice ? undefined : matches.map((m) => m.params.batchId).find(Boolean);
  if (inAddress) return inAddress;
  if (stored && (!data || data.batches.some((b) => b.id === stored))) return stored;
  return data?.batches[0]?.id ?? null;
}

/** Everything about a batch, shared by the slip and the pages. */
export function useBatch(id: string | null) {
  return useRead<BatchView>(id ? `/api/batches/${id}` : null, { keepPreviousData: false });
}
