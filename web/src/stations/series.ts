import type { BatchView, Place, StepRecord } from '@wunsch/contract';
import { untilBeansOut } from '@wunsch/core/roast';

/**
 * All temperatures of one place on a step: probe and hand together, in order; seconds since the step began, °C. Of a roast until its beans
 * came out.
 */
export function temperatures(
  view: BatchView,
  step: StepRecord,
  place: Place,
): { seconds: number; celsius: number; byHand?: boolean }[] {
  const start = Date.parse(step.startedAt);
  const probe = view.series
    .filter((s) => s.stepId === step.id && s.place === place)
    .flatMap((s) =>
      s.points.map(([seconds, celsius]) => ({
        seconds: (Date.parse(s.startedAt) - start) / 1000 + seconds,
        celsius,
      })),
    );
  const hand = view.observations.flatMap((o) =>
    o.stepId === step.id && o.data.kind === 'temperature' && o.data.place === place
      ? [{ seconds: (Date.parse(o.at) - start) / 1000, celsius: o.data.celsius, byHand: true }]
      : [],
  );
  const events = view.observations.flatMap((o) =>
    o.stepId === step.id && o.data.kind === 'event' ? [{ name: o.data.name, at: o.at }] : [],
  );
  const all = [...probe, ...hand].sort((a, b) => a.seconds - b.seconds);
  return untilBeansOut(all, events, step.startedAt);
}
