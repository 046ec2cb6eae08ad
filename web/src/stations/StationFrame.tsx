import { Plus } from 'lucide-react';
import { useEffect, useState, type ReactNode } from 'react';
import { Link, useLocation, useNavigate, useParams } from 'react-router';
import type { BatchView, BenchBatch, StepRecord } from '@wunsch/contract';
import type { Station } from '@wunsch/core/ledger';
import { lotWords } from '@wunsch/core/beans';
import { Reminders } from '../cases/Reminders.tsx';
import { AtOnce } from './AtOnce.tsx';
import { Beside } from './Beside.tsx';
import { Caution } from './Caution.tsx';
import { Onwards } from './Onwards.tsx';
import { Explained } from './Explained.tsx';
import { StartBatch } from '../batch/StartBatch.tsx';
import { chosenStep } from '../shell/chosenStep.ts';
import { NotFound } from '../shell/NotFound.tsx';
import { Glyph } from '../shell/glyphs.tsx';
import { takeInHand, useBatch, useInHand } from '../shell/inhand.ts';
import { isMissing } from '../shell/api.ts';
import { useDoor } from '../shell/door.tsx';
import { useBench, useMayMake } from '../shell/session.tsx';
import { Button } from '../ui/Button.tsx';
import { Chip, EmptyState } from '../ui/Panel.tsx';
import { useWords } from '../words/words.tsx';

/** Batches that are at a station, or could come to it next. */
function batchesAt(batches: readonly BenchBatch[], station: Station): BenchBatch[] {
  const here = (b: BenchBatch) => {
    const flow = b.flow.stations.find((s) => s.station === station);
    return (
      b.next.station === station ||
      (flow?.state === 'running' && station !== 'taste') ||
      flow?.state === 'waiting' ||
      (station === 'taste' && b.flow.bars > 0)
    );
  };
  return batches.filter(here);
}

/** A station's working screen: the batches that are here, and the work on the one chosen. The address holds the batch. */
export function StationFrame({
  station,
  action,
  children,
}: {
  station: Station;
  /** What else the station has, at the end of its head. */
  action?: ReactNode;
  children: (view: BatchView) => ReactNode;
}) {
  const { t } = useWords();
  const { batchId } = useParams();
  const { isPractice } = useDoor();
  const { data: bench } = useBench();
  const inHand = useInHand();
  const here = bench ? batchesAt(bench.batches, station) : [];
  // The batch in hand may go to any station: raw beans skip the roast, bought nibs the winnower.
  const carried = bench?.batches.find((b) => b.id === inHand && !here.includes(b));
  const chosen = batchId ?? here.find((b) => b.id === inHand)?.id ?? here[0]?.id ?? null;
  const { search } = useLocation();
  const navigate = useNavigate();
  const { data: view, error } = useBatch(chosen);
  const open = view?.steps.filter((s) => s.station === station && s.status === 'open') ?? [];
  const step = chosenStep(open, new URLSearchParams(search));
  const [starting, setStarting] = useState(false);
  const mayMake = useMayMake();
  useEffect(() => {
    if (!chosen) return;
    if (isPractice) return;
    takeInHand(chosen);
    // The address holds the place, so that it stays when the batch has moved on to the next station.
    if (!batchId) void navigate(`/${station}/${chosen}${search}`, { replace: true });
  }, [chosen, batchId, station, search, navigate, isPractice]);
  return (
    <div className="p-3 sm:px-4">
      <header className="mb-3 flex flex-wrap items-center gap-x-4 gap-y-2">
        <h1 className="flex items-center gap-2 text-[26px]">
          <Glyph station={station} size={26} />
          {view && chosen ? t(`at.${station}`, { code: view.batch.code }) : t(`station.${station}`)}
        </h1>
        <nav aria-label={t('batches-here')} className="flex flex-wrap gap-1.5">
          {(isPractice ? [] : [...here, ...(carried ? [carried] : [])]).map((b) => (
            <Link
              key={b.id}
              to={`/${station}/${b.id}`}
              aria-current={b.id === chosen ? 'page' : undefined}
              className={`num grid min-h-11 min-w-14 place-items-center rounded border px-3 text-[14px] ${b.id === chosen ? 'border-2 border-violet-text bg-panel' : 'border-edge bg-panel text-ink-2 hover:bg-panel-2'}`}
            >
              {b.code}
            </Link>
          ))}
        </nav>
        {view && <AtOnce view={view} station={station} />}
        {action && <div className="ml-auto">{action}</div>}
        {/* Nothing leads out of a practice but its own line. */}
        {mayMake && !isPractice && (
          <Button
            look="quiet"
            icon={<Plus size={16} aria-hidden="true" />}
            onClick={() => setStarting(true)}
            className={action ? '' : 'ml-auto'}
          >
            {t('batch.start')}
          </Button>
        )}
      </header>
      {isMissing(error) ? (
        <NotFound isPage={false} />
      ) : !chosen && bench ? (
        <EmptyState
          title={t(`empty.${station}.title`)}
          action={
            mayMake && (
              <Button look="main" big onClick={() => setStarting(true)}>
                {t('batch.start')}
              </Button>
            )
          }
        >
          {t(`empty.${station}.text`)}
        </EmptyState>
      ) : !view ? (
        <p className="text-ink-3">{t('loading')}</p>
      ) : (
        <>
          <p data-lot="" className="-mt-2 mb-3 flex flex-wrap items-center gap-2 text-[12.5px] text-ink-3">
            {[...lotWords(view.lot.name, view.lot.harvest), view.lot.country].filter(Boolean).join(', ')}
            {view.origins.length > 1 && (
              <Chip tone="bad">{t('mixed', { origins: view.origins.join(', ') })}</Chip>
            )}
            {view.batch.state !== 'open' && <Chip>{t(`state.${view.batch.state}`)}</Chip>}
          </p>
          {!isPractice && <Onwards station={station} view={view} />}
          <Caution station={station} />
          {isDrawn(station, step) && (
            <Explained station={station} isConche={station === 'grind' && step?.kind === 'conche'} />
          )}
          <Beside station={station} />
          <Reminders station={station} view={view} />
          {/* Made anew for each batch, so that a weight typed for one is never entered for another. */}
          <fieldset key={view.batch.id} disabled={!mayMake && station !== 'taste'} className="contents">
            {children(view)}
          </fieldset>
        </>
      )}
      {starting && <StartBatch onClose={() => setStarting(false)} />}
    </div>
  );
}

/** Whether a station's picture stands on its page: at these only while work is going on, and what is not seen cannot be explained. */
function isDrawn(station: Station, step: StepRecord | undefined): boolean {
  if (station !== 'grind' && station !== 'temper' && station !== 'mould') return true;
  return step !== undefined && !step.details.shells;
}
