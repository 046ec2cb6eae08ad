import { DRY_TARGET, type DryForecast } from '@wunsch/core/ferment';
import { SeriesChart } from '../../charts/SeriesChart.tsx';
import { useWords } from '../../words/words.tsx';

/** Moistures by weighing, and how they are expected to go on; hours since the first weighing. */
export function DryingChart({
  weighings,
  forecast,
  nowHours,
}: {
  weighings: readonly { hours: number; moisture: number }[];
  forecast: DryForecast;
  nowHours: number;
}) {
  const words = useWords();
  const { t } = words;
  const reach =
    forecast.ok && Number.isFinite(forecast.toTarget.median) ? forecast.toTarget.median * 1.15 : 48;
  const end = Math.max(12, nowHours, Math.min(reach, 400), weighings.at(-1)?.hours ?? 0);
  const hours = Array.from({ length: 41 }, (_, i) => (i * end) / 40);
  return (
    <SeriesChart
      label={t('dry.chart')}
      height={230}
      xTitle={t('unit.h')}
      yTitle="%"
      xFormat={(x) => words.number(x)}
      yFormat={(y) => words.number(y, 1)}
      yMin={0}
      xMax={end}
      now={nowHours}
      aim={{ y: DRY_TARGET, name: `${DRY_TARGET} %` }}
      series={[
        {
          name: t('dry.weighed'),
          look: 'points',
          points: weighings.map((m): [number, number] => [m.hours, m.moisture]),
        },
        ...(forecast.ok
          ? [
              {
                name: t('dry.forecast'),
                look: 'forecast' as const,
                points: hours.map((h): [number, number] => [h, forecast.at(h).median]),
              },
            ]
          : []),
      ]}
      ranges={
        forecast.ok
          ? [
              {
                name: t('range.80'),
                points: hours.map((h): [number, number, number] => {
                  const { low, high } = forecast.at(h);
                  return [h, low, high];
                }),
              },
            ]
          : []
      }
    />
  );
}
