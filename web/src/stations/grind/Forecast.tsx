import type { GrindView } from '@wunsch/contract';
import { TOO_FINE_UM } from '@wunsch/core/grind';
import { SeriesChart } from '../../charts/SeriesChart.tsx';
import { Chip, Figure } from '../../ui/Panel.tsx';
import { useWords } from '../../words/words.tsx';

/** A chance of getting there at all above which nothing need be said of it. */
const SURE = 0.95;

/** Hours the axis shows while no curve says how long it takes. */
const USUAL_HOURS = 24;

/** Grit over hours: readings, the expected curve and its range. */
export function Curve({ grind }: { grind: GrindView }) {
  const words = useWords();
  const { t } = words;
  const { forecast } = grind;
  return (
    <SeriesChart
      label={t('grind.chart')}
      height={270}
      xTitle={t('grind.chart.x')}
      yTitle="µm"
      // In the first hour a tenth would stand on two ticks.
      xFormat={(x) => `${words.number(x, x % 1 === 0 ? 0 : x < 1 ? 2 : x < 10 ? 1 : 0)} h`}
      yFormat={(y) => `${words.number(y, 0)} µm`}
      yMin={0}
      aim={{ y: grind.aimUm, name: t('grind.aim', { um: words.number(grind.aimUm) }) }}
      now={grind.hours}
      series={[
        {
          name: t('grind.readings'),
          // What stones cannot have done would make the curve small; it is named beside it.
          points: grind.readings.flatMap((r): [number, number][] => (r.isMisread ? [] : [[r.hours, r.um]])),
          look: 'points',
        },
        ...(forecast
          ? [
              {
                name: t('grind.expected'),
                points: forecast.band.map((b): [number, number] => [b.hours, b.median]),
                look: 'forecast' as const,
              },
            ]
          : []),
      ]}
      ranges={
        forecast
          ? [
              {
                name: t('range.80'),
                points: forecast.band.map((b): [number, number, number] => [b.hours, b.low, b.high]),
              },
            ]
          : []
      }
      xMax={forecast ? undefined : Math.max(USUAL_HOURS, Math.ceil(grind.hours / 6) * 6)}
      usual={{ x: [0, USUAL_HOURS], y: [0, 120] }}
    />
  );
}

/** When to stop, when to read next, and what it will be in the morning. */
export function Stop({ grind }: { grind: GrindView }) {
  const words = useWords();
  const { t } = words;
  const { forecast } = grind;
  if (!forecast) return <p className="text-[14px] text-ink-2">{t('grind.needs', { n: grind.needs })}</p>;
  if (!forecast.aimAt)
    return (
      <p className="text-[14px] font-semibold text-bad">
        {t('grind.never', { um: words.number(grind.aimUm), finest: words.number(forecast.curve.finest, 0) })}
      </p>
    );
  const read = grind.readings.filter((r) => !r.isMisread);
  const last = read.at(-1);
  return (
    <div>
      <Figure
        name={t('grind.reached', { um: words.number(grind.aimUm) })}
        note={t('grind.range', {
          low: words.when(forecast.aimAt.low),
          high: forecast.aimAt.high ? words.when(forecast.aimAt.high) : t('grind.open-end'),
        })}
      >
        {words.when(forecast.aimAt.at)}
      </Figure>
      <p className="mt-2 text-[12.5px] text-ink-3">
        {t('grind.basis', {
          n: read.length,
          runs: forecast.runs === 0 ? t('grind.usual') : t('grind.runs', { n: forecast.runs }),
        })}
      </p>
      {forecast.chanceReached < SURE && (
        <p className="mt-1 text-[13.5px]">
          {t('grind.chance', { percent: words.chance(forecast.chanceReached) })}
        </p>
      )}
      {forecast.nextReading && (
        <p className="mt-2">
          {t('grind.next', { when: words.when(forecast.nextReading.at) })}
          {forecast.nextReading.rangeLeft < 0.95 && (
            <span className="text-ink-3">
              {' '}
              {t('grind.next.gain', { percent: words.percent(1 - forecast.nextReading.rangeLeft, 0) })}
            </span>
          )}
        </p>
      )}
      {forecast.morning && (
        <p className="mt-1">
          {t('grind.morning', {
            when: words.when(forecast.morning.at),
            low: words.number(forecast.morning.low),
            high: words.number(forecast.morning.high),
          })}
        </p>
      )}
      {forecast.slowed && (
        <p className="mt-2 text-[14px] font-semibold text-bad" role="status">
          {t('grind.slowed', {
            hours: words.number(forecast.slowed.sinceHours, 0),
            percent: words.percent(forecast.slowed.pace, 0),
          })}
        </p>
      )}
      {((last && last.um < TOO_FINE_UM) || (forecast.morning && forecast.morning.median < TOO_FINE_UM)) && (
        <Chip tone="bad">{t('grind.too-fine', { um: TOO_FINE_UM })}</Chip>
      )}
    </div>
  );
}
