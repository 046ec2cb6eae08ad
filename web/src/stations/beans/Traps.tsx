import { useState } from 'react';
import type { ObservationRecord } from '@wunsch/contract';
import { TRAP_COUNTS_NEEDED, trapChart } from '@wunsch/core/hold';
import { useRead } from '../../shell/door.tsx';
import { SeriesChart } from '../../charts/SeriesChart.tsx';
import { newId } from '../../shell/entry.ts';
import { useEntryHere } from '../../shell/useEntryHere.ts';
import { Button } from '../../ui/Button.tsx';
import { Chip, Panel } from '../../ui/Panel.tsx';
import { QuantityField } from '../../ui/QuantityField.tsx';
import { useDraft } from '../../shell/useDraft.ts';
import { useWords } from '../../words/words.tsx';
import { todayAt } from '../today.ts';

/** Moths in the traps, week by week, with what chance alone would explain. */
export function Traps({ mayMake }: { mayMake: boolean }) {
  const words = useWords();
  const { t } = words;
  const send = useEntryHere();
  const { data, error } = useRead<ObservationRecord[]>('/api/traps');
  const { draft, change, keep } = useDraft<{ count: number | null }>({ count: null });
  const [traps, setTraps] = useState<number | null>(null);
  const counts = (data ?? []).flatMap((o) =>
    o.data.kind === 'traps'
      ? [{ day: todayAt(Date.parse(o.at)), count: o.data.count, traps: o.data.traps }]
      : [],
  );
  const standing = traps ?? counts.at(-1)?.traps ?? null;
  const { kind, points } = trapChart(counts);
  const signal = points.findLast((p) => p.signal);
  const limits = points.length >= TRAP_COUNTS_NEEDED;
  const take = () => {
    const { count } = draft;
    if (count === null || standing === null) return;
    void keep(() =>
      send({
        path: `/api/observations/${newId()}`,
        body: { data: { kind: 'traps', count, traps: standing } },
        label: t('done.traps', { n: count }),
        undo: true,
      }),
    );
  };
  // The chart would push the form away from under a finger.
  if (!data && !error) return <Panel title={t('traps.chart')}>{t('loading')}</Panel>;
  return (
    <Panel title={t('traps.chart')} aside={t(kind === 'c' ? 'traps.kind.c' : 'traps.kind.laney')}>
      {points.length === 0 ? (
        <p className="text-ink-3">{t('traps.none')}</p>
      ) : (
        <>
          <p className="mb-1 flex flex-wrap gap-2 text-[12.5px] text-ink-3">
            {!limits && t('traps.needs', { n: TRAP_COUNTS_NEEDED })}
            {signal && <Chip tone="bad">{t('traps.signal', { day: words.day(signal.day) })}</Chip>}
          </p>
          <SeriesChart
            label={t('traps.chart')}
            height={240}
            xTitle={t('traps.week')}
            yTitle={t('traps.per-trap')}
            xFormat={(x) => {
              const day = points[Math.round(x) - 1]?.day;
              return day ? words.dayOfYear(day) : '';
            }}
            yFormat={(y) => words.number(y, 1)}
            yMin={0}
            counted
            series={[
              {
                name: t('traps.chart'),
                look: 'points',
                points: points.map((p, i): [number, number] => [i + 1, p.rate]),
              },
              ...(limits
                ? [
                    {
                      name: t('winnow.mean'),
                      look: 'faint' as const,
                      points: points.map((p, i): [number, number] => [i + 1, p.centre]),
                    },
                    {
                      name: t('traps.limit'),
                      look: 'planned' as const,
                      points: points.map((p, i): [number, number] => [i + 1, p.upper]),
                    },
                  ]
                : []),
            ]}
          />
        </>
      )}
      {mayMake && (
        <form
          className="mt-3 flex flex-wrap items-end gap-2"
          onSubmit={(e) => {
            e.preventDefault();
            take();
          }}
        >
          <QuantityField
            label={t('traps.count')}
            dimension="count"
            value={draft.count}
            onChange={(count) => change({ count })}
            min={0}
            max={100_000}
            className="w-36"
          />
          <QuantityField
            label={t('traps.traps')}
            dimension="count"
            value={standing}
            onChange={setTraps}
            min={1}
            max={1000}
            className="w-28"
          />
          <Button type="submit" look="main" disabled={draft.count === null || standing === null}>
            {t('traps.take')}
          </Button>
        </form>
      )}
    </Panel>
  );
}
