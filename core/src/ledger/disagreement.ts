import {
  COUNTED_U,
  DEFAULT_SCALE_U_MG,
  ESTIMATED_LOSS_U,
  lossName,
  UNWEIGHED,
  usualLoss,
} from './defaults.ts';
import { movementsByStep, type Movement, type Step } from './movement.ts';
import { reconcile, type Reconciliation } from './reconcile.ts';

/** One measured or estimated mass that takes part in the reconciliation. */
export interface Entry {
  /** The movement it is, or null for a usual loss that nobody weighed. */
  movementId: string | null;
  stepId: string;
  label: string;
  massMg: number;
  uMg: number;
  reconciledMg: number;
  z: number;
}

/** What the weights of a batch say of each other. */
export interface Disagreement {
  entries: Entry[];
  result: Reconciliation;
  /** Step of the likeliest balance, named even when no entry can be. */
  likeliestStepId: string;
  /** Entries the slip lies in, if one group passes the limit, and how much each would have to change (mg). */
  suspects: { entry: Entry; shortByMg: number }[];
}

/** A linear combination of the problem's variables. */
type Combination = Map<number, number>;

interface Variable {
  movementId: string | null;
  stepId: string;
  label: string;
  value: number;
  u: number;
}

/**
 * Reconciles all closed steps of a batch. Each weighing is one variable, however often it is used: a
 * movement that took "all that was left" follows the weighings behind it. A loss that nobody weighed
 * enters as its usual share with that share's spread, each that is usual at a station and was not told. Steps whose output was itself taken from the
 * balance check nothing and are left out. Returns null when no step can be checked.
 */
export function findDisagreement(
  steps: readonly Step[],
  movements: readonly Movement[],
): Disagreement | null {
  const variables: Variable[] = [];
  const index = new Map<string, number>();
  const byStep = movementsByStep(movements);

  const variableOf = (m: Movement): Combination => {
    let at = index.get(m.id);
    if (at === undefined) {
      at = variables.length;
      index.set(m.id, at);
      const u = m.uMg && m.uMg > 0 ? m.uMg : unsaidU(m);
      const label = m.label ?? m.reason ?? m.material ?? m.direction;
      variables.push({ movementId: m.id, stepId: m.stepId, label, value: m.massMg, u });
    }
    return new Map([[at, 1]]);
  };

  // What was only guessed is as sure as its usual share, or as guesses are; what was counted, as its fills are even.
  const unsaidU = (m: Movement): number => {
    if (m.source === 'counted') return Math.max(DEFAULT_SCALE_U_MG, COUNTED_U * m.massMg);
    if (m.source !== 'estimated') return DEFAULT_SCALE_U_MG;
    const inMg = total((byStep.get(m.stepId) ?? []).filter((o) => o.direction === 'in'));
    const usual = m.direction === 'loss' ? usualLoss(lossName(m.reason ?? ''), inMg) : null;
    return Math.max(DEFAULT_SCALE_U_MG, usual?.uMg ?? ESTIMATED_LOSS_U * m.massMg);
  };

  const resolve = (m: Movement): Combination => {
    if (m.source !== 'derived') return variableOf(m);
    if (m.direction === 'in' && m.parcelId) {
      const produced = movements.filter((o) => o.direction === 'out' && o.parcelId === m.parcelId);
      const taken = movements.filter(
        (o) => o.direction === 'in' && o.parcelId === m.parcelId && o.id !== m.id,
      );
      const left = total(produced) - total(taken);
      if (produced.length > 0 && left === m.massMg && taken.every((t) => t.source !== 'derived')) {
        return combine([
          ...produced.map((p) => [resolve(p), 1] as const),
          ...taken.map((t) => [resolve(t), -1] as const),
        ]);
      }
    }
    if (m.direction === 'out') {
      const others = (byStep.get(m.stepId) ?? []).filter((o) => o.id !== m.id);
      return combine(others.map((o) => [resolve(o), o.direction === 'in' ? 1 : -1] as const));
    }
    return variableOf(m);
  };

  const rows: { stepId: string; row: Combination }[] = [];
  for (const step of steps) {
    if (step.status !== 'closed') continue;
    const lines = byStep.get(step.id) ?? [];
    const hasBothSides = lines.some((m) => m.direction === 'in') && lines.some((m) => m.direction === 'out');
    if (!hasBothSides || lines.some((m) => m.direction === 'out' && m.source === 'derived')) continue;
    const inMg = total(lines.filter((m) => m.direction === 'in'));
    const parts: (readonly [Combination, number])[] = [];
    for (const m of lines) {
      if (m.direction === 'loss' && m.source === 'derived') continue;
      parts.push([resolve(m), m.direction === 'in' ? 1 : -1]);
    }
    const remainder = lines.find((m) => m.direction === 'loss' && m.source === 'derived');
    const isTold = (name: string) =>
      lines.some(
        (m) => m.direction === 'loss' && m.source !== 'derived' && lossName(m.reason ?? '') === name,
      );
    const named = remainder && remainder.reason !== 'unexplained' ? lossName(remainder.reason!) : null;
    // Nothing is known of this loss: no check.
    if (named !== null && !isTold(named) && !usualLoss(named, inMg)) continue;
    for (const name of new Set([...(named === null ? [] : [named]), ...UNWEIGHED[step.station]])) {
      const usual = isTold(name) ? null : usualLoss(name, inMg);
      if (!usual) continue;
      variables.push({ movementId: null, stepId: step.id, label: name, value: usual.massMg, u: usual.uMg });
      parts.push([new Map([[variables.length - 1, 1]]), -1]);
    }
    rows.push({ stepId: step.id, row: combine(parts) });
  }
  const checking = rows.filter(({ row }) => row.size > 0);
  if (checking.length === 0) return null;

  const used = [...new Set(checking.flatMap(({ row }) => [...row.keys()]))].sort((a, b) => a - b);
  const result = reconcile({
    values: used.map((v) => variables[v]!.value),
    uncertainties: used.map((v) => variables[v]!.u),
    balances: checking.map(({ row }) => used.map((v) => row.get(v) ?? 0)),
  });
  const entries = used.map((v, i): Entry => {
    const { movementId, stepId, label, value, u } = variables[v]!;
    return {
      movementId,
      stepId,
      label,
      massMg: value,
      uMg: u,
      reconciledMg: result.reconciled[i]!,
      z: result.z[i]!,
    };
  });
  const suspects = (result.suspect?.members ?? []).map((member, i) => ({
    entry: entries[member]!,
    shortByMg: result.suspect!.perMember[i]!,
  }));
  return { entries, result, likeliestStepId: checking[result.likeliestBalance]!.stepId, suspects };
}

function total(movements: readonly Movement[]): number {
  return movements.reduce((sum, m) => sum + m.massMg, 0);
}

function combine(parts: readonly (readonly [Combination, number])[]): Combination {
  const sum: Combination = new Map();
  for (const [combination, factor] of parts) {
    for (const [key, value] of combination) {
      const next = (sum.get(key) ?? 0) + factor * value;
      if (next === 0) sum.delete(key);
      else sum.set(key, next);
    }
  }
  return sum;
}
