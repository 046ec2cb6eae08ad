import { useEffect, useMemo, useRef, useState } from 'react';
import type { BatchView, MovementRecord, StepRecord } from '@wunsch/contract';
import {
  STIRRED,
  type BowlReading,
  type BowlRecord,
  type FollowedBowl,
  type SeedAdded,
  type TemperMethod,
} from '@wunsch/core/temper';
import { temperWork } from '../../workers/temper.ts';
import { useLiveSeries } from '../useLiveSeries.ts';
import { linesOf } from '../work.ts';

/** Time between two looks at a bowl, ms. */
const LOOK_EVERY = 700;

/** Seed that went into a bowl, with its mass, for the chart. */
export interface BowlSeed {
  seconds: number;
  share: number;
  kind: SeedAdded['kind'];
  massMg: number;
}

const secondsSince = (step: StepRecord, at: string) => (Date.parse(at) - Date.parse(step.startedAt)) / 1000;

/** What a weight put into the bowl is as seed: tempered pieces, prepared butter by that method; null for anything else. */
function seedKind(m: MovementRecord, method: TemperMethod, label: string): SeedAdded['kind'] | null {
  if (m.material === 'tempered chocolate' || m.material === 'bars') return 'solid';
  const butter = m.material === 'cocoa butter' || /butter/i.test(label);
  return method === 'butter-seed' && butter ? 'butter' : null;
}

/** Seed weighed into a bowl, each as a share of what was in it; the first weight is the bowl itself. */
export function seedsOf(view: BatchView, step: StepRecord, method: TemperMethod): BowlSeed[] {
  const lines = linesOf(view, step.id)
    .filter((m) => m.direction === 'in')
    .sort((a, b) => Date.parse(a.at) - Date.parse(b.at));
  let inBowl = 0;
  return lines.flatMap((m): BowlSeed[] => {
    const kind = inBowl > 0 ? seedKind(m, method, m.label ?? '') : null;
    const share = inBowl > 0 ? Math.min(1, m.massMg / inBowl) : 0;
    inBowl += m.massMg;
    return kind ? [{ seconds: Math.max(0, secondsSince(step, m.at)), share, kind, massMg: m.massMg }] : [];
  });
}

/** All readings of a bowl, live: its probe and those noted by hand, in order, seconds since the step began. */
export function useBowlReadings(view: BatchView, step: StepRecord): BowlReading[] {
  const live = useLiveSeries(step.id);
  return useMemo(() => {
    const probe = live.find((s) => s.place === 'bowl');
    const start = Date.parse(step.startedAt);
    const read = (probe?.at ?? []).map((at, i) => ({
      seconds: (at - start) / 1000,
      celsius: probe!.celsius[i]!,
    }));
    const hand = view.observations.flatMap((o) =>
      o.stepId === step.id && o.data.kind === 'temperature' && o.data.place === 'bowl'
        ? [{ seconds: secondsSince(step, o.at), celsius: o.data.celsius, byHand: true }]
        : [],
    );
    return [...read, ...hand].sort((a, b) => a.seconds - b.seconds);
  }, [live, view.observations, step]);
}

/** What hands have said of the stirring, in order. */
export function stirringsOf(view: BatchView, step: StepRecord): { seconds: number; stirring: number }[] {
  return view.observations
    .flatMap((o) =>
      o.stepId === step.id && o.data.kind === 'stirring'
        ? [{ seconds: secondsSince(step, o.at), stirring: STIRRED[o.data.level] }]
        : [],
    )
    .sort((a, b) => a.seconds - b.seconds);
}

/** A step's bowl as the model is told of it: readings, stirring and seed. */
export function bowlRecord(
  view: BatchView,
  step: StepRecord,
  {
    method,
    ...known
  }: Pick<BowlRecord, 'readings' | 'path' | 'coolsAtC' | 'type' | 'method' | 'fat' | 'runOnSeconds'>,
): BowlRecord {
  return {
    ...known,
    method,
    readings: [...known.readings],
    seeds: seedsOf(view, step, method).map(({ seconds, share, kind }) => ({ seconds, share, kind })),
    stirrings: stirringsOf(view, step),
  };
}

/** A bowl followed by the model, renewed as readings come; null until there is enough to go by. */
export function useFollowedBowl(bowl: BowlRecord): FollowedBowl | null {
  const { readings, method, ...rest } = bowl;
  const [followed, setFollowed] = useState<FollowedBowl | null>(null);
  // The newest reading and their number stand for all of them.
  const key = JSON.stringify([readings.length, readings.at(-1), method, rest]);
  const newest = useRef<{ key: string; bowl: BowlRecord } | null>(null);
  useEffect(() => {
    newest.current = { key, bowl };
    // The key names everything the bowl consists of.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [key]);
  useEffect(() => {
    if (method === 'none') return;
    let gone = false;
    let asked: string | null = null;
    let busy = false;
    // However fast readings come, one look is finished before the next begins, at the newest there is.
    const look = async () => {
      const now = newest.current;
      if (busy || !now || now.key === asked) return;
      busy = true;
      asked = now.key;
      const found = await temperWork.ask((thread) => thread.follow(now.bowl)).catch(() => undefined);
      busy = false;
      if (!gone && found !== undefined) setFollowed(found);
    };
    void look();
    const timer = setInterval(() => void look(), LOOK_EVERY);
    return () => {
      gone = true;
      clearInterval(timer);
    };
  }, [method]);
  return method === 'none' ? null : followed;
}
