import type { FaultView } from '@wunsch/contract';
import {
  ASKED_ONLY,
  CLUES,
  cluesOf,
  findingsOf,
  questionsLeft,
  rankCauses,
  settledBy,
  type Clue,
  type FaultTable,
  type Finding,
  type Sign,
} from '@wunsch/core/faults';
import type { Store } from '../store/store.ts';
import { batchView } from '../views/batchView.ts';
import { faultRecord } from './faultRecord.ts';
import { tableOf } from './faultTable.ts';

/** Causes that are told of beside each other. */
const TOLD = 6;

/** What may be asked where the record is silent: what a maker remembers of a day, and what only hands and eyes know. */
const ASKABLE: ReadonlySet<Clue> = new Set<Clue>([
  ...ASKED_ONLY,
  'mouldCold',
  'mouldWarm',
  'roomWarm',
  'roomDamp',
  'setCold',
  'outEarly',
  'stirStopped',
  'sugarLate',
  'concheShort',
  'concheLong',
  'smokeDried',
  'fermentShort',
  'fermentLong',
  'softFat',
  'waterIn',
]);

/** What the record and the answers say of a fault; ranks nothing while no sign is named. */
export function judgeFault(
  findings: readonly Finding[],
  seen: { signs: readonly Sign[]; clues: Partial<Record<Clue, boolean>> },
  table: FaultTable,
  learnedFrom: number,
): FaultView {
  const told = findings.map((f) => ({ ...f }));
  if (seen.signs.length === 0)
    return { findings: told, ranked: [], questions: [], settledBy: null, learnedFrom };
  // Whoever was asked knows better than a figure somebody forgot to correct.
  const clues = { ...cluesOf(findings), ...seen.clues };
  const known = { signs: seen.signs, clues };
  const askable = CLUES.filter((c) => ASKABLE.has(c));
  const ranked = rankCauses(known, table);
  const unknown = ranked.find((r) => r.cause === null)!;
  const first = ranked.slice(0, TOLD);
  return {
    findings: told,
    ranked: (first.includes(unknown) ? first : [...first, unknown]).map((r) => ({
      ...r,
      station: r.cause === null ? null : table.causes[r.cause].station,
    })),
    questions: questionsLeft(known, askable, table).map((q) => q.clue),
    settledBy: settledBy(known, table),
    learnedFrom,
  };
}

/** Judges a fault of a batch’s bars, or of a bar nobody knows the batch of. */
export async function faultsOf(
  store: Pick<Store, 'db' | 'yields' | 'runs' | 'now'>,
  batchId: string | null,
  seen: { signs: readonly Sign[]; clues: Partial<Record<Clue, boolean>>; code?: string },
): Promise<FaultView> {
  const { table, closed } = await tableOf(store.db);
  const findings =
    batchId === null
      ? []
      : findingsOf(await faultRecord(store.db, await batchView(store, batchId, store.now()), seen.code));
  return judgeFault(findings, seen, table, closed.length);
}
