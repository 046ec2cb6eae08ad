import type { GrindView, ObservationRecord, StepRecord } from '@wunsch/contract';
import {
  batchFlow,
  ENTRY_STATION,
  findDisagreement,
  type BatchFlow,
  type Disagreement,
  type Material,
} from '@wunsch/core/ledger';
import { nextAction, type NextAction } from '@wunsch/core/plan';
import { planMinutes } from '@wunsch/core/roast';
import { linesInForce, type Bundle } from './bundle.ts';
import { grindView } from './grind.ts';
import { expectedYields, type PastYield } from './yields.ts';

/** What is known of a batch before its page is drawn. */
export interface AssembleInput {
  batch: { id: string; lotId: string; state: string; plannedMg: number | null; barMg: number };
  lotMaterial: Material;
  recipe: { beansShare: number; aimUm: number | null } | null;
  settings: { gritAimUm: number; gritEveryHours: number };
  bundle: Bundle;
  observations: readonly ObservationRecord[];
  tastings: number;
  past: readonly PastYield[];
  now: number;
  /** Whether the page shows the grinding band. */
  withBand: boolean;
}

/** A batch drawn together from the ledger and the clock. */
export interface Assembled {
  flow: BatchFlow;
  next: NextAction;
  grind: GrindView[];
  disagreement: Disagreement | null;
}

/** Draws one batch together: its ribbon, what comes next, its grinds, and weights that disagree. */
export function assemble(input: AssembleInput): Assembled {
  const { batch, bundle, observations, now } = input;
  const movements = linesInForce(bundle);
  const flow = batchFlow({
    steps: bundle.steps,
    movements,
    parcels: [...bundle.parcels.values()],
    plannedMg: batch.plannedMg,
    entry: ENTRY_STATION[input.lotMaterial],
    yields: expectedYields(input.past, batch.lotId, batch.id),
    additionRatio: additionRatio(input),
    barMg: batch.barMg,
    finished: batch.state !== 'open',
  });
  const lastGrind = bundle.steps.findLast((s) => s.station === 'grind');
  const grind = bundle.steps
    .filter((s) => s.station === 'grind')
    .map((step) =>
      grindView({
        step,
        movements: bundle.movements,
        observations,
        aimUm: input.recipe?.aimUm ?? input.settings.gritAimUm,
        now,
        withBand: input.withBand && (step.status === 'open' || step.id === lastGrind?.id),
      }),
    );
  const openGrind = grind.find((g) => bundle.steps.some((s) => s.id === g.stepId && s.status === 'open'));
  const roast = bundle.steps.find((s) => s.station === 'roast' && s.status === 'open');
  const next = nextAction(flow, {
    lastGritAt: openGrind ? (openGrind.readings.at(-1)?.at ?? openGrind.segmentStart) : null,
    gritEveryHours: input.settings.gritEveryHours,
    aimAt: openGrind?.forecast?.aimAt?.at ?? null,
    roastEndsAt: roast ? roastEnd(roast) : null,
    tastings: input.tastings,
  });
  return { flow, next, grind, disagreement: findDisagreement(bundle.steps, movements) };
}

function roastEnd(step: StepRecord): string | null {
  if (!step.details.plan) return null;
  return new Date(Date.parse(step.startedAt) + planMinutes(step.details.plan) * 60_000).toISOString();
}

/** Additions per mass of beans that the recipe plans. */
function additionRatio({ recipe }: AssembleInput): number | null {
  return recipe && recipe.beansShare > 0 ? 100 / recipe.beansShare - 1 : null;
}
