import type { RoastRecord } from '@wunsch/contract';
import { beansOwn, untilBeansOut, type BeanReading } from '@wunsch/core/roast';

/** What the beans of a load had, from the probe among them that tells most; null where none does. */
export function beanReadings({
  step,
  series,
  events,
}: Pick<RoastRecord, 'series' | 'events'> & { step: { startedAt: string } }): BeanReading[] | null {
  const bean = series.filter((s) => s.place === 'bean').sort((a, b) => b.count - a.count)[0];
  if (!bean || bean.points.length < 2) return null;
  const begun = (Date.parse(bean.startedAt) - Date.parse(step.startedAt)) / 1000;
  const logged = bean.points.map(([seconds, celsius]) => ({ seconds: begun + seconds, celsius }));
  const { readings } = beansOwn(untilBeansOut(logged, events, step.startedAt));
  return readings.length < 2 ? null : readings;
}
