import { Ellipsis } from 'lucide-react';
import { useEffect, useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import type { Attachment, BatchView } from '@wunsch/contract';
import { lotWords } from '@wunsch/core/beans';
import { NotFound } from '../shell/NotFound.tsx';
import { isMissing } from '../shell/api.ts';
import { useRead } from '../shell/door.tsx';
import { BatchCases } from '../cases/BatchCases.tsx';
import { PublishPanel } from '../publicBar/PublishPanel.tsx';
import { Ribbon } from '../ribbon/Ribbon.tsx';
import { RibbonTable } from '../ribbon/RibbonTable.tsx';
import { takeInHand, useBatch } from '../shell/inhand.ts';
import { isAllDone, nextWords, tagOf } from '../shell/nextWords.ts';
import { useNow } from '../shell/now.ts';
import { useMayMake } from '../shell/session.tsx';
import { lastEntries } from '../shell/Slip.tsx';
import { useColumn } from '../shell/useColumn.ts';
import { useBatchState } from '../shell/useBatchState.ts';
import { Tastings } from '../stations/taste/TastePage.tsx';
import { Button } from '../ui/Button.tsx';
import { Menu } from '../ui/Menu.tsx';
import { Chip, Panel } from '../ui/Panel.tsx';
import { FilesPanel } from '../stations/Files.tsx';
import { useFold } from '../ui/useFold.tsx';
import { useWords } from '../words/words.tsx';
import { StationCards } from './StationCards.tsx';
import { Weights } from './Weights.tsx';
import { Cost } from './Cost.tsx';
import { EndDialog } from './EndDialog.tsx';
import { RouteDialog } from './RouteDialog.tsx';

const RIBBON_HEIGHT = 262;

/** Entries shown at first. */
const FIRST_ENTRIES = 12;

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
  const [routing, setRouting] = useState(false);
  const setState = useBatchState();
  useEffect(() => {
    if (view) takeInHand(view.batch.id);
  }, [view]);
  if (isMissing(error)) return <NotFound />;
  if (!view) return <p className="p-6 text-ink-3">{t('loading')}</p>;
  const { batch, flow, lot } = view;
  const roast = flow.stations.find((s) => s.station === 'roast');
  const tallest = Math.max(
    flow.startMg,
    ...flow.stations.map((s) => Math.max(s.expected.meanMg, s.outMg)),
    1,
  );
  const action = nextWords(batch, view.next, words);
  return (
    <div className="p-3">
      <header className="mb-2 flex flex-wrap items-center gap-x-4 gap-y-2 px-1">
        <h1 className="text-[28px] leading-none">{batch.code}</h1>
        <p className="grow text-[13px] text-ink-3">
          {[
            lotWords(lot.name, lot.harvest).join(' '),
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
            {action.button}
          </Button>
        )}
        {mayMake && isAllDone(view) && (
          <Button look="main" onClick={() => setState(batch, 'finished')}>
            {t('batch.finish')}
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
                ? [{ label: t('batch.finish'), run: () => setState(batch, 'finished') }]
                : batch.state === 'finished'
                  ? [{ label: t('batch.reopen'), run: () => setState(batch, 'open') }]
                  : []),
              ...(batch.state === 'open' ? [{ label: t('route.change'), run: () => setRouting(true) }] : []),
              { label: t('cases.new'), run: () => void navigate(`/case/new?batch=${batch.id}`) },
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
        tabIndex={wide ? undefined : 0}
      >
        <div className="p-3">
          {batch.route.includes('winnow') && (
            <div className="mb-4">
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
            </div>
          )}
          <div className="text-[12px] text-ink-3">{t('bars')}</div>
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
      <RibbonTable flow={flow} />
      <StationCards view={view} />
      <div className="mt-2 grid grid-cols-1 items-start gap-2 lg:grid-cols-[1.35fr_1fr]">
        <div className="grid min-w-0 grid-cols-1 gap-2">
          <Weights view={view} />
          <Panel title={t('batch.tastings')}>
            <Tastings view={view} />
          </Panel>
          <BatchFiles batchId={batch.id} mayMake={mayMake} />
        </div>
        <div className="grid min-w-0 grid-cols-1 gap-2">
          <Cost view={view} />
          <Entries view={view} />
          <PublishPanel view={view} />
          <BatchCases batchId={batch.id} />
        </div>
      </div>
      {routing && <RouteDialog view={view} onClose={() => setRouting(false)} />}
      {ending && <EndDialog view={view} state={ending} onClose={() => setEnding(null)} />}
    </div>
  );
}

/** Everything entered on a batch, newest first. */
function Entries({ view }: { view: BatchView }) {
  const words = useWords();
  const entries = lastEntries(view, words, 400);
  const fold = useFold(entries.length, FIRST_ENTRIES);
  return (
    <Panel title={words.t('batch.entries')}>
      <ul>
        {entries.map((e, i) => (
          <li
            key={e.id}
            className={`gap-3 border-b border-line py-1.5 text-[13px] ${fold.hides(i) ? 'hidden print:flex' : 'flex'}`}
          >
            <span className="w-24 shrink-0 tabular-nums text-ink-3">{words.when(e.at)}</span>
            <span className="grow">{e.text}</span>
            <span className="text-ink-3">{e.by}</span>
          </li>
        ))}
      </ul>
      {fold.more}
    </Panel>
  );
}

/** Photographs and documents of a batch. */
function BatchFiles({ batchId, mayMake }: { batchId: string; mayMake: boolean }) {
  const { data } = useRead<Attachment[]>(`/api/attachments?batchId=${batchId}`);
  return <FilesPanel of={{ batchId }} files={data ?? []} mayMake={mayMake} />;
}
