import { and, eq, inArray, isNotNull } from 'drizzle-orm';
import { carriedOver } from '@wunsch/core/grind';
import type { BarFacts } from '@wunsch/core/label';
import { reachBack, type LineageGraph } from '@wunsch/core/ledger';
import type { Db } from '../../db/database.ts';
import { step } from '../../db/schema/index.ts';
import { loadBefore } from '../../machines/before.ts';

/** Allergens that machines may have carried over into some bars, which do not hold them themselves: of each the last run there was. */
export async function loadCarriedOver(
  db: Db,
  { graph, parcelId, inIt }: { graph: LineageGraph; parcelId: string; inIt: readonly string[] },
): Promise<NonNullable<BarFacts['carriedOver']>> {
  const behind = [...reachBack(graph, [parcelId]).stepIds];
  if (behind.length === 0) return [];
  const runs = await db
    .select({ machineId: step.machineId, at: step.startedAt })
    .from(step)
    .where(
      and(
        inArray(step.id, behind),
        inArray(step.kind, ['grind', 'conche', 'temper']),
        isNotNull(step.machineId),
        eq(step.voided, false),
      ),
    );
  const before = await loadBefore(
    db,
    runs.map(({ machineId, at }) => ({ machineId: machineId!, at })),
  );
  const found = before.flatMap(({ machine, runs: earlier }) =>
    carriedOver(earlier, inIt).map((c) => ({ ...c, machine })),
  );
  const last = new Map<string, (typeof found)[number]>();
  for (const one of found.sort((a, b) => a.at.localeCompare(b.at))) last.set(one.allergen, one);
  return [...last.values()].map(({ allergen, machine, batchCode }) => ({
    allergen,
    machine,
    batchCode: batchCode ?? '',
  }));
}
