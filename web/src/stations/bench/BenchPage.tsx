import { Plus, TriangleAlert } from 'lucide-react';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import type { BenchBatch, BenchView, RunningItem } from '@wunsch/contract';
import { lotWords } from '@wunsch/core/beans';
import { Ribbon } from '../../ribbon/Ribbon.tsx';
import { Glyph } from '../../shell/glyphs.tsx';
import { takeInHand } from '../../shell/inhand.ts';
import { toStep } from '../../shell/chosenStep.ts';
import { isDue, nextWords, tagOf } from '../../shell/nextWords.ts';
import { useNow } from '../../shell/now.ts';
import { useBench, useMayMake } from '../../shell/session.tsx';
import { UNREAD } from '../../shell/unread.ts';
import { useColumn } from '../../shell/useColumn.ts';
import { Button } from '../../ui/Button.tsx';
import { later } from '../../ui/later.tsx';
import { EmptyState } from '../../ui/Panel.tsx';
import { MyDay } from '../../plan/MyDay.tsx';
import { useWords, type Words } from '../../words/words.tsx';
import { SetAsideLine } from '../../settings/SetAsideLine.tsx';
import { dueLabel } from '../../shell/dueLabel.ts';
import { useAsked } from '../../shell/useAsked.ts';
import { DatedRows } from './DatedRows.tsx';
import { DueRow } from './DueRow.tsx';

const StartBatch = later(() => import('../../batch/StartBatch.tsx').then((m) => m.StartBatch));
const FirstSteps = later(() => import('../../welcome/FirstSteps.tsx').then((m) => m.FirstSteps));
const TimerDialog = later(() => import('../../shell/TimerDialog.tsx').then((m) => m.TimerDialog));

/** Height of a ribbon's row, px, and the tallest a ribbon may stand in it. */
const ROW = 86;
const TALLEST = 40;

/** The Bench: batches in flight under the line, what runs, and what is due next. */
export default function BenchPage() {
  const { t, when } = useWords();
  const { data: bench } = useBench();
  const now = useNow(15_000);
  const navigate = useNavigate();
  const mayMake = useMayMake();
  const [starting, setStarting] = useState(false);
  const [reminding, setReminding] = useState(false);
  useAsked('start', () => setStarting(true));
  useAsked('remind', () => setReminding(true));
  if (!bench) return <p className="p-6 text-ink-3">{t('loading')}</p>;
  // Who has beans begins with them.
  const hasBeans = bench.line.some((l) => l.station === 'beans' && l.waiting > 0);
  const receive = (look: 'main' | 'plain') => (
    <Button look={look} big onClick={() => navigate('/beans?do=receive')}>
      {t('beans.receive')}
    </Button>
  );
  return (
    <div>
      <div className="flex h-9 items-center gap-3 border-b border-line-2 px-4">
        <h1 className="text-[20px]">{t('bench')}</h1>
        <span className="text-[12px] text-ink-3">{when(new Date(now).toISOString())}</span>
      </div>
      <SetAsideLine />
      <FirstSteps bench={bench} />
      {bench.batches.length === 0 ? (
        <EmptyState
          title={t(hasBeans ? 'bench.between.title' : 'bench.empty.title')}
          action={
            mayMake && (
              <>
                {!hasBeans && receive('main')}
                <Button look={hasBeans ? 'main' : 'plain'} big onClick={() => setStarting(true)}>
                  {t('batch.start')}
                </Button>
                {hasBeans && receive('plain')}
              </>
            )
          }
        >
          {t(hasBeans ? 'bench.between.text' : 'bench.empty.text')}
        </EmptyState>
      ) : (
        <Ribbons bench={bench} now={now} />
      )}
      <div className="px-3 pt-3 empty:hidden">
        <MyDay now={now} />
      </div>
      <div className="grid gap-2 p-3 lg:grid-cols-[1.3fr_1fr]">
        <Running
          bench={bench}
          now={now}
          action={
            mayMake && bench.batches.length > 0 ? (
              <Button icon={<Plus size={17} aria-hidden="true" />} onClick={() => setStarting(true)}>
                {t('batch.start')}
              </Button>
            ) : null
          }
        />
        <Due
          bench={bench}
          now={now}
          action={mayMake ? <Button onClick={() => setReminding(true)}>{t('remind')}</Button> : null}
        />
      </div>
      {starting && <StartBatch onClose={() => setStarting(false)} />}
      {reminding && <TimerDialog onClose={() => setReminding(false)} />}
    </div>
  );
}

/** Codes longer than this are written smaller beside their ribbon, so that they end before it. */
const LONG_CODE = 10;

function Ribbons({ bench, now }: { bench: BenchView; now: number }) {
  const { column, wide } = useColumn();
  const largest = Math.max(
    ...bench.batches.map((b) => Math.max(b.flow.startMg, ...b.flow.stations.map((s) => s.expected.meanMg))),
    1,
  );
  const scale = TALLEST / largest;
  return (
    <ul>
      {bench.batches.map((b) => (
        <RibbonRow key={b.id} batch={b} column={column} wide={wide} scale={scale} now={now} />
      ))}
    </ul>
  );
}

function RibbonRow({
  batch,
  column,
  wide,
  scale,
  now,
}: {
  batch: BenchBatch;
  column: number;
  wide: boolean;
  scale: number;
  now: number;
}) {
  const words = useWords();
  const { t } = words;
  const action = nextWords(batch, batch.next, words);
  return (
    <li
      className="border-b border-line-2 hover:bg-panel-2 xl:grid xl:grid-cols-[148px_1fr]"
      style={wide ? { minHeight: ROW } : undefined}
    >
      <Link
        to={`/batch/${batch.id}`}
        onClick={() => takeInHand(batch.id)}
        className="flex flex-wrap items-baseline justify-between gap-x-2 px-4 pt-2.5 xl:block xl:pr-1.5"
      >
        <span className="flex flex-wrap items-baseline justify-between gap-x-2">
          <span
            className={`num max-w-full truncate ${batch.code.length > LONG_CODE ? 'text-[15px]' : 'text-[20px]'}`}
          >
            {batch.code}
          </span>
          <span className="num whitespace-nowrap text-[13.5px]">{words.mass(batch.flow.nowMg)}</span>
        </span>
        <span className="block truncate text-[12.5px] font-semibold">{batch.lotName}</span>
        <span className="block truncate text-[12px] text-ink-3">
          {[...lotWords(batch.lotName, batch.harvest).slice(1), batch.country, batch.recipeName]
            .filter(Boolean)
            .join(', ')}
        </span>
        {batch.disagrees && (
          <span className="flex items-center gap-1 text-[12px] font-semibold text-bad">
            <TriangleAlert size={13} aria-hidden="true" /> {t('bench.disagrees')}
          </span>
        )}
      </Link>
      <Link
        to={action.path}
        onClick={() => takeInHand(batch.id)}
        aria-label={`${batch.code}: ${action.title}`}
        className="block overflow-hidden px-4 pb-1 xl:px-0 xl:pb-0"
      >
        <Ribbon
          flow={batch.flow}
          column={column}
          height={wide ? ROW : 74}
          scale={wide ? scale : scale * 0.8}
          detail={wide ? 'short' : 'none'}
          tag={tagOf(batch, words, now)}
        />
        {!wide && (
          <span className="flex justify-between text-[12.5px]">
            <span
              className={
                isDue(batch.next, now)
                  ? 'rounded-[3px] bg-signal px-1.5 font-semibold text-on-signal'
                  : 'text-ink-2'
              }
            >
              {action.title}
            </span>
            <span className="text-ink-3">
              {batch.flow.barsExpected &&
                t('bars.range', { low: batch.flow.barsExpected.low, high: batch.flow.barsExpected.high })}
            </span>
          </span>
        )}
      </Link>
    </li>
  );
}

/** A half of a range so much longer than the other makes it lopsided: its ends are told instead of one ±. */
const LOPSIDED = 1.5;

/** When work is expected to end: with a ± where its range lies evenly about it, else with both its ends. */
function endText({ at, low, high }: NonNullable<RunningItem['endsAt']>, words: Words): string {
  const [before, after] = [
    Date.parse(at) - Date.parse(low),
    high === null ? null : Date.parse(high) - Date.parse(at),
  ];
  const when = words.when(at);
  if (after !== null && Math.max(before, after) < 60_000) return when;
  if (after !== null && Math.max(before, after) < LOPSIDED * Math.min(before, after))
    return `${when} ± ${words.duration((before + after) / 2000)}`;
  const until = high === null ? words.t('running.much-later') : words.when(high);
  return words.t('running.between', { when, low: words.when(low), high: until });
}

function Running({ bench, now, action }: { bench: BenchView; now: number; action: React.ReactNode }) {
  const words = useWords();
  const { t } = words;
  const pageOf = (r: RunningItem) => `/${r.station}/${r.batchId}`;
  const isOneOfSeveral = ({ batchId, station }: RunningItem) =>
    bench.running.filter((r) => r.batchId === batchId && r.station === station).length > 1;
  return (
    <section className="panel">
      <header className="flex min-h-14 items-center justify-between border-b border-line px-4 py-1.5">
        <h2 className="text-[19px]">
          {t('running')}{' '}
          <span className="ml-2 font-body text-[12.5px] font-normal tracking-normal text-ink-3">
            {t('running.n', { n: bench.running.length })}
          </span>
        </h2>
        {action}
      </header>
      {bench.running.length === 0 && <p className="p-4 text-ink-3">{t('running.none')}</p>}
      <ul>
        {bench.running.map((r) => {
          const start = Date.parse(r.startedAt);
          const end = r.endsAt ? Date.parse(r.endsAt.at) : null;
          const share = end ? Math.min(1, Math.max(0, (now - start) / (end - start))) : null;
          return (
            <li key={r.stepId} className="border-b border-line last:border-0">
              <Link
                to={isOneOfSeveral(r) ? toStep(pageOf(r), r.stepId) : pageOf(r)}
                className="grid min-h-14 grid-cols-[32px_1fr_auto] items-center gap-x-3 px-4 py-2 hover:bg-panel-2 sm:grid-cols-[32px_150px_1fr_170px]"
              >
                <Glyph station={r.station} />
                <span className="min-w-0">
                  <span className="num block truncate text-[14.5px]">
                    {r.machine ?? t(`station.${r.station}`)}{' '}
                    <span className="font-body text-[13px] font-medium tracking-normal">{r.batchCode}</span>
                  </span>
                  <span className="block truncate text-[12px] text-ink-3">
                    {words.mass(r.massMg)}
                    {r.reading &&
                      !(r.reading.kind === 'temperature' && now - Date.parse(r.reading.at) > UNREAD) &&
                      `, ${r.reading.kind === 'grit' ? `${words.number(r.reading.value, r.reading.value % 1 ? 1 : 0)} µm` : words.temperature(r.reading.value)}`}
                  </span>
                </span>
                <span className="hidden sm:block" aria-hidden="true">
                  {share !== null && (
                    <span className="relative block h-2 bg-violet-tint">
                      <span
                        className="absolute inset-y-0 left-0 bg-violet-2"
                        style={{ width: `${share * 100}%` }}
                      />
                      <span
                        className="absolute -inset-y-1 w-[2px] bg-violet-text"
                        style={{ left: `${share * 100}%` }}
                      />
                    </span>
                  )}
                </span>
                <span className="text-right">
                  <span className="num block text-[18px]">
                    {end
                      ? end > now
                        ? words.duration((end - now) / 1000)
                        : t('running.over')
                      : words.duration((now - start) / 1000)}
                  </span>
                  <span className="block text-[12px] text-ink-3">
                    {r.endsAt ? endText(r.endsAt, words) : t('running.so-far')}
                  </span>
                </span>
              </Link>
            </li>
          );
        })}
      </ul>
    </section>
  );
}

function Due({ bench, now, action }: { bench: BenchView; now: number; action: React.ReactNode }) {
  const words = useWords();
  const { t } = words;
  return (
    <section className="panel">
      <header className="flex min-h-14 items-center justify-between border-b border-line px-4 py-1.5">
        <h2 className="text-[19px]">{t('due')}</h2>
        {action}
      </header>
      {bench.due.length === 0 && <p className="p-4 text-ink-3">{t('due.none')}</p>}
      <ul>
        {bench.due.map((d) => {
          const due = d.at !== null && Date.parse(d.at) <= now;
          const batch = bench.batches.find((b) => b.id === d.batchId);
          const action = d.next && batch ? nextWords(batch, d.next, words) : null;
          const path = action?.path ?? (d.batchId ? `/batch/${d.batchId}` : '/plan');
          return (
            <DueRow
              key={d.id}
              to={path}
              when={d.at ? words.when(d.at) : null}
              isDue={due}
              title={action?.title ?? dueLabel(d, words)}
              // Of several machines the title names the one that is meant.
              note={[d.batchCode, batch?.lotName, !d.next?.at && batch?.machine].filter(Boolean).join(', ')}
              onGo={() => d.batchId && takeInHand(d.batchId)}
            />
          );
        })}
        <DatedRows />
      </ul>
    </section>
  );
}
