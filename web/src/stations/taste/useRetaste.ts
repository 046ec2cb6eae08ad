import type { TastedBatch } from '@wunsch/contract';
import { KEEPING_MONTHS, bestBefore } from '@wunsch/core/mould';
import { retasteState, type RetasteState } from '@wunsch/core/taste';
import { useNow } from '../../shell/now.ts';
import { useSession } from '../../shell/session.tsx';

/** How long a batch’s bars keep, as printed or else by the workshop’s habit, and when they are to be tasted again. */
export function useRetaste(): {
  /** Epoch ms of its best-before day; null for what was never moulded. */
  keepsUntil: (batch: TastedBatch) => number | null;
  /** Null for what was never moulded. */
  stateOf: (batch: TastedBatch) => RetasteState | null;
} {
  const { workshop } = useSession();
  const now = useNow(3_600_000);
  const keepsUntil = (b: TastedBatch) => {
    if (b.madeAt === null) return null;
    // What stands on the bars counts, whatever the habit is now.
    if (b.bestBefore !== null) return Date.parse(b.bestBefore);
    const kind = b.kind as keyof typeof KEEPING_MONTHS;
    const months = workshop.keepingMonths[kind] ?? KEEPING_MONTHS[kind] ?? KEEPING_MONTHS.dark;
    return Date.parse(bestBefore(b.madeAt.slice(0, 10), months));
  };
  const stateOf = (b: TastedBatch) => {
    const bestBeforeAt = keepsUntil(b);
    if (bestBeforeAt === null || b.madeAt === null || bestBeforeAt <= Date.parse(b.madeAt)) return null;
    return retasteState(
      { madeAt: Date.parse(b.madeAt), bestBeforeAt, tastedAt: b.cards.map((c) => Date.parse(c.at)) },
      now,
    );
  };
  return { keepsUntil, stateOf };
}
