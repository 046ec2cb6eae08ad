import type { ConcheView, GrindView, ObservationRecord, StepRecord } from '@wunsch/contract';
import {
  batchFlow,
  ENTRY_STATION,
  findDisagreement,
  isWork,
  stepBalance,
  type BatchFlow,
  type Disagreement,
  type Material,
  type Movement,
  type Step,
  type WorkKind,
} from '@wunsch/core/ledger';
import { nextAction, type NextAction, type RunClock } from '@wunsch/core/plan';
import { COUNTS_AS } from '@wunsch/core/recipe';
import { planMinutes } from '@wunsch/core/roast';
import { linesInForce, type Bundle } from './bundle.ts';
import type { Learned } from '../machines/runs.ts';
import { concheView, grindView } from './grind.ts';
import { remember } from './remember.ts';
import { expectedYields, type PastYield } from './yields.ts';

/** What is known of a batch before its page is drawn. */
export interface AssembleInput {
  batch: {
    id: string;
    lotId: string;
    state: string;
    plannedMg: number | null;
    barMg: number;
    route: readonly WorkKind[];
  };
  lotMaterial: Material;
  recipe: {
    beansShare: number;
    aimUm: number | null;
    lines?: readonly { ingredientId: string; massMg: number }[];
  } | null;
  settings: { gritAimUm: number; gritEveryHours: number };
  bundle: Bundle;
  observations: readonly ObservationRecord[];
  isTasted: boolean;
  past: readonly PastYield[];
  learned: Learned;
  now: number;
  /** Where the workshop's morning is; asked for only where a grind is drawn that runs. */
  timeZone?: string;
  /** Whether the page shows the grinding band. */
  withBand: boolean;
}

/** A batch drawn together from the ledger and the clock. */
export interface Assembled {
  flow: BatchFlow;
  next: NextAction;
  grind: GrindView[];
  conche: ConcheView[];
  disagreement: Disagreement | null;
}

/** Weights do not change with the clock: those of an open batch are reconciled once, not at every look at the Bench. */
const disagreementOf = remember(200, (weighed: { steps: Step[]; movements: Movement[] }) =>
  findDisagreement(weighed.steps, weighed.movements),
);

/** A step without its details, which say nothing of weights. */
const bare = ({ id, batchId, station, status, startedAt, endedAt }: StepRecord): Step => ({
  id,
  batchId,
  station,
  status,
  startedAt,
  endedAt,
});

/** Draws one batch together: its ribbon, what comes next, its grinds, and weights that disagree. */
export function assemble(input: AssembleInput): Assembled {
  const { batch, bundle, observations, now } = input;
  const steps = bundle.steps.filter((s) => isWork(s.kind));
  const workOf = new Map(steps.map((s) => [s.id, s.kind as WorkKind]));
  const movements = linesInForce(bundle).filter((m) => workOf.has(m.stepId));
  const flow = batchFlow({
    steps,
    movements,
    parcels: [...bundle.parcels.values()].map((p) => ({
      ...p,
      ...(p.stepId !== null && { madeBy: workOf.get(p.stepId) }),
    })),
    plannedMg: batch.plannedMg,
    entry: ENTRY_STATION[input.lotMaterial],
    yields: expectedYields(input.past, batch.lotId, batch.id),
    additionRatio: additionRatio(input),
    lateRatio: lateRatio(input),
    barMg: batch.barMg,
    route: batch.route,
    finished: batch.state !== 'open',
    tasted: input.isTasted,
  });
  const grinds = bundle.steps.filter((s) => s.kind === 'grind');
  const conches = bundle.steps.filter((s) => s.kind === 'conche');
  const drawn = (step: StepRecord, of: readonly StepRecord[]) =>
    input.withBand && (step.status === 'open' || step.id === of.at(-1)?.id);
  const grind = grinds.map((step) =>
    grindView({
      step,
      lines: bundle.movements
        .filter((m) => m.stepId === step.id && m.direction === 'in' && m.inForce)
        .map((m) => ({ at: m.at, fat: m.facts.ingredient?.fat ?? null })),
      observations,
      aimUm: input.recipe?.aimUm ?? input.settings.gritAimUm,
      prior: input.learned.prior(step.machineId),
      now,
      withBand: drawn(step, grinds),
      timeZone: input.timeZone ?? 'UTC',
    }),
  );
  const conche = conches.map((step) =>
    concheView({
      step,
      observations,
      acidRates: input.learned.acidRates(batch.lotId),
      now,
      withBand: drawn(step, conches),
    }),
  );
  const next = nextAction(flow, {
    now: new Date(now).toISOString(),
    runs: steps.filter((s) => s.status === 'open').flatMap((s) => runClock(s, { bundle, grind, conche })),
    gritEveryHours: input.settings.gritEveryHours,
    tastings: input.isTasted ? 1 : 0,
    isOver: batch.state === 'void' || batch.state === 'abandoned',
    isFinished: batch.state === 'finished',
    stillToWeighIn: lacksIngredients(input),
  });
  return { flow, next, grind, conche, disagreement: disagreementOf({ steps: steps.map(bare), movements }) };
}

/** What an open step's clock says; nothing of one that is not at a machine. */
function runClock(
  step: Bundle['steps'][number],
  { bundle, grind, conche }: Pick<Assembled, 'grind' | 'conche'> & { bundle: Bundle },
): RunClock[] {
  const run = { stepId: step.id, machine: step.machineName, massMg: leftInside(bundle, step.id) };
  const ground = grind.find((g) => g.stepId === step.id);
  const conched = conche.find((c) => c.stepId === step.id);
  if (ground)
    return [
      {
        ...run,
        kind: 'grind',
        lastGritAt: ground.readings.at(-1)?.at ?? ground.segmentStart,
        nextGritAt: ground.forecast?.nextReading?.at ?? null,
        aimAt: ground.forecast?.aimAt?.at ?? null,
      },
    ];
  if (conched)
    return [
      {
        ...run,
        kind: 'conche',
        lastTastedAt: conched.tastings.at(-1)?.at ?? null,
        aimAt: conched.aimAt?.at ?? null,
      },
    ];
  if (step.kind === 'roast') return [{ ...run, kind: 'roast', endsAt: roastEnd(step) }];
  return step.kind === 'temper' ? [{ ...run, kind: 'temper' }] : [];
}

/** What has gone into an open step and has not come out of it yet, mg. */
export function leftInside({ movements }: Pick<Bundle, 'movements'>, stepId: string): number {
  const lines = movements.filter((m) => m.stepId === stepId && m.inForce);
  return Math.max(0, stepBalance(lines).differenceMg);
}

/** Of a batch's open steps, the last begun first, the one its next thing is about: the one it names, else the first at that station, else any. */
export function stepMeant<T extends { id: string; station: string }>(
  open: readonly T[],
  { station, at }: Pick<NextAction, 'station' | 'at'>,
): T | null {
  return open.find((s) => s.id === at?.stepId) ?? open.find((s) => s.station === station) ?? open[0] ?? null;
}

function roastEnd(step: StepRecord): string | null {
  if (!step.details.plan) return null;
  return new Date(Date.parse(step.startedAt) + planMinutes(step.details.plan) * 60_000).toISOString();
}

/** Lines of a recipe of which nothing has gone in at some steps. */
function missingLines(
  recipe: NonNullable<AssembleInput['recipe']>,
  bundle: Bundle,
  stepIds: ReadonlySet<string>,
) {
  const lines = bundle.movements.filter((m) => m.inForce && m.direction === 'in' && stepIds.has(m.stepId));
  const inside = new Set(lines.map((m) => m.ingredientId));
  // Nibs come from the ledger, not off the shelf, and so may butter that was bought or pressed: each stands for one of what is missing.
  const fromLots = new Set(
    lines.flatMap((m) => (!m.ingredientId && m.material ? (COUNTS_AS[m.material] ?? []) : [])),
  );
  const missing = (recipe.lines ?? []).filter((l) => l.massMg > 0 && !inside.has(l.ingredientId));
  return { missing, fromLots };
}

/** Whether the recipe names ingredients off the shelf that the open bowl has not got yet. */
function lacksIngredients({ recipe, bundle }: AssembleInput): boolean {
  const open = bundle.steps.findLast((s) => s.kind === 'recipe' && s.status === 'open');
  if (!open || !recipe) return false;
  const { missing, fromLots } = missingLines(recipe, bundle, new Set([open.id]));
  return missing.length > fromLots.size;
}

/**
 * What the grinder still waits for where the bowl was closed without it, such as sugar that goes in once it runs: mass per mass of cacao. Nothing
 * once a grind is over.
 */
function lateRatio({ recipe, bundle }: AssembleInput): number {
  const weighed = bundle.steps.filter((s) => s.kind === 'recipe');
  const grinds = bundle.steps.filter((s) => s.kind === 'grind');
  const isUnderWay = weighed.length > 0 || grinds.length > 0;
  const isOver = grinds.length > 0 && !grinds.some((s) => s.status === 'open');
  if (!recipe?.lines || recipe.beansShare <= 0 || !isUnderWay || isOver) return 0;
  if (weighed.some((s) => s.status === 'open')) return 0;
  const { missing, fromLots } = missingLines(
    recipe,
    bundle,
    new Set([...weighed, ...grinds].map((s) => s.id)),
  );
  const whole = recipe.lines.reduce((sum, l) => sum + l.massMg, 0);
  const cacaoMg = whole * (recipe.beansShare / 100);
  // The cacao itself is the line that is as much of the recipe as its beans are; what else came from lots is rather little.
  const byLikeness = missing.toSorted((a, b) => Math.abs(a.massMg - cacaoMg) - Math.abs(b.massMg - cacaoMg));
  const others = fromLots.size > 0 ? byLikeness.slice(1) : byLikeness;
  const late = others
    .toSorted((a, b) => b.massMg - a.massMg)
    .slice(0, others.length - Math.max(0, fromLots.size - 1));
  return late.reduce((sum, l) => sum + l.massMg, 0) / cacaoMg;
}

/** Additions per mass of beans that the recipe plans. */
function additionRatio({ recipe }: AssembleInput): number | null {
  return recipe && recipe.beansShare > 0 ? 100 / recipe.beansShare - 1 : null;
}
