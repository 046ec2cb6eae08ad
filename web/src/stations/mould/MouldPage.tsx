import { Pencil, Printer } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import type { BatchView, MouldRecord, StepRecord } from '@wunsch/contract';
import { barCostOf, useSpending } from '../../batch/spending.ts';
import { useRead } from '../../shell/door.tsx';
import { useNow } from '../../shell/now.ts';
import { useMayMake } from '../../shell/session.tsx';
import { Button } from '../../ui/Button.tsx';
import { Choice } from '../../ui/Field.tsx';
import { Panel } from '../../ui/Panel.tsx';
import { useWords } from '../../words/words.tsx';
import { DoneSteps } from '../DoneSteps.tsx';
import { StationFrame } from '../StationFrame.tsx';
import { useStep } from '../useStep.ts';
import { WeighIn } from '../WeighIn.tsx';
import { linesOf } from '../work.ts';
import { BestBeforeDialog } from './BestBeforeDialog.tsx';
import { Cabinet } from './Cabinet.tsx';
import { FillPanel } from './FillPanel.tsx';
import { Lasts } from './Lasts.tsx';
import { MouldDialog } from './MouldDialog.tsx';
import { OutOfTheCold } from './OutOfTheCold.tsx';
import { Pour, usePouring } from './Pour.tsx';
import { Results } from './Results.tsx';
import { ShellPlanFields, shellPlanOf, Shells, type ShellPlanned } from './Shells.tsx';
import {
  bowlOf,
  ROUND_HABITS,
  roundsAhead,
  roundsOf,
  useBowlEnd,
  useCabinet,
  useOthersInside,
  useMoulds,
} from './useMoulding.ts';
import { useFillWeights } from './useFillWeights.ts';
import { Wrap } from './Wrap.tsx';

/** What a kilogram of this chocolate costs, minor units; null where it is not known. */
function usePricePerKg(view: BatchView): number | null {
  const spending = useSpending(view.batch.id);
  const of = spending && barCostOf(spending, view);
  // What is given away is chocolate; hands and wrapping cost the same.
  return of ? (of.bar.beans + of.bar.ingredients) / (view.batch.barMg / 1e6) : null;
}

/** Moulds being filled: the cabinet, whether the bowl lasts, what it makes, and what the scale says. */
function Pouring({ view, step, part }: { view: BatchView; step: StepRecord; part: number }) {
  const words = useWords();
  const { t } = words;
  const now = useNow(10_000);
  const pouring = usePouring(view, step);
  const weighed = useFillWeights(view, step);
  const pricePerKg = usePricePerKg(view);
  const cabinet = useCabinet();
  const rounds = roundsOf(view, step);
  const others = useOthersInside(step.id);
  const { typed, mould, count, cavities } = pouring;
  // A moulding without a bowl's log has no end that could be told.
  const end = useBowlEnd(view, bowlOf(view, step) ?? step);
  const setMinutes = typed.setMinutes ?? ROUND_HABITS.setMinutes;
  const ahead = roundsAhead(
    {
      bars: count?.bars ?? 0,
      mould,
      cavities,
      places: cabinet?.places ?? null,
      setMinutes,
      bowlMinutes: end !== null && end !== 'long' ? Math.max(0, (end.middle - now) / 60_000) : null,
      others,
    },
    rounds,
    now,
  );
  const plan = ahead === 'too-wide' ? null : ahead;
  const first = plan?.rounds[0];
  return (
    <div className="grid gap-2">
      <div className="grid gap-2 lg:grid-cols-[1.25fr_1fr]">
        <div className="grid min-w-0 content-start gap-2">
          {cavities ? (
            <>
              <Cabinet
                view={view}
                step={step}
                rounds={rounds}
                others={others}
                places={cabinet?.places ?? null}
                placesPerMould={mould?.places ?? 1}
                cavities={cavities}
                next={first ? { moulds: first.moulds, bars: first.bars } : null}
                setMinutes={setMinutes}
              />
              {ahead === 'too-wide' && (
                <p role="alert" className="text-[13px] text-bad">
                  {t('cabinet.too-wide', {
                    takes: words.number(mould?.places ?? 1, (mould?.places ?? 1) % 1 ? 1 : 0),
                    places: words.number(cabinet?.places ?? 0),
                  })}
                </p>
              )}
              <Lasts rounds={rounds} ahead={plan} pouredAt={Date.parse(step.startedAt)} end={end} />
            </>
          ) : (
            <Panel title={t('cabinet')}>
              <p className="max-w-prose text-[14px] text-ink-2">{t('cabinet.which')}</p>
            </Panel>
          )}
          {typed.fill && <FillPanel weighed={weighed} nominalMg={typed.fill} pricePerKg={pricePerKg} />}
        </div>
        <div className="grid min-w-0 content-start gap-2">
          <Pour view={view} step={step} part={part} pouring={pouring} onCounted={weighed.keep} />
        </div>
      </div>
    </div>
  );
}

/** The beginning: bars, or shells that are filled later; or shells that wait to be filled. */
function Begin({
  view,
  onShells,
  shells,
  children,
}: {
  view: BatchView;
  shells: Partial<Record<keyof ShellPlanned, number | null>> | null;
  onShells: (shells: Partial<Record<keyof ShellPlanned, number | null>> | null) => void;
  children: React.ReactNode;
}) {
  const words = useWords();
  const { t } = words;
  const waiting = view.parcels.some((p) => p.material === 'shells' && p.remainingMg > 0);
  const planned = shells ? shellPlanOf(shells) : null;
  return (
    <Panel title={t('mould.begin')}>
      <p className="mb-3 max-w-prose text-[14px] text-ink-2">
        {t(waiting ? 'shell.waiting' : 'mould.begin.text')}
      </p>
      {!waiting && (
        <div className="mb-4 grid gap-3">
          <Choice
            label={t('mould.what')}
            value={shells ? 'shells' : 'bars'}
            options={[
              { value: 'bars', label: t('mould.what.bars') },
              { value: 'shells', label: t('mould.what.shells') },
            ]}
            onChange={(what) =>
              onShells(
                what === 'shells'
                  ? { pieces: 96, brimMg: 11_000, shellMg: 5000, fillingMg: 4500, capMg: 1500 }
                  : null,
              )
            }
          />
          {shells && <ShellPlanFields value={shells} onChange={onShells} />}
          {planned && !('fault' in planned) && (
            <p className="text-[13.5px] text-ink-2">
              {t('shell.sum', {
                pour: words.mass(planned.plan.pourMg),
                drain: words.mass(planned.plan.drainMg),
                filling: words.mass(planned.plan.fillingMg),
                percent: words.number(planned.plan.chocolatePercent),
              })}
            </p>
          )}
          {planned && 'fault' in planned && (
            <p role="alert" className="text-[13px] text-bad">
              {t(`shell.fault.${planned.fault}`)}
            </p>
          )}
        </div>
      )}
      {(!shells || (planned && !('fault' in planned))) && children}
    </Panel>
  );
}

function Moulding({ view }: { view: BatchView }) {
  const words = useWords();
  const { t } = words;
  const [shells, setShells] = useState<Partial<Record<keyof ShellPlanned, number | null>> | null>(null);
  const earlier = view.steps.findLast((s) => s.kind === 'mould' && s.details.shells)?.details.shells;
  const waiting = view.parcels.some((p) => p.material === 'shells' && p.remainingMg > 0);
  const planned = shells ? shellPlanOf(shells) : null;
  const { step, done, take, weighNow } = useStep(view, 'mould', () => ({
    details:
      waiting && earlier
        ? { shells: earlier }
        : planned && !('fault' in planned)
          ? { shells: planned.shells }
          : {},
  }));
  const part = done.filter((s) => s.details.barCode).length + 1;
  return (
    <>
      {!step && view.batch.state !== 'open' ? null : !step ? (
        <Begin view={view} shells={shells} onShells={setShells}>
          <WeighIn
            view={view}
            station="mould"
            title={t('mould.in')}
            take={take}
            together
            startOpen={weighNow}
          />
        </Begin>
      ) : step.details.shells ? (
        <Shells key={step.id} view={view} step={step} shells={step.details.shells} part={part} />
      ) : (
        <Pouring key={step.id} view={view} step={step} part={part} />
      )}
      <Labels view={view} steps={done} />
      <Wrap view={view} />
      <Results view={view} steps={done.filter((s) => s.details.barCode)} />
      <div className="mt-2 grid gap-2 lg:grid-cols-2">
        <OutOfTheCold barMg={view.batch.barMg} />
        <MouldList />
      </div>
      <DoneSteps view={view} steps={done} />
    </>
  );
}

/** The bars made, each with its code, and the way to its label. */
function Labels({ view, steps }: { view: BatchView; steps: readonly StepRecord[] }) {
  const words = useWords();
  const { t } = words;
  const mayMake = useMayMake();
  const [keeping, setKeeping] = useState<StepRecord | null>(null);
  const made = steps.flatMap((s) =>
    linesOf(view, s.id)
      .filter(
        (m) => m.direction === 'out' && m.parcelId && (m.material === 'bars' || m.material === 'blocks'),
      )
      .map((m) => ({ step: s, line: m })),
  );
  if (made.length === 0) return null;
  return (
    <Panel title={t('labels')} className="mt-2">
      <ul className="grid gap-2">
        {made.map(({ step: s, line }) => (
          <li key={line.id} className="flex flex-wrap items-center gap-4 border-b border-line pb-2">
            <span className="num text-[17px]">{s.details.barCode ?? view.batch.code}</span>
            <span className="grow text-ink-2">
              {t('bars.n', { n: line.count ?? 0 })}
              {s.details.bestBefore &&
                ` · ${t('label.best-before', { day: words.day(s.details.bestBefore) })}`}
            </span>
            {mayMake && (
              <Button look="quiet" onClick={() => setKeeping(s)}>
                {t(s.details.bestBefore ? 'best-before.change' : 'best-before.say')}
              </Button>
            )}
            <Link
              to={`/label/${view.batch.id}/${line.parcelId}`}
              className="inline-flex min-h-11 items-center gap-2 rounded border border-edge px-4 font-semibold hover:bg-panel-2"
            >
              <Printer size={17} aria-hidden="true" /> {t('label.print')}
            </Link>
          </li>
        ))}
      </ul>
      {keeping && <BestBeforeDialog view={view} step={keeping} onClose={() => setKeeping(null)} />}
    </Panel>
  );
}

/** The moulds the workshop has. */
function MouldList() {
  const words = useWords();
  const { t } = words;
  const moulds = useMoulds();
  const isKnown = useRead<MouldRecord[]>('/api/moulds').data !== undefined;
  const [open, setOpen] = useState<MouldRecord | 'new' | null>(null);
  return (
    <Panel title={t('moulds')} aside={<Button onClick={() => setOpen('new')}>{t('mouldform.add')}</Button>}>
      {moulds.length === 0 ? (
        <p className="text-[13.5px] text-ink-2">{t(isKnown ? 'moulds.none' : 'loading')}</p>
      ) : (
        <ul>
          {moulds.map((m) => (
            <li key={m.id} className="flex items-center gap-3 border-b border-line py-1 last:border-0">
              <span className="grow">
                <strong className="block text-[14px]">{m.name}</strong>
                <span className="text-[12.5px] text-ink-2">
                  {t('moulds.line', {
                    count: words.number(m.count),
                    cavities: m.cavities,
                    fill: words.mass(m.fillMg),
                  })}
                </span>
              </span>
              <Button
                look="quiet"
                onClick={() => setOpen(m)}
                aria-label={t('mouldform.change', { name: m.name })}
                icon={<Pencil size={16} aria-hidden="true" />}
              />
            </li>
          ))}
        </ul>
      )}
      {open && (
        <MouldDialog
          key={open === 'new' ? 'new' : open.id}
          mould={open === 'new' ? null : open}
          onClose={() => setOpen(null)}
        />
      )}
    </Panel>
  );
}

/** Mould: bars from mass and fill, exact; rounds in the cabinet while the bowl lasts; shells filled; wrapped and labelled. */
export default function MouldPage() {
  const { t } = useWords();
  return (
    <>
      <StationFrame station="mould">{(view) => <Moulding view={view} />}</StationFrame>
      <nav className="flex flex-wrap gap-5 px-4 pb-6" aria-label={t('station.mould')}>
        <Link to="/mould/fillings" className="inline-flex min-h-11 items-center font-semibold underline">
          {t('fillings')}
        </Link>
      </nav>
    </>
  );
}
