import type { BatchView } from '@wunsch/contract';
import { individualsChart } from '@wunsch/core/ledger';
import { SeriesChart } from '../../charts/SeriesChart.tsx';
import { LeaveButton } from '../../ledger/stock/Leave.tsx';
import { Chip, Figure, Panel } from '../../ui/Panel.tsx';
import { useWords } from '../../words/words.tsx';
import { DoneSteps } from '../DoneSteps.tsx';
import { StationFrame } from '../StationFrame.tsx';
import { BalanceBar, CloseStep, StepLines } from '../StepLedger.tsx';
import { useStep } from '../useStep.ts';
import { WeighIn } from '../WeighIn.tsx';
import { WeighLoss, WeighOut } from '../WeighOut.tsx';
import { linesOf } from '../work.ts';
import { Passes } from './Passes.tsx';
import { PickedSample } from './PickedSample.tsx';
import { Separation } from './Separation.tsx';

/** This lot's nib yields, batch by batch, with limits once there are enough. */
export function YieldChart({ view }: { view: BatchView }) {
  const words = useWords();
  const { t } = words;
  const yields = view.yields.filter((y) => y.station === 'winnow');
  const chart = individualsChart(yields.map((y) => y.value * 100));
  const mine = yields.findIndex((y) => y.batchId === view.batch.id);
  const signal = chart.signals.find((s) => s.index === mine);
  if (yields.length === 0) return <p className="text-[13px] text-ink-3">{t('winnow.chart.none')}</p>;
  const level = (y: number) => yields.map((_, i): [number, number] => [i + 1, y]);
  return (
    <>
      <p className="mb-1 flex flex-wrap items-center gap-2 text-[12.5px] text-ink-3">
        {chart.limits
          ? t('winnow.chart.limits', {
              low: words.number(chart.limits.low, 1),
              high: words.number(chart.limits.high, 1),
            })
          : t('winnow.chart.few', { n: yields.length })}
        {signal && <Chip tone="bad">{t(`signal.${signal.kind}`)}</Chip>}
        {mine >= 0 && chart.limits && !signal && <Chip tone="ok">{t('signal.usual')}</Chip>}
      </p>
      <SeriesChart
        label={t('winnow.chart')}
        height={210}
        xTitle={t('winnow.chart.x')}
        yTitle="%"
        xFormat={(x) => yields[Math.round(x) - 1]?.batchCode ?? ''}
        yFormat={(y) => `${words.number(y, 1)} %`}
        counted
        series={[
          {
            name: t('winnow.nib-yield'),
            points: yields.map((y, i): [number, number] => [i + 1, y.value * 100]),
            look: 'points',
          },
          // The mean of one is that one.
          ...(yields.length > 1
            ? [{ name: t('winnow.mean'), points: level(chart.mean), look: 'faint' as const }]
            : []),
          ...(chart.limits
            ? [
                { name: t('winnow.high'), points: level(chart.limits.high), look: 'planned' as const },
                { name: t('winnow.low'), points: level(chart.limits.low), look: 'planned' as const },
              ]
            : []),
        ]}
      />
    </>
  );
}

function Winnowing({ view }: { view: BatchView }) {
  const words = useWords();
  const { t } = words;
  const { step, done, take, weighNow } = useStep(view, 'winnow');
  const weighIn = (
    <WeighIn
      key={step?.id ?? 'new'}
      view={view}
      station="winnow"
      title={t('winnow.in')}
      take={take}
      together
      startOpen={weighNow}
      main={!step && view.flow.stations.some((s) => s.station === 'winnow' && s.waitingMg > 0)}
    />
  );
  const lines = step ? linesOf(view, step.id) : [];
  const sum = (test: (m: (typeof lines)[number]) => boolean) =>
    lines.filter(test).reduce((total, m) => total + m.massMg, 0);
  const inMg = sum((m) => m.direction === 'in');
  const nibs = sum((m) => m.material === 'nibs' && m.direction === 'out');
  const huskMg = sum((m) => m.material === 'husk' && m.direction === 'out');
  // Samples are often picked after the step is closed.
  const checked = step ?? done.at(-1);
  const husk = view.parcels.filter((p) => p.material === 'husk' && p.remainingMg > 0);
  return (
    <div className="grid gap-2">
      <div className="grid gap-2 lg:grid-cols-[1.2fr_1fr]">
        {step ? (
          <Panel title={t('winnow.weigh')} aside={t('caution.dust')}>
            <div className="mb-4 flex flex-wrap gap-2">
              <WeighOut view={view} step={step} material="nibs" label={t('winnow.nibs')} main />
              <WeighOut view={view} step={step} material="husk" label={t('winnow.husk')} />
              <WeighOut view={view} step={step} material="fines" label={t('winnow.fines')} />
              <WeighLoss view={view} step={step} reason="sweepings" />
              {weighIn}
            </div>
            <BalanceBar view={view} step={step} />
            <div className="my-4 flex flex-wrap gap-6">
              <Figure name={t('winnow.nib-yield')}>
                {inMg > 0 && nibs > 0 ? words.percent(nibs / inMg) : '—'}
              </Figure>
              <Figure name={t('material.husk')}>
                {inMg > 0 && huskMg > 0 ? words.percent(huskMg / inMg) : '—'}
              </Figure>
              <Figure name={t('winnow.kept')}>
                {nibs > 0 && view.flow.startMg > 0 ? words.percent(nibs / view.flow.startMg) : '—'}
              </Figure>
            </div>
            <Passes view={view} step={step} />
            <p className="mb-3 text-[12.5px] text-ink-3">{t('winnow.hand')}</p>
            <CloseStep view={view} step={step} label={t('winnow.close')} />
          </Panel>
        ) : (
          <Panel title={t('winnow.begin')}>
            <p className="mb-4 max-w-prose text-[14px] text-ink-2">{t('winnow.begin.text')}</p>
            {weighIn}
          </Panel>
        )}
        <Panel title={t('winnow.chart')} aside={view.lot.name}>
          <YieldChart view={view} />
        </Panel>
      </div>
      {checked && <PickedSample view={view} step={checked} />}
      <Separation view={view} step={checked} />
      {husk.length > 0 && (
        <Panel title={t('winnow.by-products')}>
          <ul className="grid gap-2">
            {husk.map((p) => (
              <li key={p.id} className="flex flex-wrap items-center gap-3">
                <span className="num text-[18px]">{words.mass(p.remainingMg)}</span>
                <LeaveButton parcel={p} />
              </li>
            ))}
          </ul>
        </Panel>
      )}
      {step && (
        <Panel>
          <StepLines view={view} step={step} />
        </Panel>
      )}
      <DoneSteps view={view} steps={done} />
    </div>
  );
}

/** Crack and winnow: nibs, husk and fines, and how this yield stands to the lot's earlier ones. */
export default function WinnowPage() {
  return <StationFrame station="winnow">{(view) => <Winnowing view={view} />}</StationFrame>;
}
