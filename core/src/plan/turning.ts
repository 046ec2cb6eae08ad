import { isConche } from '../conche/index.ts';
import { familyOf } from '../grind/index.ts';
import { shareOf, type Chain } from './chain.ts';
import type { PlanMachine, PlanRoom, PlanStage } from './room.ts';
import { stageTime } from './times.ts';

/** Stages of grinding and conching, in the order of the work. */
export const TURNING: readonly PlanStage[] = ['load', 'grind', 'draw', 'fill', 'conche', 'empty'];

/** Greatest waits, minutes: a charge goes in the same day, chocolate turns on until somebody comes. */
const MOST_WAIT = { in: 10 * 60, out: 48 * 60 };

/** What fills a machine, and what is done right before it. */
const FILLING: readonly (readonly [PlanStage, PlanStage])[] = [
  ['load', 'recipe'],
  ['fill', 'draw'],
];

/** Time for breaks and errands on a morning before a machine runs, and the shortest a machine is worth starting for, minutes. */
const ERRANDS = 90;
const SHORTEST = 120;

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
  const timeOn = (of: readonly string[], stage: PlanStage) =>
    stageTime(stage, batch.massOf(stage) / 1e6, chain.room, of.length === 1 ? of[0]! : null);
  // What may run the night through goes before what has to stand still.
  const most = Math.max(0, ...stages.filter(isAlone).map((s) => timeOn(machines, s).minutes));
  const through = machines.filter((m) => spellOf(chain.room, m) >= most);
  const oneOf = isHere ? [running.machineId!] : through.length > 0 ? through : machines;
  // A spell is so long that it may begin the day it is filled, by hands that were at it since morning; where no day is long enough, it waits.
  const filling = FILLING.filter(([stage]) => stages.includes(stage)).flatMap(([stage, before]) =>
    [before, stage].map((s) => timeOn(oneOf, s).minutes),
  );
  const spells = oneOf.map((m) => spellOf(chain.room, m, filling));
  const isSameDay = spells.every((s) => s >= SHORTEST);
  const spell = Math.min(Infinity, ...(isSameDay ? spells : oneOf.map((m) => spellOf(chain.room, m))));
  const id = `${batch.key}/bowl/${stages[0]}`;
  const isCounted = oneOf.length > 0 && (!isHere || chain.fills(running.machineId!));
  const hold = isCounted ? { id, oneOf } : null;
  let last = [...before];
  let first: string | null = null;
  let isOn = false;
  for (const stage of stages) {
    const time = timeOn(oneOf, stage);
    const isRunning = first === null && running?.kind === stage;
    const mayPause = isAlone(stage) && !isRunning && time.minutes > spell;
    const parts = mayPause ? Math.ceil(time.minutes / Math.max(5, spell - 5)) : 1;
    const minutes = shareOf(time, parts);
    const key = chain.add(stage, 1, parts, { hold, runsOn: isAlone(stage), isWhole: true, minutes });
    const isFirst = first === null;
    if (isAlone(stage))
      chain.after(last, key, 0, isFirst || (mayPause && (isOn || !isSameDay)) ? undefined : 0);
    else if (stage === 'load') chain.after(last, key, 0, isWeighed(last) ? MOST_WAIT.in : undefined);
    else if (stage === 'fill') chain.after(last, key, 0, MOST_WAIT.in);
    else chain.after(last, key, 0, MOST_WAIT.out);
    first ??= key;
    last = [key];
    isOn = isAlone(stage);
    // It stands still until it may be heard again.
    for (let part = 2; part <= parts; part += 1) {
      const on = chain.add(stage, part, parts, { hold, runsOn: true, isWhole: true, minutes });
      chain.after(last, on);
      last = [on];
    }
  }
  if (hold && first) chain.hold({ ...hold, from: first, to: last[0]!, family: familyOf(batch.ran) });
  return last;
}

/** Whether a stage goes on by itself. */
const isAlone = (stage: PlanStage) => stage === 'grind' || stage === 'conche';

/**
 * Longest a machine may run without standing still, minutes: what is loud, for the hours of a day in which it may be heard and, where somebody
 * has to fill it first, they have been there so long.
 */
function spellOf(
  { machines, loudHours, people, week }: PlanRoom,
  id: string,
  filling: readonly number[] = [],
): number {
  const isLoud = machines.find((m) => m.id === id)?.loud ?? false;
  if (!isLoud || !loudHours) return Infinity;
  const [from, to] = loudHours;
  if (filling.length === 0) return to - from;
  const days = people.flatMap((p) => (p.week ?? week).filter((day) => day.length > 0));
  const comes = Math.max(0, ...days.map((day) => day[0]![0]));
  const goes = Math.min(1440, ...days.map((day) => day.at(-1)![1]));
  // Where nobody is there any more when it may be heard, it is filled the day before.
  return goes < from ? 0 : to - Math.max(from, comes + filling.reduce((a, b) => a + b, ERRANDS));
}

/** Whether what came before is a recipe weighed in the same plan. */
const isWeighed = (before: readonly string[]) => before.some((b) => b.includes('/recipe/'));
