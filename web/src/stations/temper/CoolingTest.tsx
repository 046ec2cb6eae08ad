import { Upload } from 'lucide-react';
import { useMemo } from 'react';
import type { BatchView, StepRecord } from '@wunsch/contract';
import { thin, type TemperatureFile } from '@wunsch/core/readings';
import { coolingCurve, type CoolingCurve, type CurveLimits } from '@wunsch/core/temper';
import { SeriesChart, type Series } from '../../charts/SeriesChart.tsx';
import { useSession } from '../../shell/session.tsx';
import { FileButton, TABLES } from '../../ui/FileButton.tsx';
import { Chip, Panel } from '../../ui/Panel.tsx';
import { useWords } from '../../words/words.tsx';
import { CsvDialog } from '../CsvDialog.tsx';
import { useReadingsFile } from '../useReadingsFile.ts';
import { useWork } from '../work.ts';

/** Points of a sample that are kept; far more than its shape needs. */
const KEPT = 500;

type Points = readonly (readonly [number, number])[];

const VERDICT = { under: 'bad', good: 'ok', over: 'bad' } as const;

function judged(points: Points, limits: CurveLimits): CoolingCurve | null {
  try {
    return coolingCurve(
      points.map(([seconds, celsius]) => ({ seconds, celsius })),
      limits,
    );
  } catch {
    return null;
  }
}

/** The cooling-curve test: a sample's temperatures from a file, its slope where setting holds it up most, and earlier samples beside it. */
export function CoolingTest({ view, step }: { view: BatchView; step: StepRecord }) {
  const words = useWords();
  const { t } = words;
  const work = useWork(view);
  const { curveLevel: limits } = useSession().workshop;
  const { text, wrong, open, close } = useReadingsFile();
  const samples = useMemo(
    () =>
      view.observations.flatMap((o) =>
        o.data.kind === 'coolingCurve' && o.stepId !== null
          ? [{ id: o.id, here: o.stepId === step.id, at: o.at, points: o.data.points as Points }]
          : [],
      ),
    [view.observations, step.id],
  );
  const here = samples.filter((s) => s.here);
  const newest = here.at(-1);
  const curve = newest ? judged(newest.points, limits) : null;
  const take = async (file: TemperatureFile) => {
    const first = file.readings[0]?.seconds ?? 0;
    const kept = thin(
      file.readings.map((r) => ({ x: r.seconds - first, y: r.celsius })),
      KEPT,
    );
    await work.observe(
      step.id,
      { kind: 'coolingCurve', points: kept.map((p) => [p.x, Math.round(p.y * 100) / 100]) },
      t('curve.done'),
    );
  };
  const shown = words.degrees;
  const lineOf = (points: Points) => points.map(([s, c]): [number, number] => [s / 60, shown(c)]);
  const series: Series[] = [
    ...samples
      .filter((s) => s !== newest)
      .slice(-2)
      .map((s) => ({ name: words.when(s.at), points: lineOf(s.points), look: 'faint' as const })),
    ...(newest
      ? [{ name: t('curve.sample'), points: lineOf(newest.points), look: 'measured' as const }]
      : []),
  ];
  return (
    <Panel title={t('curve')} aside={t('curve.hint')}>
      {newest && (
        <>
          <p className="mb-2 flex flex-wrap items-center gap-2 text-[14px]">
            {curve ? (
              <>
                <Chip tone={VERDICT[curve.verdict]}>{t(`curve.${curve.verdict}`)}</Chip>
                <span className="num">
                  {t('curve.slope', {
                    slope: words.number(words.kelvin(curve.slope), 2),
                    unit: words.temperatureUnit,
                    celsius: words.temperature(curve.celsius),
                  })}
                </span>
              </>
            ) : (
              <span className="text-ink-2">{t('curve.none')}</span>
            )}
          </p>
          <SeriesChart
            label={t('curve')}
            height={200}
            xTitle={t('minutes')}
            yTitle={words.temperatureUnit}
            xFormat={(x) => words.number(x, 0)}
            yFormat={(y) => words.number(y, 1)}
            series={series}
            marks={curve ? [{ x: curve.seconds / 60, text: '' }] : []}
          />
        </>
      )}
      <FileButton
        label={t('curve.open')}
        accept={TABLES}
        icon={<Upload size={16} aria-hidden="true" />}
        onFile={open}
      />
      <p className="mt-1 text-[12px] text-ink-3">
        {t('curve.limits', {
          low: words.number(words.kelvin(limits.fallingBelow), 1),
          high: words.number(words.kelvin(limits.risingAbove), 1),
          unit: words.temperatureUnit,
        })}
      </p>
      {wrong && (
        <p role="alert" className="mt-1 text-[13.5px] text-bad">
          {wrong}
        </p>
      )}
      {text !== null && <CsvDialog text={text} onClose={close} onTake={take} />}
    </Panel>
  );
}
