import { useState } from 'react';
import { Link } from 'react-router';
import type { TastedBatch } from '@wunsch/contract';
import { association, type RetasteState } from '@wunsch/core/taste';
import { useRead } from '../../shell/door.tsx';
import { BookTable } from '../../ui/BookTable.tsx';
import { SelectField } from '../../ui/Field.tsx';
import { Chip, EmptyState, Panel } from '../../ui/Panel.tsx';
import { useWords } from '../../words/words.tsx';
import { TasteHead } from './sessions/TasteHead.tsx';
import { BarBatches } from './BarBatches.tsx';
import { BarCourse } from './BarCourse.tsx';
import { useRetaste } from './useRetaste.ts';

/** Figures of the making that are held against the taste. */
const PROCESSES = ['roastDose', 'hours', 'gritUm'] as const;
const MARKS = ['liking', 'sour', 'grit'] as const;
type Mark = (typeof MARKS)[number];

const mean = (values: readonly number[]) => values.reduce((a, b) => a + b, 0) / values.length;

/** A batch’s mean of a mark over its cards; null where no card has it. */
function level(batch: TastedBatch, mark: Mark): number | null {
  const values = batch.cards.flatMap((c) => c[mark] ?? []);
  return values.length > 0 ? mean(values) : null;
}

/** Over batches: what went with the taste, the course of a bar over its weeks, and what is to be tasted again. */
export default function TastedPage() {
  const words = useWords();
  const { t } = words;
  const { data } = useRead<TastedBatch[]>('/api/tasted-batches');
  const [mark, setMark] = useState<Mark>('liking');
  const [chosen, setChosen] = useState<string | null>(null);
  const { keepsUntil, stateOf } = useRetaste();
  if (!data) return <p className="p-4 text-ink-3">{t('loading')}</p>;
  const likingOf = (b: TastedBatch) => {
    const liking = level(b, 'liking');
    return liking === null ? '—' : words.number(liking, 1);
  };
  // The longest course is worth looking at first.
  const span = (b: TastedBatch) => Date.parse(b.cards.at(-1)!.at) - Date.parse(b.cards[0]!.at);
  const course =
    data.find((b) => b.batchId === chosen) ?? [...data].sort((a, b) => span(b) - span(a))[0] ?? null;
  return (
    <div className="p-3 sm:px-4">
      <TasteHead title={t('tasted.title')} at="batches" note={t('tasted.text')} />
      {data.length === 0 ? (
        <EmptyState title={t('tasted.title')}>{t('tasted.none')}</EmptyState>
      ) : (
        <div className="grid gap-2 lg:grid-cols-6">
          <Panel
            title={t('tasted.with', { mark: words.within(words.word('mark', mark)) })}
            className="lg:col-span-2"
          >
            <SelectField
              label={t('tasted.mark')}
              value={mark}
              onChange={(e) => setMark(e.target.value as Mark)}
              className="mb-3"
            >
              {MARKS.map((m) => (
                <option key={m} value={m}>
                  {words.word('mark', m)}
                </option>
              ))}
            </SelectField>
            {PROCESSES.map((process) => (
              <Went
                key={process}
                name={t(`tasted.${process}`)}
                points={data.flatMap((b) => {
                  const [x, y] = [b[process], level(b, mark)];
                  return x === null || y === null ? [] : [{ process: x, taste: y }];
                })}
              />
            ))}
            <p className="mt-2 text-[12.5px] text-ink-3">{t('tasted.cause')}</p>
          </Panel>
          {course && (
            <Panel title={t('tasted.course', { code: course.code })} className="lg:col-span-4">
              <BarCourse batch={course} keepsUntil={keepsUntil(course)} />
            </Panel>
          )}
          <Panel title={t('tasted.bar')} className="lg:col-span-6">
            <BarBatches data={data} keepsUntil={keepsUntil} />
          </Panel>
          <Panel title={t('tasted.list')} className="lg:col-span-6">
            <BookTable
              caption={t('tasted.list')}
              rows={data}
              keyOf={(b) => b.batchId}
              empty={t('tasted.none')}
              columns={[
                {
                  id: 'code',
                  title: t('tasted.batch'),
                  value: (b) => b.code,
                  cell: (b) => (
                    <Link to={`/taste/${b.batchId}`} className="font-semibold underline underline-offset-4">
                      {b.code}
                    </Link>
                  ),
                },
                {
                  id: 'lot',
                  title: t('tasted.lot'),
                  value: (b) => b.lotName,
                  cell: (b) => b.lotName,
                  wide: true,
                },
                {
                  id: 'liking',
                  title: t('tasted.liking'),
                  numeric: true,
                  value: (b) => level(b, 'liking') ?? -1,
                  cell: (b) => likingOf(b),
                },
                {
                  id: 'cards',
                  title: t('tasted.cards'),
                  numeric: true,
                  value: (b) => b.cards.length,
                  cell: (b) => (
                    <button
                      type="button"
                      onClick={() => setChosen(b.batchId)}
                      aria-label={t('tasted.show', { code: b.code })}
                      className="min-h-11 min-w-11 font-semibold underline underline-offset-4"
                    >
                      {b.cards.length}
                    </button>
                  ),
                },
                {
                  id: 'again',
                  title: t('tasted.again'),
                  value: (b) => (b.bars > 0 ? (stateOf(b)?.dueAt ?? Infinity) : Infinity),
                  cell: (b) => <Again bars={b.bars} state={stateOf(b)} />,
                },
              ]}
            />
          </Panel>
        </div>
      )}
    </div>
  );
}

/** When a bar is to be tasted again. */
function Again({ bars, state }: { bars: number; state: RetasteState | null }) {
  const words = useWords();
  const { t } = words;
  if (bars === 0 || state === null) return <span className="text-ink-3">{t('tasted.no-bars')}</span>;
  if (state.aged > 1) return <span className="text-ink-3">{t('tasted.past')}</span>;
  if (state.isDue) return <Chip tone="due">{t('tasted.due')}</Chip>;
  return state.dueAt === null ? (
    <>—</>
  ) : (
    <>{t('tasted.due.on', { day: words.day(new Date(state.dueAt).toISOString()) })}</>
  );
}

/** One association with its interval on a line from −1 to 1. */
function Went({ name, points }: { name: string; points: readonly { process: number; taste: number }[] }) {
  const words = useWords();
  const { t } = words;
  const found = association(points);
  const signed = (v: number) => `${v > 0 ? '+' : ''}${words.number(v, 2)}`;
  const at = (v: number) => `${((v + 1) / 2) * 100}%`;
  return (
    <div className="mb-3 border-b border-line pb-3">
      <div className="flex items-baseline justify-between gap-3">
        <span className="font-semibold">{name}</span>
        {found.ok && <span className="num text-[17px] font-semibold">{signed(found.rank)}</span>}
      </div>
      {found.ok ? (
        <>
          <p className="text-[12.5px] text-ink-3">
            {t('tasted.range', { low: signed(found.low), high: signed(found.high), n: found.batches })}
            {`, ${t(found.shown ? 'tasted.shown' : 'tasted.nothing')}`}
          </p>
          <div className="relative mt-1 h-5" aria-hidden="true">
            <span className="absolute inset-x-0 bottom-0 block h-px bg-line-2" />
            <span className="absolute bottom-0 left-1/2 block h-3 w-px bg-line-2" />
            <span
              className="absolute bottom-1 block h-2.5 border border-violet-text bg-violet-tint"
              style={{ left: at(found.low), width: `${((found.high - found.low) / 2) * 100}%` }}
            />
            <span
              className="absolute bottom-0.5 block h-4 w-1 bg-(--violet-text)"
              style={{ left: `calc(${at(found.rank)} - 2px)` }}
            />
          </div>
        </>
      ) : (
        <p className="text-[12.5px] text-ink-3">
          {t('tasted.few', { n: found.batches, needs: found.needs })}
        </p>
      )}
    </div>
  );
}
