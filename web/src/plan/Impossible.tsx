import type { PlanRoomView } from '@wunsch/contract';
import { PLAN_STAGES, type PlanStage } from '@wunsch/core/plan';
import { FaultBox } from '../ui/FaultBox.tsx';
import { useWords, type Words } from '../words/words.tsx';

/** A step as the planner names it: its batch, its stage, its part. */
const STEP = new RegExp(`(\\S+)/(${PLAN_STAGES.join('|')})/\\d+`, 'g');

/** So many steps are named. */
const NAMED = 3;

/** Steps a refusal of the planner names, as people call them: batch and stage, each once. */
export function stepsIn(message: string, room: PlanRoomView, t: Words['t']): string[] {
  const nameOf = (batch: string) => {
    const code = room.batches.find((b) => b.id === batch)?.code;
    if (code) return code;
    const [, recipeId, lotId] = batch.split(':');
    return [
      room.recipes.find((r) => r.id === recipeId)?.name ?? '',
      room.lots.find((l) => l.id === lotId)?.code ?? '',
    ]
      .filter(Boolean)
      .join(' ');
  };
  const found = [...message.matchAll(STEP)].map(([, batch, stage]) =>
    `${nameOf(batch!)} ${t(`plan.stage.${stage as PlanStage}`)}`.trim(),
  );
  return [...new Set(found)];
}

/** That something cannot be planned: which steps find no time, and what may stand in their way. */
export function Impossible({
  room,
  problem,
  className = '',
}: {
  room: PlanRoomView;
  problem: Error;
  className?: string;
}) {
  const { t } = useWords();
  const nothing = problem.name === 'NothingToMakeOf' ? /^(\d+) [^:]*: (.*)$/.exec(problem.message) : null;
  const steps = stepsIn(problem.message, room, t);
  const named = steps.slice(0, NAMED).join(', ');
  return (
    <FaultBox role="alert" className={className}>
      {nothing
        ? t('plan.impossible.nothing', { n: Number(nothing[1]), recipe: nothing[2]! })
        : steps.length === 0
          ? t(problem.name === 'NoPlan' ? 'plan.impossible.there' : 'plan.impossible', {
              why: problem.message,
            })
          : t('plan.impossible.steps', {
              n: steps.length,
              steps: named,
              more: steps.length - Math.min(NAMED, steps.length),
            })}
    </FaultBox>
  );
}
