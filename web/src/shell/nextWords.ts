import type { BatchBrief, BatchView, BenchBatch } from '@wunsch/contract';
import type { ActionCode, NextAction } from '@wunsch/core/plan';
import type { Words } from '../words/words.tsx';
import { toStep } from './chosenStep.ts';

/** What is said in each station's own words. */
const OF_STATIONS: ReadonlySet<ActionCode> = new Set<ActionCode>([
  'start',
  'carry-on',
  'weigh-out',
  'finish',
]);

/** The next thing to do, in words, what its button says, and where to do it. */
export function nextWords(
  batch: Pick<BatchBrief, 'id' | 'code'>,
  next: NextAction,
  words: Words,
): { title: string; button: string; path: string } {
  const what =
    next.code === 'start' && next.massMg === 0
      ? words.t(`station.${next.station}`)
      : words.t(
          (OF_STATIONS.has(next.code)
            ? `next.${next.code}.${next.station}`
            : `next.${next.code}`) as 'next.start.sort',
          { mass: words.mass(next.massMg) },
        );
  const page = next.code === 'nothing' ? `/batch/${batch.id}` : `/${next.station}/${batch.id}`;
  const path = next.at ? toStep(page, next.at.stepId) : page;
  // Bars are counted, not weighed out.
  const counts = next.code === 'weigh-out' && next.station === 'mould';
  const title = next.at?.machine ? words.t('next.at', { what, machine: next.at.machine }) : what;
  return { title, button: words.t(counts ? 'go.count' : `go.${next.code}`), path };
}

/** Whether nothing is left to do with a batch that has begun, and it only has to be finished. */
export function isAllDone({ batch, flow, next }: Pick<BatchView, 'batch' | 'flow' | 'next'>): boolean {
  return batch.state === 'open' && next.code === 'nothing' && flow.startMg > 0;
}

/** What of a finished batch waits at a station, mg: it can be taken up again. */
export const leftToTakeUp = ({ batch, flow }: Pick<BatchView, 'batch' | 'flow'>): number =>
  batch.state === 'finished'
    ? flow.stations.reduce((sum, s) => (s.station === 'taste' ? sum : sum + s.waitingMg), 0)
    : 0;

/** Whether the next thing is due by now. */
export function isDue(next: NextAction, now: number): boolean {
  return next.dueAt !== null && Date.parse(next.dueAt) <= now;
}

/** The tag at the now mark of a ribbon. */
export function tagOf(
  batch: Pick<BenchBatch, 'id' | 'code' | 'next'>,
  words: Words,
  now: number,
): { text: string; due: boolean } | null {
  const { next } = batch;
  if (next.code === 'nothing') return null;
  const due = isDue(next, now);
  const time = next.dueAt && !due ? ` ${words.when(next.dueAt)}` : '';
  return {
    text: `${words.t(`tag.${next.code}`, { station: words.t(`tag.at.${next.station}`) })}${time}`,
    due,
  };
}
