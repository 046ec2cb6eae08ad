import { Download, GitCompareArrows } from 'lucide-react';
import { useMemo } from 'react';
import { Link } from 'react-router';
import type { BatchView, StepRecord } from '@wunsch/contract';
import { beansOwn, doubtsLoss, roastDose, thinReadings, type RoastPlan } from '@wunsch/core/roast';
import { Doubt } from '../../ui/Doubt.tsx';
import { Panel } from '../../ui/Panel.tsx';
import { Table } from '../../ui/Table.tsx';
import { useWords } from '../../words/words.tsx';
import { ReadingsInput } from '../ReadingsInput.tsx';
import { temperatures } from '../series.ts';
import { StepLines } from '../StepLedger.tsx';
import { balanceOf, useMachine } from '../work.ts';
import { lossText } from './lossText.ts';
import { eventsOf } from './model.ts';
import { RoastChart } from './RoastChart.tsx';
import { useExpectedLosses } from './useBeans.ts';
import { useOvenLearning } from './useRoastModel.ts';

/** Loads that are out: weights, loss against what the model expected, dose; each with its line, its weights and its file. */
export function DoneLoads({ view, steps }: { view: BatchView; steps: readonly StepRecord[] }) {
  const words = useWords();
  const { t } = words;
  const machine = useMachine(steps.at(-1)?.machineId);
  const learning = useOvenLearning(machine);
  const losses = useExpectedLosses(
    view.lot,
    machine,
    learning,
    steps.map((s) => s.id),
  );
  const rows = useMemo(
    () =>
      steps.map((step, i) => {
        const { inMg, wantedMg } = balanceOf(view, step.id);
        const bean = temperatures(view, step, 'bean');
        const plan = step.details.plan as RoastPlan | undefined;
        const own = beansOwn(bean).readings;
        return {
          step,
          number: step.details.load ?? i + 1,
          inMg,
          outMg: wantedMg,
          bean,
          plan,
          lost: inMg > 0 ? 1 - wantedMg / inMg : null,
          expected: losses.get(step.id) ?? null,
          dose: own.length > 1 ? roastDose(own) : null,
          peak: own.length > 0 ? Math.max(...own.map((b) => b.celsius)) : null,
        };
      }),
    [steps, view, losses],
  );
  if (steps.length === 0) return null;
  const odd = rows.filter(
    (r) => r.lost !== null && r.lost >= 0 && r.expected !== null && doubtsLoss(r.lost, r.expected),
  );
  return (
    <Panel
      title={t('roast.done')}
      className="mt-2"
      aside={
        <Link
          to={`/roast/compare?ids=${steps.map((s) => s.id).join(',')}`}
          className="inline-flex min-h-11 items-center gap-2 font-semibold text-ink underline underline-offset-4"
        >
          <GitCompareArrows size={17} aria-hidden="true" />
          {t('roast.compare')}
        </Link>
      }
    >
      <Table
        caption={t('roast.done')}
        rows={rows}
        keyOf={(r) => r.step.id}
        columns={[
          {
            id: 'n',
            title: t('roast.load.title'),
            cell: (r) => <span className="num text-[16px]">{r.number}</span>,
          },
          { id: 'when', title: t('when'), cell: (r) => words.when(r.step.startedAt) },
          { id: 'in', title: t('roast.massIn'), numeric: true, cell: (r) => words.mass(r.inMg) },
          { id: 'out', title: t('roast.massOut'), numeric: true, cell: (r) => words.mass(r.outMg) },
          {
            id: 'lost',
            title: t('roast.lost'),
            numeric: true,
            cell: (r) => (r.lost === null ? '—' : words.percent(r.lost)),
          },
          {
            id: 'expected',
            title: t('roast.lost.expected'),
            numeric: true,
            cell: (r) =>
              r.expected === null ? (
                '—'
              ) : (
                <span className="whitespace-nowrap">{lossText(r.expected, words)}</span>
              ),
          },
          {
            id: 'peak',
            title: t('roast.peak'),
            numeric: true,
            cell: (r) => (r.peak === null ? '—' : words.temperature(r.peak, 0)),
          },
          {
            id: 'dose',
            title: t('roast.dose'),
            numeric: true,
            cell: (r) => (r.dose === null ? '—' : `${words.number(r.dose, 1)} ${t('unit.min')}`),
          },
        ]}
      />
      {odd.map((r) => (
        <Doubt key={r.step.id} className="my-2">
          {t('roast.lost.odd', {
            n: r.number,
            lost: words.percent(r.lost!),
            range: lossText(r.expected!, words),
          })}
        </Doubt>
      ))}
      {rows.map((r) => (
        <details key={r.step.id} className="border-t border-line pt-1">
          <summary className="min-h-9 cursor-pointer py-1 text-[13px] text-ink-2">
            {t('roast.load.n.more', { n: r.number })}
          </summary>
          <StepLines view={view} step={r.step} />
          {r.bean.length > 1 && (
            <>
              <RoastChart
                label={t('roast.chart')}
                plan={r.plan}
                bean={r.bean}
                oven={temperatures(view, r.step, 'oven')}
                earlier={rows
                  .filter((o) => o !== r && o.bean.length > 1)
                  .map((o) => thinReadings(o.bean, 120))}
                now={null}
                marks={eventsOf(view.observations, r.step.id)
                  .filter((e) => e.name !== 'beans-out')
                  .map((e) => ({
                    seconds: (Date.parse(e.at) - Date.parse(r.step.startedAt)) / 1000,
                    text: words.word('event', e.name),
                  }))}
                height={280}
              />
              <a
                href={`/api/steps/${r.step.id}/readings.csv`}
                download={`${view.batch.code}-load-${r.number}.csv`}
                className="inline-flex min-h-11 items-center gap-2 font-semibold underline underline-offset-4"
              >
                <Download size={16} aria-hidden="true" />
                {t('csv.export')}
              </a>
            </>
          )}
          <ReadingsInput view={view} step={r.step} place="bean" min={-10} max={260} />
        </details>
      ))}
    </Panel>
  );
}
