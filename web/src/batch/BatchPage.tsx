import { Ellipsis, TriangleAlert } from 'lucide-react';
import { useEffect, useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import useSWR from 'swr';
import type { Attachment, BatchView, MovementRecord } from '@wunsch/contract';
import { STATIONS, type Station } from '@wunsch/core/ledger';
import { Ribbon } from '../ribbon/Ribbon.tsx';
import { read } from '../shell/api.ts';
import { STAGE } from '../shell/glyphs.tsx';
import { takeInHand, useBatch } from '../shell/inhand.ts';
import { nextWords, tagOf } from '../shell/nextWords.ts';
import { useNow } from '../shell/now.ts';
import { useMayMake } from '../shell/session.tsx';
import { lastEntries } from '../shell/Slip.tsx';
import { useColumn } from '../shell/useColumn.ts';
import { useEntryHere } from '../shell/useEntryHere.ts';
import { Tastings } from '../stations/taste/TastePage.tsx';
import { CorrectDialog, lineName } from '../stations/StepLedger.tsx';
import { Button } from '../ui/Button.tsx';
import { Dialog } from '../ui/Dialog.tsx';
import { TextField } from '../ui/Field.tsx';
import { Menu } from '../ui/Menu.tsx';
import { Chip, EmptyState, Panel } from '../ui/Panel.tsx';
import { Table } from '../ui/Table.tsx';
import { FilesPanel } from '../stations/Files.tsx';
import { useWords } from '../words/words.tsx';

const RIBBON_HEIGHT = 262;

/** A batch's page: the ribbon, a card for each station, weights that disagree, and what a bar costs. */
export default function BatchPage() {
  const words = useWords();
  const { t } = words;
  const { batchId } = useParams();
  const { data: view, error } = useBatch(batchId ?? null);
  const navigate = useNavigate();
  const mayMake = useMayMake();
  const now = useNow();
  const { column, wide } = useColumn();
  const [ending, setEnding] = useState<'void' | 'abandoned' | null>(null);
  const send = useEntryHere();
  useEffect(() => {
    if (view) takeInHand(view.batch.id);
  }, [view]);
  if (error) return <EmptyState title={t('not-found')}>{t('not-found.text')}</EmptyState>;
  if (!view) return <p className="p-6 text-ink-3">{t('loading')}</p>;
  const { batch, flow, lot } = view;
  const roast = flow.stations.find((s) => s.station === 'roast');
  const tallest = Math.max(
    flow.startMg,
    ...flow.stations.map((s) => Math.max(s.expected.meanMg, s.outMg)),
    1,
  );
  const setState = (state: 'finished' | 'open') =>
    void send({
      path: `/api/batches/${batch.id}/state`,
      body: { state },
      label: t(`done.state.${state}`, { code: batch.code }),
      batchId: batch.id,
      undo: state === 'finished',
    }).catch(() => undefined);
  const action = nextWords(batch, view.next, words);
  return (
    <div className="p-3">
      <header className="mb-2 flex flex-wrap items-center gap-x-4 gap-y-2 px-1">
        <h1 className="text-[28px] leading-none">{batch.code}</h1>
        <p className="grow text-[13px] text-ink-3">
          {[
            `${lot.name} ${lot.harvest}`.trim(),
            lot.country,
            view.recipe?.name,
            t('slip.begun', { when: words.day(batch.startedAt), by: batch.by }),
          ]
            .filter(Boolean)
            .join(', ')}
        </p>
        {view.origins.length > 1 && (
          <Chip tone="bad">{t('mixed', { origins: view.origins.join(', ') })}</Chip>
        )}
        {roast?.state === 'skipped' && ['dry beans', 'wet beans', 'pods'].includes(lot.material) && (
          <Chip tone="bad">{t('raw.chip')}</Chip>
        )}
        {batch.state !== 'open' && (
          <Chip tone={batch.state === 'finished' ? 'ok' : 'bad'}>{t(`state.${batch.state}`)}</Chip>
        )}
        {mayMake && batch.state === 'open' && view.next.code !== 'nothing' && (
          <Button look="main" onClick={() => navigate(action.path)} data-key="w">
            {t(`go.${view.next.code}`)}
          </Button>
        )}
        {mayMake && batch.state !== 'void' && (
          <Menu
            label={t('batch.more')}
            trigger={
              <button
                type="button"
                className="grid size-11 place-items-center rounded border border-edge hover:bg-panel-2"
              >
                <Ellipsis size={18} aria-hidden="true" />
              </button>
            }
            items={[
              ...(batch.state === 'open'
                ? [{ label: t('batch.finish'), run: () => setState('finished') }]
                : batch.state === 'finished'
                  ? [{ label: t('batch.reopen'), run: () => setState('open') }]
                  : []),
              { label: t('print-record'), run: () => window.print() },
              ...(batch.state === 'open'
                ? [{ label: t('batch.abandon'), run: () => setEnding('abandoned'), danger: true }]
                : []),
              { label: t('batch.void'), run: () => setEnding('void'), danger: true },
            ]}
          />
        )}
      </header>
      {batch.stateReason && (
        <p className="mb-2 px-1 text-[13px]">{t('batch.reason', { reason: batch.stateReason })}</p>
      )}
      <section
        aria-label={t('ribbon')}
        className={`panel ${wide ? 'grid grid-cols-[136px_1fr]' : 'overflow-x-auto p-2'}`}
      >
        <div className="p-3">
          <div className="text-[12px] text-ink-3">{t('batch.kept')}</div>
          <div className="num text-[24px]">
            {flow.cacaoKept === null ? '—' : words.percent(flow.cacaoKept)}
          </div>
          <div className="text-[12px] text-ink-3">
            {flow.cacaoKept === null
              ? t('batch.kept.later')
              : t('batch.kept.of', {
                  kept: words.mass(flow.cacaoKept * flow.startMg),
                  of: words.mass(flow.startMg),
                })}
          </div>
          <div className="mt-4 text-[12px] text-ink-3">{t('bars')}</div>
          <div className="num text-[18px]">
            {flow.barsExpected
              ? flow.barsExpected.low === flow.barsExpected.high
                ? words.number(flow.bars)
                : `${words.number(flow.barsExpected.low)}–${words.number(flow.barsExpected.high)}`
              : '—'}
          </div>
        </div>
        <Ribbon
          flow={flow}
          column={column}
          height={wide ? RIBBON_HEIGHT : 130}
          scale={(wide ? 118 : 60) / tallest}
          detail={wide ? 'full' : 'none'}
          tag={tagOf({ ...batch, next: view.next }, words, now)}
          barsPerLayer={20}
        />
      </section>
      <StationCards view={view} />
      <div className="mt-2 grid grid-cols-1 gap-2 lg:grid-cols-[1.35fr_1fr]">
        <Weights view={view} />
        <Cost view={view} />
      </div>
      <div className="mt-2 grid grid-cols-1 gap-2 lg:grid-cols-2">
        <Panel title={t('batch.tastings')}>
          <Tastings view={view} />
        </Panel>
        <Panel title={t('batch.entries')}>
          <ul>
            {lastEntries(view, words, 400).map((e) => (
              <li key={e.id} className="flex gap-3 border-b border-line py-1.5 text-[13px]">
                <span className="w-24 shrink-0 tabular-nums text-ink-3">{words.when(e.at)}</span>
                <span className="grow">{e.text}</span>
                <span className="text-ink-3">{e.by}</span>
              </li>
            ))}
          </ul>
        </Panel>
      </div>
      <div className="mt-2">
        <BatchFiles batchId={batch.id} mayMake={mayMake} />
      </div>
      {ending && <EndDialog view={view} state={ending} onClose={() => setEnding(null)} />}
    </div>
  );
}

function StationCards({ view }: { view: BatchView }) {
  const words = useWords();
  const { t } = words;
  return (
    <ul className="mt-2 grid grid-cols-2 gap-1 sm:grid-cols-3 lg:grid-cols-5 xl:grid-cols-9">
      {view.flow.stations.map((s) => {
        const rows: [string, string][] = [];
        if (s.inMg > 0) rows.push([t('in'), words.mass(s.inMg)]);
        for (const a of s.additions.slice(0, 2))
          rows.push([words.word('ingredient', a.label), words.mass(a.massMg)]);
        for (const l of s.losses.filter((x) => x.massMg !== 0).slice(0, 2))
          rows.push([words.word('loss', l.reason), words.mass(l.massMg)]);
        if (s.outMg > 0) rows.push([t('out'), words.mass(s.outMg)]);
        const grind = s.station === 'grind' ? view.grind.at(-1) : undefined;
        if (grind) rows.push([t('grind.hours'), `${words.number(grind.hours, 1)} h`]);
        if (s.station === 'taste' && view.tastings.length > 0)
          rows.push([
            t('liking'),
            words.number(view.tastings.reduce((x, y) => x + y.card.liking, 0) / view.tastings.length, 1),
          ]);
        if (s.station === 'beans')
          rows.push([t('lot'), view.lot.code], [t('lot.price'), `${words.money(view.lot.pricePerKg)}`]);
        const ahead = s.state === 'ahead' || s.state === 'skipped';
        return (
          <li key={s.station}>
            <Link
              to={s.station === 'beans' ? `/beans/${view.lot.id}` : `/${s.station}/${view.batch.id}`}
              className={`block h-full min-h-[120px] overflow-hidden rounded border bg-panel hover:bg-panel-2 ${s.station === view.flow.here ? 'border-2 border-violet-text' : 'border-line'} ${ahead ? 'border-dashed' : ''}`}
            >
              <span
                aria-hidden="true"
                className="block h-[5px]"
                style={{ background: STAGE[s.station].fill }}
              />
              <span className="block px-2 pb-2 pt-1">
                <span className="flex justify-between gap-1 text-[12.5px] font-semibold">
                  <span className="truncate">{t(`station.${s.station}`)}</span>
                </span>
                <span className="block text-[12px] text-ink-3">{t(`flow.${s.state}`)}</span>
                {rows.map(([name, value]) => (
                  <span key={name + value} className="mt-1 block border-t border-line pt-1">
                    <span className="block truncate text-[12px] text-ink-3">{name}</span>
                    <span className="num block truncate text-[13.5px]">{value}</span>
                  </span>
                ))}
              </span>
            </Link>
          </li>
        );
      })}
    </ul>
  );
}

function Weights({ view }: { view: BatchView }) {
  const words = useWords();
  const { t } = words;
  const { disagreement: d } = view;
  const [correcting, setCorrecting] = useState<{ movement: MovementRecord; suggested?: number } | null>(null);
  const mayMake = useMayMake();
  const weighed = view.movements.filter((m) => m.inForce);
  const stationOf = (m: MovementRecord): Station => view.steps.find((s) => s.id === m.stepId)!.station;
  const replaced = (m: MovementRecord) => view.movements.find((o) => o.id === m.replaces);
  const sorted = [...weighed].sort((a, b) => STATIONS.indexOf(stationOf(a)) - STATIONS.indexOf(stationOf(b)));
  return (
    <div className="grid min-w-0 grid-cols-1 content-start gap-2">
      {d?.disagrees && (
        <section className="panel border-l-4 border-bad p-4" aria-label={t('disagree')}>
          <h2 className="flex items-start gap-2 text-[18px]">
            <TriangleAlert size={20} className="mt-0.5 shrink-0 text-bad" aria-hidden="true" />
            {d.suspects.length > 0
              ? t('disagree.title', {
                  mass: words.mass(Math.abs(Math.round(d.suspects[0]!.shortByMg))),
                  station: t(`station.${d.likeliestStation}`).toLocaleLowerCase(),
                })
              : t('disagree.step', { station: t(`station.${d.likeliestStation}`).toLocaleLowerCase() })}
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
                    <Button onClick={() => setCorrecting({ movement })}>{t('correct')}</Button>
                  )}
                </li>
              );
            })}
          </ul>
          <p className="mt-2 text-[12px] text-ink-3">
            {t('disagree.test', {
              chi: words.number(d.chiSquare, 1),
              df: d.degreesOfFreedom,
              p: d.pValue < 0.001 ? '< 0.001' : words.number(d.pValue, 3),
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
            { id: 'who', title: t('who'), cell: (m) => `${m.by} ${words.when(m.at)}` },
            {
              id: 'do',
              title: t('correct'),
              cell: (m) =>
                mayMake && view.batch.state === 'open' ? (
                  <button
                    type="button"
                    className="min-h-8 underline underline-offset-4"
                    aria-label={t('correct.this', { what: lineName(m, words) })}
                    onClick={() => setCorrecting({ movement: m })}
                  >
                    {t('correct')}
                  </button>
                ) : (
                  ''
                ),
            },
          ]}
        />
      </Panel>
      {correcting && (
        <CorrectDialog view={view} movement={correcting.movement} onClose={() => setCorrecting(null)} />
      )}
    </div>
  );
}

function Cost({ view }: { view: BatchView }) {
  const words = useWords();
  const { t } = words;
  const { cost, flow } = view;
  const shades = ['var(--violet)', 'var(--violet-2)', '#A886A3', '#C9B4C6', 'var(--line-2)', 'var(--line)'];
  const range =
    cost.forecast && flow.barsExpected && flow.barsExpected.low > 0
      ? `${words.money(cost.total / flow.barsExpected.high)}–${words.money(cost.total / flow.barsExpected.low)}`
      : null;
  return (
    <Panel
      title={t('cost')}
      aside={
        cost.bars > 0 ? t(cost.forecast ? 'cost.if' : 'cost.of', { n: words.number(cost.bars) }) : undefined
      }
      className="content-start"
    >
      <div className="flex items-end gap-4">
        <span className="num text-[38px] leading-none">
          {cost.perBar === null ? '—' : words.money(cost.perBar)}
        </span>
        <span className="text-[12.5px] text-ink-3">{range}</span>
      </div>
      <div className="mt-3 flex h-5 gap-px" aria-hidden="true">
        {cost.parts.map((p, i) => (
          <div
            key={p.label}
            style={{
              width: `${(100 * p.cost) / Math.max(cost.total, 1)}%`,
              background: shades[Math.min(i, shades.length - 1)],
            }}
          />
        ))}
      </div>
      <ul className="mt-2">
        {cost.parts.map((p, i) => (
          <li key={p.label} className="flex items-center gap-2 border-b border-line py-1.5">
            <span
              aria-hidden="true"
              className="size-3"
              style={{ background: shades[Math.min(i, shades.length - 1)] }}
            />
            <span className="grow">
              {words.word('cost', words.word('ingredient', p.label))}
              {p.label === 'labour' ? `, ${words.duration(cost.labourMinutes * 60)}` : ''}
            </span>
            <span className="num">
              {cost.bars > 0 ? words.money(p.cost / cost.bars) : words.money(p.cost)}
            </span>
          </li>
        ))}
      </ul>
      <p className="mt-2 text-[12px] text-ink-3">{t('cost.total', { money: words.money(cost.total) })}</p>
    </Panel>
  );
}

function EndDialog({
  view,
  state,
  onClose,
}: {
  view: BatchView;
  state: 'void' | 'abandoned';
  onClose: () => void;
}) {
  const words = useWords();
  const { t } = words;
  const send = useEntryHere();
  const [reason, setReason] = useState('');
  const [error, setError] = useState<string | null>(null);
  return (
    <Dialog
      open
      onClose={onClose}
      title={t(state === 'void' ? 'batch.void' : 'batch.abandon')}
      description={t(state === 'void' ? 'batch.void.text' : 'batch.abandon.text', { code: view.batch.code })}
    >
      <form
        className="grid gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          send({
            path: `/api/batches/${view.batch.id}/state`,
            body: { state, reason },
            label: t(`done.state.${state}`, { code: view.batch.code }),
            batchId: view.batch.id,
          }).then(onClose, (failure: unknown) => setError(words.explain(failure)));
        }}
      >
        <TextField
          label={t('batch.why')}
          value={reason}
          onChange={(e) => setReason(e.target.value)}
          required
          maxLength={400}
          error={error}
          autoFocus
        />
        <Button type="submit" look="danger" big disabled={reason.trim() === ''}>
          {t(state === 'void' ? 'batch.void' : 'batch.abandon')}
        </Button>
      </form>
    </Dialog>
  );
}

/** Photographs and documents of a batch. */
function BatchFiles({ batchId, mayMake }: { batchId: string; mayMake: boolean }) {
  const { data } = useSWR<Attachment[]>(`/api/attachments?batchId=${batchId}`, read);
  return <FilesPanel of={{ batchId }} files={data ?? []} mayMake={mayMake} />;
}
