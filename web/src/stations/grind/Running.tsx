import { Pause, Play } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import type { BatchView, StepRecord } from '@wunsch/contract';
import { nibFatOf } from '@wunsch/core/beans';
import { gritAfterPasses, TOOL_REACH } from '@wunsch/core/grind';
import { Button } from '../../ui/Button.tsx';
import { KeptQuantity } from '../../ui/KeptQuantity.tsx';
import { Figure, Panel } from '../../ui/Panel.tsx';
import { useWords } from '../../words/words.tsx';
import {
  AddIngredient,
  bowlAt,
  BowlNotes,
  Figures,
  FlowLine,
  linesWith,
  useIngredients,
} from '../recipe/index.ts';
import { StepLines } from '../StepLedger.tsx';
import { balanceOf, useMachine, useWork } from '../work.ts';
import { ChargeCheck } from './ChargeCheck.tsx';
import { Checklist } from './Checklist.tsx';
import { DrawOff } from './DrawOff.tsx';
import { Curve, Stop } from './Forecast.tsx';
import { GritReading } from './GritReading.tsx';
import { Misread } from './Misread.tsx';
import { Unroasted } from './Unroasted.tsx';

/** A grind under way. */
export function Running({
  view,
  step,
  onConche,
}: {
  view: BatchView;
  step: StepRecord;
  onConche: (from: StepRecord) => Promise<void>;
}) {
  const words = useWords();
  const { t } = words;
  const ingredients = useIngredients();
  const grind = view.grind.find((g) => g.stepId === step.id);
  const [drawing, setDrawing] = useState(false);
  const { inMg } = balanceOf(view, step.id);
  const machine = useMachine(step.machineId);
  if (!grind) return null;
  const { lines: bowl, unknown } = bowlAt(view, step.id);
  const planned = view.recipe ? linesWith(view.recipe.lines, ingredients, nibFatOf(view.lot)) : null;
  const last = grind.readings.findLast((r) => !r.isMisread);
  return (
    <div className="grid items-start gap-2 lg:grid-cols-[1.5fr_1fr]">
      <div className="grid min-w-0 gap-2">
        <Panel
          title={
            machine ? (
              <Link to={`/machine/${machine.id}`} className="underline-offset-4 hover:underline">
                {machine.name}
              </Link>
            ) : (
              t('grind.chart')
            )
          }
          aside={<ChargeCheck machine={machine} massMg={inMg} />}
        >
          <div className="mb-2 flex flex-wrap gap-6">
            <Figure
              name={t('grind.hours')}
              note={grind.paused ? t('grind.paused') : undefined}
            >{`${words.number(grind.hours, 1)} h`}</Figure>
            <Figure name={t('grind.last')}>{last ? `${words.number(last.um)} µm` : '—'}</Figure>
            <Figure name={t('grind.charge')}>{words.mass(inMg)}</Figure>
          </div>
          {machine?.tool ? (
            <ToolPasses view={view} step={step} tool={machine.tool} passes={grind.passes} />
          ) : (
            <Curve grind={grind} />
          )}
        </Panel>
        <Unroasted view={view} step={step} />
        <Panel title={t('grind.additions')} aside={t(machine?.loud ? 'caution.loud' : 'caution.stones')}>
          <Checklist view={view} step={step} grind={grind} />
          <div className="mt-4">
            <AddIngredient
              view={view}
              step={step}
              suggest={[...ingredients.values()].find((i) => i.key === 'cocoa-butter')}
            />
          </div>
          <div className="mt-3">
            <StepLines view={view} step={step} />
          </div>
        </Panel>
      </div>
      <div className="grid gap-2">
        {!machine?.tool && (
          <Panel title={t('grind.stop')}>
            <Stop grind={grind} />
            <Misread view={view} step={step} grind={grind} />
            <StopControls view={view} step={step} />
          </Panel>
        )}
        <Panel title={t('grit')}>
          <GritReading view={view} step={step} />
        </Panel>
        <Button look="main" big onClick={() => setDrawing(true)} disabled={inMg === 0} data-key="w">
          {t('grind.draw-off')}
        </Button>
        <Button onClick={() => void onConche(step).catch(() => undefined)} disabled={inMg === 0}>
          {t('conche.here')}
        </Button>
        <Panel title={t('recipe.really')}>
          <Figures lines={bowl} compare={planned} name={view.recipe?.name} />
          <FlowLine lines={bowl} gritUm={last?.um ?? grind.aimUm} />
          <BowlNotes lines={bowl} unknown={unknown} />
        </Panel>
      </div>
      {drawing && <DrawOff view={view} step={step} handsOnMinutes={20} onClose={() => setDrawing(false)} />}
    </div>
  );
}

/** The aim, and stopping the stones. */
function StopControls({ view, step }: { view: BatchView; step: StepRecord }) {
  const { t } = useWords();
  const work = useWork(view);
  const grind = view.grind.find((g) => g.stepId === step.id)!;
  return (
    <div className="mt-3 flex flex-wrap items-end gap-2">
      <KeptQuantity
        label={t('grind.aim.set')}
        dimension="length"
        value={grind.aimUm}
        onKeep={(aimUm) => void work.details(step, { aimUm }).catch(() => undefined)}
        min={8}
        max={200}
        className="w-32"
      />
      <PauseButton view={view} step={step} paused={grind.paused} />
    </div>
  );
}

/** Stops the clock and starts it again, for a power cut or a night without noise. */
export function PauseButton({ view, step, paused }: { view: BatchView; step: StepRecord; paused: boolean }) {
  const { t } = useWords();
  const work = useWork(view);
  return (
    <Button
      icon={paused ? <Play size={16} aria-hidden="true" /> : <Pause size={16} aria-hidden="true" />}
      onClick={() =>
        void work
          .observe(step.id, { kind: paused ? 'resume' : 'pause' }, t(paused ? 'entry.resume' : 'entry.pause'))
          .catch(() => undefined)
      }
    >
      {t(paused ? 'grind.resume' : 'grind.pause')}
    </Button>
  );
}

/** Passes through a tool without stones, and what it can come to. */
function ToolPasses({
  view,
  step,
  tool,
  passes,
}: {
  view: BatchView;
  step: StepRecord;
  tool: keyof typeof TOOL_REACH;
  passes: number;
}) {
  const words = useWords();
  const { t } = words;
  const work = useWork(view);
  const reach = TOOL_REACH[tool];
  const now = gritAfterPasses(tool, passes);
  return (
    <div className="grid gap-3">
      <p className="max-w-prose">
        {t('tool.reach', {
          tool: t(`tool.${tool}`),
          low: reach.lowUm,
          high: reach.highUm,
          passes: reach.passes,
        })}{' '}
        {t(`tool.mouth.${reach.mouth}`)}
      </p>
      <Figure name={t('tool.passes', { n: passes })}>
        {passes > 0 ? t('tool.now', { low: words.number(now.lowUm), high: words.number(now.highUm) }) : '—'}
      </Figure>
      <Button
        className="justify-self-start"
        onClick={() =>
          void work
            .observe(
              step.id,
              { kind: 'pass', setting: null, minutes: null },
              t('done.pass', { n: passes + 1 }),
            )
            .catch(() => undefined)
        }
      >
        {t('pass.take')}
      </Button>
    </div>
  );
}
