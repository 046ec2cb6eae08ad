import { ChevronRight } from 'lucide-react';
import { useEffect, useMemo, useState } from 'react';
import type { BatchView, StepRecord } from '@wunsch/contract';
import {
  excursions,
  plannedPath,
  reasonsOf,
  type BowlReason,
  type BowlReading,
  type FollowedBowl,
  type TemperVerdict,
} from '@wunsch/core/temper';
import { Chip, Panel } from '../../ui/Panel.tsx';
import { useWords } from '../../words/words.tsx';
import { usePath } from './usePath.ts';
import { temperWork } from '../../workers/temper.ts';
import { temperatures } from '../series.ts';
import { BowlChart } from './BowlChart.tsx';
import { bowlRecord, seedsOf } from './useBowl.ts';

type Words = ReturnType<typeof useWords>;

/** A bowl that has been poured, as its log and the model see it. */
export interface PouredBowl {
  readings: BowlReading[];
  followed: FollowedBowl | null;
  /** The likeliest verdict at pouring; null where the log is too short to say. */
  verdict: TemperVerdict | null;
  reasons: BowlReason[];
}

/** Reads a poured bowl's log again: what was in it when it was poured, and what in its log may explain its bars. */
export function usePouredBowl(view: BatchView, step: StepRecord): PouredBowl {
  const type = step.details.chocolateType ?? 'dark';
  const method = step.details.method ?? 'none';
  // What the chocolate itself asks, by its sheet or its milk fat; not what hands have learned since.
  const { given: path } = usePath(view, type);
  const readings = useMemo(() => temperatures(view, step, 'bowl'), [view, step]);
  const [followed, setFollowed] = useState<FollowedBowl | null>(null);
  const key = JSON.stringify([step.id, readings.length, readings.at(-1), path, type, method]);
  useEffect(() => {
    if (method === 'none') return;
    let wanted = true;
    temperWork
      .ask((thread) => thread.follow(bowlRecord(view, step, { readings, path, type, method })))
      .then((found) => wanted && setFollowed(found))
      .catch(() => undefined);
    return () => {
      wanted = false;
    };
    // The key names everything the answer depends on.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [key]);
  const verdict = followed
    ? (Object.entries(followed.pourNow) as [TemperVerdict, number][]).reduce((a, b) =>
        b[1] > a[1] ? b : a,
      )[0]
    : null;
  const reasons =
    method === 'none' ? [] : reasonsOf({ readings, spells: excursions(readings, path), verdict, path });
  return { readings, followed, verdict, reasons };
}

/** A reason in words: "34.1 °C for 6 min at 14:20". */
export function reasonText(reason: BowlReason, step: StepRecord, words: Words): string {
  const { t } = words;
  const at =
    reason.atSeconds === null
      ? ''
      : words.time(new Date(Date.parse(step.startedAt) + reason.atSeconds * 1000).toISOString());
  return t(`reason.${reason.code}`, {
    celsius: reason.extremeC === null ? '' : words.temperature(reason.extremeC),
    time:
      reason.forSeconds === null ? '' : words.duration(Math.max(60, Math.round(reason.forSeconds / 60) * 60)),
    at,
  });
}

/** What a poured bowl's own log offers as reasons, the gravest first; nothing is said where the log is blameless. */
export function BowlReasons({ view, step }: { view: BatchView; step: StepRecord }) {
  const words = useWords();
  const { reasons } = usePouredBowl(view, step);
  if (reasons.length === 0) return null;
  return (
    <ol className="ml-5 list-decimal text-[13.5px]">
      {reasons.slice(0, 4).map((r) => (
        <li key={`${r.code}${r.atSeconds}`}>{reasonText(r, step, words)}</li>
      ))}
    </ol>
  );
}

function DoneBowl({ view, step, nth }: { view: BatchView; step: StepRecord; nth: number }) {
  const words = useWords();
  const { t } = words;
  const { readings, followed, verdict } = usePouredBowl(view, step);
  const type = step.details.chocolateType ?? 'dark';
  const method = step.details.method ?? 'none';
  const { given: path } = usePath(view, type);
  return (
    <li className="border-b border-line py-2 last:border-0">
      <details className="group">
        <summary className="flex min-h-11 cursor-pointer flex-wrap items-center gap-x-4 gap-y-1">
          <ChevronRight size={17} aria-hidden="true" className="-mr-2 group-open:rotate-90" />
          <span className="font-semibold">{t('temper.bowl', { n: nth, method: t(`method.${method}`) })}</span>
          {verdict && (
            <Chip tone={verdict === 'good' ? 'ok' : 'bad'}>
              {t(`verdict.${verdict}`)}, {t('estimated')}
            </Chip>
          )}
          {followed && followed.stableNow.high > 5e-4 && (
            <span className="num text-[13px] text-ink-2">
              {t('crystals.stable')} {words.number(followed.stableNow.low * 100, 1)}–
              {words.number(followed.stableNow.high * 100, 1)} %
            </span>
          )}
          {readings.length === 0 && <span className="text-[13px] text-ink-3">{t('temper.no-log')}</span>}
        </summary>
        <BowlReasons view={view} step={step} />
        {readings.length > 1 && (
          <BowlChart
            readings={readings}
            plan={plannedPath(path, method, readings[0]!.celsius)}
            nth={nth}
            earlier={[]}
            seeds={seedsOf(view, step, method)}
            followed={followed}
            future={null}
            path={path}
            windowed={method !== 'none'}
            running={false}
          />
        )}
      </details>
    </li>
  );
}

/** The bowls of a batch that have been poured, each with what the model makes of its log. */
export function DoneBowls({ view, steps }: { view: BatchView; steps: readonly StepRecord[] }) {
  const { t } = useWords();
  if (steps.length === 0) return null;
  return (
    <Panel title={t('temper.done')} className="mt-2">
      <ul>
        {steps.map((s, i) => (
          <DoneBowl key={s.id} view={view} step={s} nth={i + 1} />
        ))}
      </ul>
    </Panel>
  );
}
