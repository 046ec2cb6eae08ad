import { useEffect, useMemo } from 'react';
import type { RoastRecord } from '@wunsch/contract';
import { planMinutes, watchRoast, type BeanReading, type RoastPlan } from '@wunsch/core/roast';
import { useNow } from '../../shell/now.ts';
import { useWords } from '../../words/words.tsx';
import { alarmText } from './alarmText.ts';
import { stageNow } from './model.ts';
import { useLiveSeries } from '../useLiveSeries.ts';
import type { WatchState } from './watchState.ts';

/** A roast this long over its plan has been forgotten in the book, not in the oven, s. */
const FORGOTTEN = 3600;

/** Alarms loud enough to ring on other screens. */
const LOUD = new Set([
  'scorch',
  'scorch-ahead',
  'oven-hot',
  'probe-lost',
  'stir-due',
  'beans-out',
  'stalled',
]);

/** Watches one running roast without drawing anything. */
export default function Watcher({
  record,
  onState,
}: {
  record: RoastRecord;
  onState: (state: WatchState) => void;
}) {
  const words = useWords();
  const live = useLiveSeries(record.step.id);
  const clock = useNow(5000);
  const start = Date.parse(record.step.startedAt);
  const { details } = record.step;
  const state = useMemo((): WatchState => {
    const of = (place: string): BeanReading[] => {
      const series = live.find((s) => s.place === place);
      return series
        ? series.at.map((at, i) => ({ seconds: (at - start) / 1000, celsius: series.celsius[i]! }))
        : [];
    };
    const newest = Math.max(0, ...live.map((s) => s.at.at(-1) ?? 0));
    const now = (Math.max(clock, newest) - start) / 1000;
    const plan = details.plan as RoastPlan | undefined;
    if (now > (plan ? planMinutes(plan) * 60 : 3600) + FORGOTTEN) return { codes: '', texts: [] };
    const stage = plan ? stageNow(plan, record.step, record.events, now) : null;
    const stir = record.events.filter((e) => e.name === 'stirred').at(-1);
    const alarms = watchRoast({
      now,
      bean: of('bean'),
      oven: of('oven'),
      setC: stage ? plan!.stages[stage.index]!.setC : null,
      expectedC: null,
      surfaceC: null,
      ceilingC: details.ceilingC ?? null,
      stirEvery: details.stirSeconds ?? null,
      lastStir: stir ? (Date.parse(stir.at) - start) / 1000 : null,
      endSeconds: plan ? planMinutes(plan) * 60 : null,
      probe: live.some((s) => s.place === 'bean'),
    }).filter((a) => LOUD.has(a.code));
    return { codes: alarms.map((a) => a.code).join(' '), texts: alarms.map((a) => alarmText(a, words)) };
  }, [live, clock, start, details, record, words]);
  useEffect(() => {
    onState(state);
    // Told when it changes, not when the one who listens does.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [state]);
  return null;
}
