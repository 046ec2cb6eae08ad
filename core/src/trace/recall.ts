import { isWork } from '../ledger/index.ts';
import type { EndGone, EndHere, Forward } from './forward.ts';
import type { TraceGraph } from './graph.ts';

/** Names of losses behind which nobody knows where the thing is. */
export const UNACCOUNTED: ReadonlySet<string> = new Set([
  'unexplained',
  'mislaid',
  'stolen',
  'miscounted',
  'other',
]);

/** Words of destinations that are no customers. */
const GIVEN: ReadonlySet<string> = new Set(['gift', 'sample', 'eaten']);
const WASTED: ReadonlySet<string> = new Set(['waste', 'broken']);

/** How something went that left: to a customer by name, over the counter, given away, or thrown away. */
export function goneAs(
  destination: string,
  customerId: string | null,
): 'delivered' | 'sold' | 'given' | 'broken' {
  if (customerId !== null) return 'delivered';
  if (GIVEN.has(destination)) return 'given';
  return WASTED.has(destination) ? 'broken' : 'sold';
}

/** What became of something a count did not find, by the reason that was given. */
export function lostAs(reason: string): 'missing' | 'given' | 'broken' {
  if (UNACCOUNTED.has(reason)) return 'missing';
  return reason === 'eaten' ? 'given' : 'broken';
}

/** Bars by where they are. */
export interface BarsAccount {
  made: number;
  here: number;
  /** With customers that are known by name. */
  delivered: number;
  /** Sold without a name. */
  sold: number;
  /** Given away, eaten, tasted. */
  given: number;
  /** Broken, wasted, melted again. */
  broken: number;
  /** Nobody knows. */
  missing: number;
}

/** What was traced by where it is, mg of it; not rounded. */
export interface MassAccount {
  rootMg: number;
  hereMg: number;
  inProcessMg: number;
  goneMg: number;
  /** Lost under a name that says how: moisture, dust, husk, hold-up … */
  lostMg: number;
  missingMg: number;
}

/** What a recall must know: what is affected, how much of it is accounted for, and who is to be told. */
export interface Recall {
  bars: BarsAccount;
  mass: MassAccount;
  /** Share of the bars whose whereabouts are known, 0 to 1; null where none were made. */
  barsKnown: number | null;
  /** Share of the mass whose whereabouts are known, 0 to 1. */
  massKnown: number;
  /** What is on hand, in order of place. */
  here: EndHere[];
  /** Parcels of {@link here} that are not set aside yet. */
  toSetAside: string[];
  /** Customers by name, most first, with every line that went to them. */
  customers: { customerId: string; name: string; count: number; massMg: number; lines: EndGone[] }[];
  /** Gone to nobody by name, by word, most first. */
  nameless: { destination: string; count: number; massMg: number }[];
  /** Batches reached: their ids and codes. */
  batches: { id: string; code: string }[];
  /** Where something is missing. */
  missing: {
    batchCode: string | null;
    stepId: string;
    reason: string;
    count: number | null;
    contentMg: number;
  }[];
}

/** Compares words as people sort them; made once, since thousands of them are sorted. */
const byWord = new Intl.Collator('en').compare;

/** Reckons a recall from a trace forward. */
export function recallOf(graph: TraceGraph, forward: Forward): Recall {
  const bars: BarsAccount = { made: 0, here: 0, delivered: 0, sold: 0, given: 0, broken: 0, missing: 0 };
  for (const stepId of forward.steps.keys()) {
    const { kind } = graph.steps.get(stepId)!;
    for (const line of graph.lines.get(stepId) ?? []) {
      const n = line.material === 'bars' ? (line.count ?? 0) : 0;
      if (n === 0) continue;
      if (line.direction === 'out' && (isWork(kind) || kind === 'receive')) bars.made += n;
      // Melted again, for a filling as well, or broken at the last look: what went in and did not come out as bars.
      if (line.direction === 'in' && (isWork(kind) || kind === 'prepare')) bars.broken += n;
      if (kind === 'wrap' || kind === 'part') bars.broken += line.direction === 'in' ? n : -n;
      if (kind === 'write-off' && line.direction === 'in') bars.broken += n;
    }
  }
  // Bars that are traced themselves, and not what they were made of.
  for (const stepId of forward.makers.keys())
    for (const line of graph.lines.get(stepId) ?? [])
      if (line.direction === 'out' && line.material === 'bars' && forward.parcels.has(line.parcelId ?? ''))
        bars.made += line.count ?? 0;
  // Found by counting: they had been taken for missing, or were never counted.
  for (const [id, lines] of graph.lines)
    if (graph.steps.get(id)?.kind === 'count')
      for (const line of lines)
        if (line.direction === 'out' && line.material === 'bars' && forward.parcels.has(line.parcelId ?? ''))
          bars.missing -= line.count ?? 0;
  const isBars = (parcel: { material: string } | null) => parcel?.material === 'bars';
  for (const end of forward.here) if (isBars(end.parcel)) bars.here += end.count ?? 0;
  for (const end of forward.gone) {
    if (!isBars(end.parcel)) continue;
    bars[goneAs(end.destination, end.customerId)] += end.count ?? 0;
  }
  for (const end of forward.lost) {
    if (end.step.kind !== 'count') continue;
    bars[lostAs(end.reason)] += Math.abs(end.count ?? 0);
  }
  const missingLosses = forward.lost.filter((l) => UNACCOUNTED.has(l.reason));
  const sum = (ends: readonly { contentMg: number }[]) => ends.reduce((t, e) => t + e.contentMg, 0);
  const mass: MassAccount = {
    rootMg: forward.rootMg,
    hereMg: sum(forward.here),
    inProcessMg: sum(forward.inProcess),
    goneMg: sum(forward.gone),
    lostMg: sum(forward.lost) - sum(missingLosses),
    missingMg: sum(missingLosses),
  };
  const customers = new Map<string, Recall['customers'][number]>();
  const nameless = new Map<string, Recall['nameless'][number]>();
  for (const end of forward.gone) {
    if (end.customerId) {
      const of = customers.get(end.customerId) ?? {
        customerId: end.customerId,
        name: end.destination,
        count: 0,
        massMg: 0,
        lines: [],
      };
      customers.set(end.customerId, of);
      of.count += end.count ?? 0;
      of.massMg += end.massMg;
      of.lines.push(end);
    } else {
      const of = nameless.get(end.destination) ?? { destination: end.destination, count: 0, massMg: 0 };
      nameless.set(end.destination, of);
      of.count += end.count ?? 0;
      of.massMg += end.massMg;
    }
  }
  const batches = new Map<string, string>();
  for (const id of [...forward.makers.keys(), ...forward.steps.keys()]) {
    const step = graph.steps.get(id)!;
    if (step.batchId) batches.set(step.batchId, step.batchCode ?? '');
  }
  const most = (a: { count: number; massMg: number }, b: { count: number; massMg: number }) =>
    b.count - a.count || b.massMg - a.massMg;
  return {
    bars,
    mass,
    barsKnown: bars.made > 0 ? Math.min(1, 1 - Math.max(0, bars.missing) / bars.made) : null,
    massKnown: forward.rootMg > 0 ? 1 - mass.missingMg / forward.rootMg : 1,
    here: [...forward.here].sort((a, b) => byWord(a.parcel.place, b.parcel.place) || b.massMg - a.massMg),
    toSetAside: forward.here.filter((h) => !h.parcel.onHold).map((h) => h.parcel.id),
    customers: [...customers.values()].sort(most),
    nameless: [...nameless.values()].sort(most),
    batches: [...batches].map(([id, code]) => ({ id, code })).sort((a, b) => byWord(a.code, b.code)),
    missing: missingLosses
      .filter((l) => l.contentMg > 0)
      .map((l) => ({
        batchCode: l.step.batchCode,
        stepId: l.step.id,
        reason: l.reason,
        count: l.count === null ? null : Math.abs(l.count),
        contentMg: l.contentMg,
      }))
      .sort((a, b) => (b.count ?? 0) - (a.count ?? 0) || b.contentMg - a.contentMg),
  };
}
