import { useState } from 'react';
import type { BatchView, ConcheView, ConchedBatchRecord, StepRecord } from '@wunsch/contract';
import { AIR_WAYS, likingByHours, type AirWay } from '@wunsch/core/conche';
import { useRead } from '../../shell/door.tsx';
import { SeriesChart } from '../../charts/SeriesChart.tsx';
import { Button } from '../../ui/Button.tsx';
import { Choice } from '../../ui/Field.tsx';
import { KeptQuantity } from '../../ui/KeptQuantity.tsx';
import { Figure, Panel } from '../../ui/Panel.tsx';
import { QuantityField } from '../../ui/QuantityField.tsx';
import { useWords } from '../../words/words.tsx';
import { StepLines } from '../StepLedger.tsx';
import { balanceOf, useMachine, useWork } from '../work.ts';
import { DrawOff } from './DrawOff.tsx';
import { PauseButton } from './Running.tsx';

/** A conche under way: sourness by the tongue, the hour at which the aim is met, and how long earlier ones were liked. */
export function Conching({ view, step }: { view: BatchView; step: StepRecord }) {
  const words = useWords();
  const { t } = words;
  const machine = useMachine(step.machineId);
  const conche = view.conche.find((c) => c.stepId === step.id);
  const [drawing, setDrawing] = useState(false);
  if (!conche) return null;
  const { inMg } = balanceOf(view, step.id);
  return (
    <div className="grid gap-2">
      <div className="grid items-start gap-2 lg:grid-cols-[1.5fr_1fr]">
        <Panel
          title={machine?.name ?? t('conche')}
          aside={t('conche.basis', { n: conche.tastings.length, runs: conche.runs })}
        >
          <div className="mb-2 flex flex-wrap gap-6">
            <Figure
              name={t('conche.hours')}
              note={conche.paused ? t('grind.paused') : undefined}
            >{`${words.number(conche.hours, 1)} h`}</Figure>
            <Figure name={t('conche.setting')}>
              {words.temperature(conche.celsius, 0)}, {t(`air.${conche.air}`)}
            </Figure>
          </div>
          <Curve conche={conche} />
        </Panel>
        <div className="grid content-start gap-2">
          <Panel title={t('conche.stop')}>
            <WhenMet conche={conche} />
            <Controls view={view} step={step} conche={conche} />
          </Panel>
          <Panel title={t('conche.taste')} aside={t('conche.taste.hint')}>
            <SournessPad view={view} step={step} />
          </Panel>
          <Button look="main" big onClick={() => setDrawing(true)} disabled={inMg === 0} data-key="w">
            {t('grind.draw-off')}
          </Button>
        </div>
      </div>
      <Liking />
      <Panel>
        <StepLines view={view} step={step} />
      </Panel>
      {drawing && <DrawOff view={view} step={step} handsOnMinutes={15} onClose={() => setDrawing(false)} />}
    </div>
  );
}

function Curve({ conche }: { conche: ConcheView }) {
  const words = useWords();
  const { t } = words;
  return (
    <SeriesChart
      label={t('conche.chart')}
      height={260}
      xTitle={t('unit.h')}
      yTitle={t('conche.sourness')}
      xFormat={(x) => `${words.number(x, x % 1 ? 1 : 0)} h`}
      yFormat={(y) => words.number(y, 1)}
      yMin={0}
      yMax={10}
      aim={{ y: conche.aim, name: t('conche.aim', { aim: words.number(conche.aim, 1) }) }}
      now={conche.hours}
      series={[
        {
          name: t('conche.tastings'),
          look: 'points',
          points: conche.tastings.map((x): [number, number] => [x.hours, x.score]),
        },
        {
          name: t('grind.expected'),
          look: 'forecast',
          points: conche.band.map((b): [number, number] => [b.hours, b.median]),
        },
      ]}
      ranges={[
        {
          name: t('range.80'),
          points: conche.band.map((b): [number, number, number] => [b.hours, b.low, b.high]),
        },
      ]}
    />
  );
}

function WhenMet({ conche }: { conche: ConcheView }) {
  const words = useWords();
  const { t } = words;
  if (!conche.aimAt)
    return (
      <p className="font-semibold text-bad">{t('conche.never', { aim: words.number(conche.aim, 1) })}</p>
    );
  return (
    <>
      <Figure
        name={t('conche.met', { aim: words.number(conche.aim, 1) })}
        note={t('grind.range', {
          low: words.when(conche.aimAt.low),
          high: conche.aimAt.high ? words.when(conche.aimAt.high) : t('grind.open-end'),
        })}
      >
        {words.when(conche.aimAt.at)}
      </Figure>
      {conche.chanceMet < 0.9 && (
        <p className="mt-1 text-[12.5px] text-ink-3">
          {t('conche.chance', { percent: words.chance(conche.chanceMet) })}
        </p>
      )}
      {conche.tastings.length === 0 && conche.runs === 0 && (
        <p className="mt-1 text-[12.5px] text-ink-3">{t('conche.usual')}</p>
      )}
    </>
  );
}

function Controls({ view, step, conche }: { view: BatchView; step: StepRecord; conche: ConcheView }) {
  const words = useWords();
  const { t } = words;
  const work = useWork(view);
  const [celsius, setCelsius] = useState<number | null>(conche.celsius);
  const set = (to: { celsius: number; air: AirWay }) =>
    void work
      .observe(
        step.id,
        { kind: 'concheSetting', ...to },
        t('done.conche-setting', { celsius: words.temperature(to.celsius, 0), air: t(`air.${to.air}`) }),
      )
      .catch(() => undefined);
  return (
    <div className="mt-3 grid gap-3">
      <Choice
        label={t('conche.air')}
        value={conche.air}
        onChange={(air: AirWay) => set({ celsius: conche.celsius, air })}
        options={AIR_WAYS.map((a) => ({ value: a, label: t(`air.${a}`) }))}
      />
      <form
        className="flex flex-wrap items-end gap-2"
        onSubmit={(e) => {
          e.preventDefault();
          if (celsius !== null) set({ celsius, air: conche.air });
        }}
      >
        <QuantityField
          label={t('conche.temperature')}
          dimension="temperature"
          value={celsius}
          onChange={setCelsius}
          min={20}
          max={110}
          className="w-32"
        />
        <Button type="submit" disabled={celsius === null || celsius === conche.celsius}>
          {t('conche.set')}
        </Button>
      </form>
      <div className="flex flex-wrap items-end gap-2">
        <KeptQuantity
          label={t('conche.aim.set')}
          dimension="number"
          value={conche.aim}
          onKeep={(sourAim) => void work.details(step, { sourAim }).catch(() => undefined)}
          min={0}
          max={10}
          className="w-32"
        />
        <PauseButton view={view} step={step} paused={conche.paused} />
      </div>
    </div>
  );
}

/** Eleven large keys: how sour it is now. */
function SournessPad({ view, step }: { view: BatchView; step: StepRecord }) {
  const words = useWords();
  const { t } = words;
  const work = useWork(view);
  return (
    <div role="group" aria-label={t('conche.taste')} className="grid grid-cols-6 gap-1.5">
      {Array.from({ length: 11 }, (_, score) => (
        <button
          key={score}
          type="button"
          onClick={() =>
            void work
              .observe(step.id, { kind: 'sourness', score, note: '' }, t('entry.sourness.of', { score }))
              .catch(() => undefined)
          }
          className="num min-h-12 rounded border border-edge bg-panel text-[17px] hover:bg-panel-2 active:bg-violet-tint"
        >
          {score}
        </button>
      ))}
    </div>
  );
}

/** Liking against conching hours over finished batches. */
export function Liking() {
  const words = useWords();
  const { t } = words;
  const { data } = useRead<ConchedBatchRecord[]>('/api/conches');
  const liking = likingByHours((data ?? []).map((b) => ({ hours: b.hours, liking: b.liking })));
  return (
    <Panel title={t('liking.title')} aside={t('liking.hint')}>
      {!liking.ok ? (
        <p className="text-ink-3">{t('liking.needs', { n: liking.needs })}</p>
      ) : (
        <>
          {liking.best && (
            <p className="mb-1 font-semibold">
              {t('liking.best', { hours: words.number(liking.best.hours), u: words.number(liking.best.u) })}
            </p>
          )}
          <SeriesChart
            label={t('liking.title')}
            height={200}
            xTitle={t('unit.h')}
            yTitle={t('liking')}
            xFormat={(x) => `${words.number(x)} h`}
            yFormat={(y) => words.number(y, 1)}
            yMin={0}
            yMax={10}
            series={[
              {
                name: t('liking'),
                look: 'points',
                points: liking.points.map((p): [number, number] => [p.hours, p.liking]),
              },
            ]}
          />
        </>
      )}
    </Panel>
  );
}
