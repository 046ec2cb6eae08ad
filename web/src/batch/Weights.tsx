import { TriangleAlert } from 'lucide-react';
import { useState } from 'react';
import type { BatchView, MovementRecord } from '@wunsch/contract';
import { STATIONS, type Station } from '@wunsch/core/ledger';
import { useMayMake } from '../shell/session.tsx';
import { CorrectDialog, lineName } from '../stations/StepLedger.tsx';
import { Button } from '../ui/Button.tsx';
import { Chip, Panel } from '../ui/Panel.tsx';
import { Table } from '../ui/Table.tsx';
import { useFold } from '../ui/useFold.tsx';
import { useWords } from '../words/words.tsx';

/** Weights shown at first. */
const FIRST = 12;

/** The weights of a batch as entered, and which of them disagree. */
export function Weights({ view }: { view: BatchView }) {
  const words = useWords();
  const { t } = words;
  const { disagreement: d } = view;
  const [correcting, setCorrecting] = useState<MovementRecord | null>(null);
  const mayMake = useMayMake();
  const weighed = view.movements.filter((m) => m.inForce);
  const stationOf = (m: MovementRecord): Station => view.steps.find((s) => s.id === m.stepId)!.station;
  const replaced = (m: MovementRecord) => view.movements.find((o) => o.id === m.replaces);
  const sorted = [...weighed].sort((a, b) => STATIONS.indexOf(stationOf(a)) - STATIONS.indexOf(stationOf(b)));
  const fold = useFold(sorted.length, FIRST);
  return (
    <div className="grid min-w-0 grid-cols-1 content-start gap-2">
      {d?.disagrees && (
        <section className="panel border-l-4 border-bad p-4" aria-label={t('disagree')}>
          <h2 className="flex items-start gap-2 text-[18px]">
            <TriangleAlert size={20} className="mt-0.5 shrink-0 text-bad" aria-hidden="true" />
            {d.suspects.length > 0
              ? t('disagree.title', {
                  mass: words.mass(Math.abs(Math.round(d.suspects[0]!.shortByMg))),
                  station: words.within(t(`station.${d.likeliestStation}`)),
                })
              : t('disagree.step', { station: words.within(t(`station.${d.likeliestStation}`)) })}
          </h2>
          <p className="mt-1 text-[13.5px] text-ink-2">
            {d.suspects.length > 1
              ? t('disagree.group', {
                  names: d.suspects
                    .map((s) => words.word('loss', words.word('material', s.label)))
                    .join(', '),
                })
              : d.suspects.length === 1
                ? t('disagree.one')
                : t('disagree.none')}
          </p>
          <ul className="mt-2">
            {d.suspects.map((s) => {
              const movement = view.movements.find((m) => m.id === s.movementId);
              const right = Math.round(s.massMg + s.shortByMg);
              return (
                <li
                  key={s.label + s.movementId}
                  className="flex flex-wrap items-center gap-3 border-b border-line py-1.5"
                >
                  <span className="grow">
                    {movement
                      ? lineName(movement, words)
                      : t('disagree.unweighed', { what: words.word('loss', s.label) })}
                  </span>
                  <span className="num">{words.mass(s.massMg)}</span>
                  <span className="text-[13px] text-ink-3">
                    {right > 0 ? t('disagree.would-be', { mass: words.mass(right) }) : ''}
                  </span>
                  {movement && mayMake && view.batch.state === 'open' && (
                    <Button onClick={() => setCorrecting(movement)}>{t('correct')}</Button>
                  )}
                </li>
              );
            })}
          </ul>
          <p className="mt-2 text-[12px] text-ink-3">
            {t('disagree.test', {
              chi: words.number(d.chiSquare, 1),
              df: d.degreesOfFreedom,
              p: `${d.pValue < 0.001 ? '<' : '='} ${words.number(Math.max(0.001, d.pValue), 3)}`,
            })}
          </p>
        </section>
      )}
      <Panel
        title={t('batch.weights')}
        aside={d && !d.disagrees ? <Chip tone="ok">{t('disagree.fine')}</Chip> : undefined}
      >
        <Table
          caption={t('batch.weights')}
          rows={sorted}
          keyOf={(m) => m.id}
          empty={t('lines.none')}
          // One that was corrected is what one comes to see.
          hides={(i) => fold.hides(i) && !replaced(sorted[i]!)}
          columns={[
            { id: 'station', title: t('station'), cell: (m) => t(`station.${stationOf(m)}`) },
            {
              id: 'what',
              title: t('what'),
              cell: (m) => `${t(m.direction === 'loss' ? 'lost' : m.direction)}: ${lineName(m, words)}`,
            },
            {
              id: 'mass',
              title: t('weight'),
              numeric: true,
              cell: (m) => <span className="num">{words.mass(m.massMg)}</span>,
            },
            {
              id: 'was',
              title: t('before'),
              numeric: true,
              cell: (m) =>
                replaced(m) && replaced(m)!.massMg !== m.massMg ? (
                  <s className="text-ink-3">{words.mass(replaced(m)!.massMg)}</s>
                ) : (
                  ''
                ),
            },
            {
              id: 'who',
              title: t('who'),
              cell: (m) => <span className="whitespace-nowrap">{`${m.by} ${words.when(m.at)}`}</span>,
            },
            {
              id: 'do',
              title: t('correct'),
              cell: (m) =>
                mayMake && view.batch.state === 'open' ? (
                  <button
                    type="button"
                    className="min-h-8 underline underline-offset-4"
                    aria-label={t('correct.this', { what: lineName(m, words) })}
                    onClick={() => setCorrecting(m)}
                  >
                    {t('correct')}
                  </button>
                ) : (
                  ''
                ),
            },
          ]}
        />
        {fold.more}
      </Panel>
      {correcting && <CorrectDialog view={view} movement={correcting} onClose={() => setCorrecting(null)} />}
    </div>
  );
}
