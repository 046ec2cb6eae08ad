import type { PracticeScore } from '@wunsch/contract';
import { HUSK_LIMIT } from '@wunsch/core/winnow';
import { SeriesChart } from '../charts/SeriesChart.tsx';
import { useWords } from '../words/words.tsx';

/** What really went on at the winnower, portion by portion, or in the mill, hour by hour. */
export function ReplayLines({ score }: { score: PracticeScore }) {
  const words = useWords();
  const { t } = words;
  const { minutes, series, hands } = score.replay;
  const isMill = score.lesson === 'grind';
  const x = (min: number) => (isMill ? min / 60 : min);
  const wanted = score.marks.find((m) => m.id === 'grit')?.wanted ?? null;
  return (
    <>
      <SeriesChart
        label={t(isMill ? 'practice.replay.mill' : 'practice.replay.winnow')}
        height={300}
        xTitle={t(isMill ? 'unit.h' : 'practice.portion')}
        yTitle={series[0]?.unit ?? ''}
        yMin={0}
        // Room at the end for the lines’ names.
        xMax={isMill ? undefined : (minutes.at(-1) ?? 1) + 1.5}
        xFormat={(v) => words.number(v, isMill && v % 1 ? 1 : 0)}
        series={series.map((s) => ({
          name: t(`practice.series.${s.name as 'grit'}`),
          points: s.values.map((v, k): [number, number] => [x(minutes[k] ?? 0), v]),
          look: 'measured' as const,
        }))}
        aim={
          isMill
            ? wanted === null
              ? null
              : { y: wanted, name: t('practice.aim') }
            : { y: 100 * HUSK_LIMIT, name: t('practice.husk-limit') }
        }
        marks={
          score.accident && isMill
            ? [{ x: x(score.accident.minutes), text: t(`practice.accident.short`) }]
            : []
        }
      />
      {hands.length > 0 && (
        <ol className="mt-1 flex flex-wrap gap-x-4 gap-y-0.5 text-[12.5px] text-ink-2">
          {hands.map((h, i) => (
            <li key={i}>
              <span className="num">{words.number(x(h.minutes), isMill ? 1 : 0)}</span>{' '}
              {h.what.startsWith('air-')
                ? t('practice.did.air', { air: words.number(Number(h.what.slice(4)), 1) })
                : t('practice.did.read')}
            </li>
          ))}
        </ol>
      )}
    </>
  );
}
