import { useMemo, useState } from 'react';
import type { BatchView, StepRecord } from '@wunsch/contract';
import {
  acidLeft,
  planLine,
  planMinutes,
  roastDose,
  splitLoads,
  stageAt,
  type RoastPlan,
} from '@wunsch/core/roast';
import { SeriesChart, type Series } from '../../charts/SeriesChart.tsx';
import { useNow } from '../../shell/now.ts';
import { Button } from '../../ui/Button.tsx';
import { SelectField } from '../../ui/Field.tsx';
import { Figure, Panel } from '../../ui/Panel.tsx';
import { WeightPad } from '../../ui/WeightPad.tsx';
import { useWords, type Words } from '../../words/words.tsx';
import { ReadingsInput } from '../ReadingsInput.tsx';
import { temperatures } from '../series.ts';
import { StationFrame } from '../StationFrame.tsx';
import { StepLines } from '../StepLedger.tsx';
import { useStep } from '../useStep.ts';
import { WeighIn } from '../WeighIn.tsx';
import { balanceOf, useMachines, useWork } from '../work.ts';
import { PlanEditor, usePlan } from './PlanEditor.tsx';

/** Cues a hand, nose or ear gives while roasting. */
const CUES = ['stirred', 'smells-baking', 'pops', 'shell-off'] as const;

function NextLoad({
  view,
  done,
  weighNow,
}: {
  view: BatchView;
  done: readonly StepRecord[];
  weighNow: boolean;
}) {
  const words = useWords();
  const { t } = words;
  const work = useWork(view);
  const machines = useMachines('roast');
  const last = done.at(-1)?.details.plan as RoastPlan | undefined;
  const [plan, setPlan] = usePlan(last);
  const [machineId, setMachineId] = useState<string | null>(null);
  const oven = machines.find((m) => m.id === (machineId ?? done.at(-1)?.machineId)) ?? machines[0];
  const waiting = view.flow.stations.find((s) => s.station === 'roast')!.waitingMg;
  const loads = oven?.maxMg ? splitLoads(waiting, oven.maxMg) : waiting > 0 ? [waiting] : [];
  const number = done.length + 1;
  return (
    <Panel
      title={t('roast.load.next', { n: number })}
      aside={
        loads.length > 0 ? t('roast.loads', { n: loads.length, mass: words.mass(loads[0]!) }) : undefined
      }
    >
      <p className="mb-3 max-w-prose text-[12.5px] text-ink-3">{t('caution.raw')}</p>
      {machines.length > 0 && (
        <SelectField
          label={t('roast.oven')}
          value={oven?.id ?? ''}
          onChange={(e) => setMachineId(e.target.value)}
          className="mb-3 max-w-sm"
        >
          {machines.map((m) => (
            <option key={m.id} value={m.id}>
              {m.name}
              {m.maxMg ? `, ${t('up-to', { mass: words.mass(m.maxMg) })}` : ''}
            </option>
          ))}
        </SelectField>
      )}
      <PlanEditor plan={plan} onPlan={setPlan} />
      <div className="mt-4 flex flex-wrap gap-2">
        <WeighIn
          view={view}
          station="roast"
          title={t('roast.in')}
          suggestMg={loads[0]}
          startOpen={weighNow}
          onStep={() =>
            work.open('roast', {
              machineId: oven?.id ?? null,
              details: {
                plan: { ...plan, stages: plan.stages.map((s) => ({ ...s, until: s.until ?? null })) },
                load: number,
                loads: number - 1 + Math.max(1, loads.length),
              },
            })
          }
        />
      </div>
    </Panel>
  );
}

function Load({
  view,
  step,
  earlier,
}: {
  view: BatchView;
  step: StepRecord;
  earlier: readonly StepRecord[];
}) {
  const words = useWords();
  const { t } = words;
  const work = useWork(view);
  const now = useNow(1000);
  const [out, setOut] = useState(false);
  const plan = step.details.plan as RoastPlan | undefined;
  const start = Date.parse(step.startedAt);
  const minutes = Math.max(0, (now - start) / 60_000);
  const bean = useMemo(() => temperatures(view, step, 'bean'), [view, step]);
  const oven = useMemo(() => temperatures(view, step, 'oven'), [view, step]);
  const { inMg } = balanceOf(view, step.id);
  const stage = plan ? stageAt(plan, minutes) : null;
  const total = plan ? planMinutes(plan) : null;
  const cues = view.observations.flatMap((o) =>
    o.stepId === step.id && o.data.kind === 'event'
      ? [{ x: (Date.parse(o.at) - start) / 60_000, text: words.word('event', o.data.name) }]
      : [],
  );
  const series = useMemo(
    () =>
      roastSeries({ plan, bean, oven, earlier: earlier.map((e) => temperatures(view, e, 'bean')), words }),
    [plan, bean, oven, earlier, view, words],
  );
  const finish = async (mg: number) => {
    await work.observe(step.id, { kind: 'event', name: 'beans-out', note: '' }, t('event.beans-out'));
    await work.make(step.id, 'roasted beans', mg);
    await work.close(step, 'moisture', Math.round(minutes < 180 ? minutes : 30));
  };
  return (
    <div className="grid gap-2">
      <div className="panel grid grid-cols-2 gap-px overflow-hidden bg-line lg:grid-cols-4">
        <div className="bg-panel p-3">
          <Figure name={t('roast.bean')}>
            {bean.length > 0 ? words.temperature(bean.at(-1)!.celsius) : '—'}
          </Figure>
        </div>
        <div className="bg-panel p-3">
          <Figure name={t('roast.stage.now')} note={stage?.stage.until ?? undefined}>
            {stage ? `${stage.stage.name} ${words.temperature(stage.stage.setC, 0)}` : t('roast.plan.over')}
          </Figure>
        </div>
        <div className="bg-panel p-3">
          <Figure name={t('roast.dose')} note={t('roast.dose.hint')}>
            {bean.length > 1 ? `${words.number(roastDose(bean), 1)} ${t('unit.min')}` : '—'}
          </Figure>
        </div>
        <div className="bg-violet p-3 text-white">
          <div className="text-[12px]">{total && minutes < total ? t('roast.out-in') : t('roast.since')}</div>
          <div className="num text-[26px] leading-tight">
            {words.duration(total && minutes < total ? (total - minutes) * 60 : minutes * 60)}
          </div>
          <div className="text-[12px]">
            {t('roast.load', { n: step.details.load ?? 1, of: step.details.loads ?? 1 })}
          </div>
        </div>
      </div>
      <Panel>
        <SeriesChart
          label={t('roast.chart')}
          series={series}
          xTitle={t('minutes')}
          yTitle={words.temperatureUnit}
          xFormat={(x) => words.number(x, x < 10 && x % 1 ? 1 : 0)}
          yFormat={(y) => words.number(y, 0)}
          height={290}
          marks={cues}
          xMax={Math.max(total ?? 0, (bean.at(-1)?.seconds ?? 0) / 60, 5)}
          now={total && minutes < total ? Math.round(minutes * 4) / 4 : null}
        />
        {bean.length > 1 && (
          <p className="text-[12.5px] text-ink-3">
            {t('roast.acid', { percent: words.percent(1 - acidLeft(bean), 0) })}
          </p>
        )}
        <div className="mt-2">
          <ReadingsInput view={view} step={step} place="bean" min={-10} max={260} />
        </div>
      </Panel>
      <div className="grid grid-cols-2 gap-2 lg:grid-cols-5">
        {CUES.map((cue, i) => (
          <Button
            key={cue}
            className="min-h-20 text-[16px]"
            {...(i === 0 && { 'data-key': 'm' })}
            onClick={() =>
              void work
                .observe(step.id, { kind: 'event', name: cue, note: '' }, words.word('event', cue))
                .catch(() => undefined)
            }
          >
            {words.word('event', cue)}
          </Button>
        ))}
        <Button
          look="main"
          className="col-span-2 min-h-20 text-[17px] lg:col-span-1"
          onClick={() => setOut(true)}
          disabled={inMg === 0}
          data-key="w"
        >
          {t('roast.out')}
        </Button>
      </div>
      <Panel>
        <StepLines view={view} step={step} />
      </Panel>
      {out && (
        <WeightPad
          title={t('roast.out')}
          description={t('roast.out.hint', { mass: words.mass(inMg) })}
          action={t('roast.out.action')}
          max={inMg}
          onWeight={finish}
          onClose={() => setOut(false)}
        />
      )}
    </div>
  );
}

function roastSeries({
  plan,
  bean,
  oven,
  earlier,
  words,
}: {
  plan: RoastPlan | undefined;
  bean: { seconds: number; celsius: number }[];
  oven: { seconds: number; celsius: number }[];
  earlier: { seconds: number; celsius: number }[][];
  words: Words;
}): Series[] {
  const { t } = words;
  const shown = (celsius: number) => (words.temperatureUnit === '°F' ? celsius * 1.8 + 32 : celsius);
  const line = (points: { seconds: number; celsius: number }[]) =>
    points.map((p): [number, number] => [p.seconds / 60, shown(p.celsius)]);
  const series: Series[] = [
    { name: t('roast.series.bean'), points: line(bean), look: bean.length < 4 ? 'points' : 'measured' },
  ];
  if (plan)
    series.push({
      name: t('roast.series.plan'),
      points: planLine(plan).map((p): [number, number] => [p.minutes, shown(p.celsius)]),
      look: 'planned',
    });
  if (oven.length > 0) series.push({ name: t('roast.series.oven'), points: line(oven), look: 'machine' });
  earlier
    .filter((e) => e.length > 1)
    .slice(-2)
    .forEach((e, i) =>
      series.push({ name: `${t('roast.series.earlier')} ${i + 1}`, points: line(e), look: 'edge' }),
    );
  return series;
}

/** Loads that are out: their weights, loss and dose; those without readings can still take a file. */
function DoneLoads({ view, steps }: { view: BatchView; steps: readonly StepRecord[] }) {
  const words = useWords();
  const { t } = words;
  if (steps.length === 0) return null;
  return (
    <Panel title={t('roast.done')} className="mt-2">
      <ul className="grid gap-3">
        {steps.map((s, i) => {
          const { inMg, wantedMg } = balanceOf(view, s.id);
          const bean = temperatures(view, s, 'bean');
          return (
            <li key={s.id} className="border-b border-line pb-2">
              <div className="flex flex-wrap gap-x-6 gap-y-1">
                <Figure
                  name={t('roast.load.n', { n: s.details.load ?? i + 1 })}
                  note={words.when(s.startedAt)}
                >
                  {words.mass(inMg)}
                </Figure>
                <Figure name={t('out')}>{words.mass(wantedMg)}</Figure>
                <Figure name={t('roast.lost')}>{inMg > 0 ? words.percent(1 - wantedMg / inMg) : '—'}</Figure>
                <Figure name={t('roast.dose')}>
                  {bean.length > 1 ? `${words.number(roastDose(bean), 1)} ${t('unit.min')}` : '—'}
                </Figure>
              </div>
              <details>
                <summary className="min-h-8 cursor-pointer text-[12.5px] text-ink-3">
                  {t('roast.load.more')}
                </summary>
                <StepLines view={view} step={s} />
                <div className="mt-2">
                  <ReadingsInput view={view} step={s} place="bean" min={-10} max={260} />
                </div>
                {bean.length > 1 && (
                  <SeriesChart
                    label={t('roast.chart')}
                    series={roastSeries({
                      plan: s.details.plan as RoastPlan | undefined,
                      bean,
                      oven: temperatures(view, s, 'oven'),
                      earlier: [],
                      words,
                    })}
                    xTitle={t('minutes')}
                    yTitle={words.temperatureUnit}
                    xFormat={(x) => words.number(x)}
                    yFormat={(y) => words.number(y)}
                    height={240}
                  />
                )}
              </details>
            </li>
          );
        })}
      </ul>
    </Panel>
  );
}

function Roasting({ view }: { view: BatchView }) {
  const { step, done, weighNow } = useStep(view, 'roast');
  return (
    <>
      {step ? (
        <Load view={view} step={step} earlier={done} />
      ) : (
        <NextLoad key={done.length} view={view} done={done} weighNow={weighNow} />
      )}
      <DoneLoads view={view} steps={done} />
    </>
  );
}

/** The roast room: loads by a plan of stages, temperatures by hand or file, beans out. */
export default function RoastPage() {
  return <StationFrame station="roast">{(view) => <Roasting view={view} />}</StationFrame>;
}
