import { isConche } from '../conche/index.ts';
import type { Chain } from './chain.ts';
import type { PlanMachine, PlanStage } from './room.ts';
import { familyOf } from './setUp.ts';

/** Stages of grinding and conching, in the order of the work. */
export const TURNING: readonly PlanStage[] = ['load', 'grind', 'draw', 'fill', 'conche', 'empty'];

/** Greatest waits, minutes: a charge goes in the same day, chocolate turns on until somebody comes. */
const MOST_WAIT = { in: 10 * 60, out: 48 * 60 };

/** Whether a machine takes a charge, give or take what a scale does. */
const takes = (m: PlanMachine, mg: number) =>
  (m.maxMg ?? Infinity) >= mg * 0.98 && (m.minMg ?? 0) <= mg * 1.02;

/**
 * Grinding, and conching where it is on the way: in the same grinder with the pressure off, or in a machine of its own where one takes the charge.
 * In, by itself, and out again, each machine held from the one to the other.
 *
 * @param stages those that are still to come
 * @param before what comes before; answers with what the rest comes after
 */
export function turn(chain: Chain, stages: readonly PlanStage[], before: readonly string[]): string[] {
  const isConched = stages.includes('conche');
  const mg = chain.batch.massOf('grind');
  // A charge that no conche takes stays in its grinder.
  const apart = chain.machines('grind', (m) => isConche(m) && takes(m, mg));
  const fitting = chain.machines('grind', (m) => !isConche(m) && takes(m, mg));
  const grinders = fitting.length > 0 ? fitting : chain.machines('grind', (m) => !isConche(m));
  let last = [...before];
  // What is already out of the grinder, or conches, needs a machine for that only.
  if (stages.includes('grind')) {
    const isTogether = isConched && apart.length === 0;
    const of = stages.filter((s) => TURNING.indexOf(s) <= TURNING.indexOf('draw'));
    last = oneTurn(
      chain,
      isTogether ? [...of.filter((s) => s !== 'draw'), 'conche', 'empty'] : of,
      grinders,
      last,
    );
    if (isTogether || !isConched) return last;
  }
  const of = stages.filter((s) => TURNING.indexOf(s) >= TURNING.indexOf('fill'));
  const conches = apart.length > 0 ? apart : chain.machines('grind', isConche);
  return oneTurn(chain, of, conches.length > 0 ? conches : grinders, last);
}

/** In, by itself, and out of one machine. */
function oneTurn(
  chain: Chain,
  stages: readonly PlanStage[],
  machines: readonly string[],
  before: readonly string[],
): string[] {
  const { batch, running } = chain;
  const isHere =
    running !== null &&
    running.machineId !== null &&
    running.kind === stages[0] &&
    chain.has(running.machineId);
  const oneOf = isHere ? [running.machineId!] : machines;
  const id = `${batch.key}/bowl/${stages[0]}`;
  const hold = oneOf.length > 0 ? { id, oneOf } : null;
  let last = [...before];
  let first: string | null = null;
  for (const stage of stages) {
    const isAlone = stage === 'grind' || stage === 'conche';
    const key = chain.add(stage, 1, 1, { hold, runsOn: isAlone });
    const isFirst = first === null;
    if (isAlone) chain.after(last, key, 0, isFirst ? undefined : 0);
    else if (stage === 'load') chain.after(last, key, 0, isWeighed(last) ? MOST_WAIT.in : undefined);
    else if (stage === 'fill') chain.after(last, key, 0, MOST_WAIT.in);
    else chain.after(last, key, 0, MOST_WAIT.out);
    first ??= key;
    last = [key];
  }
  if (hold && first) chain.hold({ ...hold, from: first, to: last[0]!, family: familyOf(batch.ran) });
  return last;
}

/** Whether what came before is a recipe weighed in the same plan. */
const isWeighed = (before: readonly string[]) => before.some((b) => b.includes('/recipe/'));
