import { and, asc, eq, isNotNull } from 'drizzle-orm';
import { CaseClose, CaseUpdate, CauseEstimatePut, type FaultTableView } from '@wunsch/contract';
import {
  CAUSES,
  FAULT_TABLE,
  learnTable,
  withEstimates,
  type CauseEstimate,
  type CauseId,
  type ClosedCase,
  type FaultTable,
} from '@wunsch/core/faults';
import type { Db } from '../db/database.ts';
import { causeEstimate, faultCase } from '../db/schema/index.ts';

/** Closed cases of the workshop that name a cause. */
async function closedCases(db: Db): Promise<ClosedCase[]> {
  const rows = await db
    .select({ facts: faultCase.facts, closing: faultCase.closing })
    .from(faultCase)
    .where(and(eq(faultCase.voided, false), isNotNull(faultCase.closing)));
  return rows.flatMap(({ facts, closing }) => {
    const known = CaseUpdate.safeParse(facts);
    const closed = CaseClose.safeParse(closing);
    if (!known.success || !closed.success || closed.data.cause === null || known.data.signs.length === 0)
      return [];
    return [{ cause: closed.data.cause, signs: known.data.signs, clues: closed.data.clues }];
  });
}

/** A cause’s estimate with who made it. */
interface OwnEstimate {
  estimate: CauseEstimate;
  by: string;
  at: string;
}

/** What the workshop thinks of causes: the last word on each that was not taken back. */
async function ownEstimates(db: Db): Promise<Map<CauseId, OwnEstimate>> {
  const rows = await db
    .select()
    .from(causeEstimate)
    .where(eq(causeEstimate.voided, false))
    .orderBy(asc(causeEstimate.seq));
  const own = new Map<CauseId, OwnEstimate>();
  for (const { by, at, ...row } of rows) {
    const known = CauseEstimatePut.safeParse(row);
    // A cause or clue of another release counts for nothing here, and spoils nothing.
    if (!known.success) continue;
    const { cause, estimate } = known.data;
    if (estimate === null) own.delete(cause);
    else own.set(cause, { estimate, by, at });
  }
  return own;
}

/** The causal table as it counts here, with the closed cases that moved it and what the workshop thinks. */
export async function tableOf(db: Db): Promise<{
  table: FaultTable;
  closed: ClosedCase[];
  own: ReadonlyMap<CauseId, OwnEstimate>;
}> {
  const [closed, own] = [await closedCases(db), await ownEstimates(db)];
  const said = withEstimates(Object.fromEntries([...own].map(([id, { estimate }]) => [id, estimate])));
  return { table: learnTable(closed, said), closed, own };
}

const priorsOf = (table: FaultTable) =>
  CAUSES.reduce((sum, id) => sum + table.causes[id].prior, table.unknown);

/** Figures side by side by name: all that is written, said or counts. */
function sideBySide<N extends string>(
  written: Partial<Record<N, number>>,
  own: Partial<Record<N, number>> | undefined,
  now: Partial<Record<N, number>>,
): { name: N; written: number | null; own: number | null; now: number }[] {
  const names = [...new Set([...Object.keys(now), ...Object.keys(own ?? {})])] as N[];
  return names
    .map((name) => ({ name, written: written[name] ?? null, own: own?.[name] ?? null, now: now[name] ?? 0 }))
    .sort((a, b) => b.now - a.now);
}

/** What the odds rest on, commonest cause first. */
export async function faultTableView(db: Db): Promise<FaultTableView> {
  const { table, closed, own } = await tableOf(db);
  const [all, written] = [priorsOf(table), priorsOf(FAULT_TABLE)];
  return {
    learnedFrom: closed.length,
    unknownShare: table.unknown / all,
    causes: CAUSES.map((cause) => {
      const [was, now, said] = [FAULT_TABLE.causes[cause], table.causes[cause], own.get(cause)];
      return {
        cause,
        station: now.station,
        cases: closed.filter((c) => c.cause === cause).length,
        share: now.prior / all,
        writtenShare: was.prior / written,
        prior: { written: was.prior, own: said?.estimate.prior ?? null, now: now.prior },
        signs: sideBySide(was.signs, said?.estimate.signs, now.signs),
        clues: sideBySide(was.clues, said?.estimate.clues, now.clues),
        by: said?.by ?? null,
        at: said?.at ?? null,
      };
    }).sort((a, b) => b.share - a.share),
  };
}
