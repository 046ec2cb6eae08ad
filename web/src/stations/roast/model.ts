import type { Machine, ObservationRecord, RoastHabits, RoastRecord, StepRecord } from '@wunsch/contract';
import {
  BEANS_OUT,
  makeBean,
  makeOven,
  modelEvents,
  planMinutes,
  untilBeansOut,
  type BeanReading,
  type LoggedRoast,
  type Oven,
  type OvenFacts,
  type RoastForm,
  type RoastPlan,
  type WeighedRoast,
} from '@wunsch/core/roast';

/** What kind of oven a machine's own words describe; a fan oven where they do not say. */
export function ovenKind(words: string): NonNullable<OvenFacts['kind']> {
  if (/drum|trommel/i.test(words)) return 'drum';
  return /still|static|statisch|ober/i.test(words) ? 'still' : 'fan';
}

/** The usual oven of a machine's kind and size, before its roasts have taught better. */
export function usualOven(machine: Pick<Machine, 'kind' | 'maxMg'> | undefined): Oven {
  return makeOven({
    kind: ovenKind(machine?.kind ?? ''),
    usableKg: machine?.maxMg ? machine.maxMg / 1e6 : null,
  });
}

/** Events of a step among a batch's observations. */
export function eventsOf(
  observations: readonly ObservationRecord[],
  stepId: string,
): { id: string; name: string; at: string; value: number | null; by: string }[] {
  return observations.flatMap((o) =>
    o.stepId === stepId && o.data.kind === 'event'
      ? [{ id: o.id, name: o.data.name, at: o.at, value: o.data.value ?? null, by: o.by }]
      : [],
  );
}

/** The longest series of one place in a roast, seconds from beans-in until they came out. */
export function seriesOf(record: RoastRecord, place: 'bean' | 'oven'): BeanReading[] {
  const longest = record.series.filter((s) => s.place === place).sort((a, b) => b.count - a.count)[0];
  if (!longest) return [];
  const offset = (Date.parse(longest.startedAt) - Date.parse(record.step.startedAt)) / 1000;
  return untilBeansOut(
    longest.points.map(([s, celsius]) => ({ seconds: s + offset, celsius })),
    record.events,
    record.step.startedAt,
  );
}

/** A roast on the server as the model's logged roast; null where it has no plan or no load. */
export function loggedRoast(record: RoastRecord): LoggedRoast | null {
  const plan = record.step.details.plan as RoastPlan | undefined;
  if (!plan || record.inMg <= 0) return null;
  return {
    bean: makeBean({ ...record.lot, form: roastForm(record.inMaterial) }),
    plan,
    loadKg: record.inMg / 1e6,
    events: modelEvents(record.events, record.step.startedAt),
    beanReadings: seriesOf(record, 'bean'),
    ovenReadings: seriesOf(record, 'oven'),
  };
}

/** So much longer than planned a load without a probe may have been in and teach something, minutes. */
const OVER = 60;

/** Whether what goes in are a lot's beans as they came, and neither nibs, which dry faster, nor beans that were roasted before. */
export const isRawBeans = (material: string | null | undefined): boolean =>
  material == null || material === 'dry beans' || material === 'sorted beans';

/** What of a lot goes in, as the model knows it. */
export const roastForm = (material: string | null | undefined): RoastForm =>
  isRawBeans(material) ? 'beans' : material === 'roasted beans' ? 'roasted' : 'nibs';

/** A finished load as what it lost may teach of its beans; null for other things than raw beans, and without a plan, weights, or a time at which they came out. */
export function weighedRoast(record: RoastRecord): WeighedRoast | null {
  const logged = loggedRoast(record);
  const { startedAt, endedAt } = record.step;
  const out = record.events.findLast((e) => e.name === BEANS_OUT)?.at ?? endedAt;
  if (!logged || !out || record.outMg <= 0 || !isRawBeans(record.inMaterial)) return null;
  const outSeconds = (Date.parse(out) - Date.parse(startedAt)) / 1000;
  if (!(outSeconds > 0) || outSeconds > (planMinutes(logged.plan) + OVER) * 60) return null;
  return { ...logged, outSeconds, lossShare: 1 - record.outMg / record.inMg };
}

/** Stage that runs at some second, hands having ended stages early; null after the end. */
export function stageNow(
  plan: RoastPlan,
  step: Pick<StepRecord, 'startedAt'>,
  events: readonly { name: string; at: string }[],
  seconds: number,
): { index: number; endsAt: number } | null {
  const byHand = events
    .filter((e) => e.name === 'next-stage')
    .map((e) => (Date.parse(e.at) - Date.parse(step.startedAt)) / 1000)
    .sort((a, b) => a - b);
  let start = 0;
  for (const [index, stage] of plan.stages.entries()) {
    const due = start + stage.minutes * 60;
    const hand = byHand.find((h) => h > start && h < due);
    const end = hand ?? due;
    if (seconds < end) return { index, endsAt: end };
    start = end;
  }
  return null;
}

/** Seconds between stirs of a load in an oven; undefined where the workshop does not stir, and for a drum, which turns. */
export function stirEvery(
  habits: Pick<RoastHabits, 'stirMinutes'>,
  oven: Pick<Machine, 'kind'> | undefined,
): number | undefined {
  if (habits.stirMinutes === null || ovenKind(oven?.kind ?? '') === 'drum') return undefined;
  return habits.stirMinutes * 60;
}
