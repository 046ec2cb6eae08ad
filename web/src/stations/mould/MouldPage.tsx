import { Printer } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import type { BatchView, StepRecord } from '@wunsch/contract';
import { bestBefore, countBars } from '@wunsch/core/mould';
import type { ChocolateType } from '@wunsch/core/temper';
import { newId } from '../../shell/entry.ts';
import { useSession } from '../../shell/session.tsx';
import { useKept } from '../../shell/useKept.ts';
import { Button } from '../../ui/Button.tsx';
import { Figure, Panel } from '../../ui/Panel.tsx';
import { QuantityField } from '../../ui/QuantityField.tsx';
import { useWords } from '../../words/words.tsx';
import { DoneSteps } from '../DoneSteps.tsx';
import { FillPanel } from './FillPanel.tsx';
import { Results } from './Results.tsx';
import { StationFrame } from '../StationFrame.tsx';
import { StepLines } from '../StepLedger.tsx';
import { useStep } from '../useStep.ts';
import { WeighIn } from '../WeighIn.tsx';
import { balanceOf, useWork } from '../work.ts';

/** Today as the calendar on this machine has it. */
function today(): string {
  const now = new Date();
  return `${now.getFullYear()}-${String(now.getMonth() + 1).padStart(2, '0')}-${String(now.getDate()).padStart(2, '0')}`;
}

/** What is typed while moulds are filled: masses in mg. */
interface Typed {
  fill?: number | null;
  cavities?: number | null;
  holdUp?: number | null;
}

function Pouring({ view, step, part }: { view: BatchView; step: StepRecord; part: number }) {
  const words = useWords();
  const { t } = words;
  const { workshop } = useSession();
  const work = useWork(view);
  const type: ChocolateType =
    view.steps.findLast((s) => s.station === 'temper')?.details.chocolateType ?? view.recipe?.kind ?? 'dark';
  const { inMg, outMg, lossMg } = balanceOf(view, step.id);
  // What is typed here is worked with for an hour: a reload must not put another bar in its place.
  const [typed, setTyped, forgetTyped] = useKept<Typed>(`pour.${step.id}`);
  const set = (what: keyof Typed) => (value: number | null) => setTyped((now) => ({ ...now, [what]: value }));
  const { fill, cavities, holdUp }: Required<Typed> = {
    fill: step.details.fillMg ?? view.batch.barMg,
    cavities: step.details.cavities ?? null,
    holdUp: Math.min(350_000, Math.round(inMg * 0.015)),
    ...typed,
  };
  const [bars, setBars] = useState<number | null>(null);
  const [left, setLeft] = useState<number | null>(null);
  const [busy, setBusy] = useState(false);
  const count =
    fill && inMg > 0
      ? countBars({
          massMg: Math.max(0, inMg - outMg - lossMg),
          holdUpMg: holdUp ?? 0,
          fillMg: fill,
          ...(cavities && { cavities }),
        })
      : null;
  const poured = bars ?? count?.bars ?? 0;
  const rest = fill ? inMg - outMg - lossMg - poured * fill - (holdUp ?? 0) : 0;
  const kept = left ?? Math.max(0, rest);
  // What is given away is chocolate; hands and wrapping cost the same.
  const chocolate = view.cost.parts.filter((p) => p.label !== 'labour' && p.label !== 'packaging');
  const chocolateMg = view.cost.bars * view.batch.barMg;
  const pricePerKg =
    chocolateMg > 0 ? chocolate.reduce((sum, p) => sum + p.cost, 0) / (chocolateMg / 1e6) : null;
  const madeOn = today();
  const keeps = bestBefore(madeOn, workshop.keepingMonths[type]);
  const record = async () => {
    if (!fill || poured < 1) return;
    setBusy(true);
    try {
      const code = `${view.batch.code}${part > 1 ? String.fromCharCode(64 + part) : ''}`;
      await work.moulded(step, {
        made: [
          {
            material: 'bars',
            count: poured,
            massMg: poured * fill,
            movementId: newId(),
            parcelId: newId(),
          },
        ],
        rework: kept > 0 ? { massMg: kept, movementId: newId(), parcelId: newId() } : null,
        holdUp: holdUp && holdUp > 0 ? { massMg: holdUp, movementId: newId() } : null,
        details: {
          fillMg: fill,
          ...(cavities && { cavities }),
          madeOn,
          bestBefore: keeps,
          barCode: `${code}-${madeOn.slice(2).replaceAll('-', '')}`,
        },
        remainder: rest - kept > 0 ? 'trim' : rest - kept < 0 ? 'unexplained' : null,
        remainderId: newId(),
        handsOnMinutes: Math.min(480, Math.round((Date.now() - Date.parse(step.startedAt)) / 60_000)),
      });
      forgetTyped();
    } catch {
      setBusy(false);
    }
  };
  return (
    <div className="grid gap-2">
      <div className="grid gap-2 lg:grid-cols-[1.2fr_1fr]">
        <Panel title={t('mould.pour')} aside={t('mould.in-bowl', { mass: words.mass(inMg) })}>
          <div className="grid gap-3 sm:grid-cols-2">
            <QuantityField
              label={t('mould.fill')}
              dimension="mass"
              value={fill}
              onChange={set('fill')}
              min={1000}
              max={5_000_000}
            />
            <QuantityField
              label={t('mould.cavities')}
              dimension="count"
              value={cavities}
              onChange={set('cavities')}
              min={1}
              max={1000}
              optional
            />
            <QuantityField
              label={t('mould.hold-up')}
              dimension="mass"
              value={holdUp}
              onChange={set('holdUp')}
              max={inMg}
              hint={t('mould.hold-up.hint')}
            />
            <QuantityField
              key={`b${count?.bars}`}
              label={t('mould.poured')}
              dimension="count"
              value={poured}
              onChange={setBars}
              min={0}
              max={fill ? Math.floor(inMg / fill) : undefined}
              hint={t('mould.poured.hint')}
            />
            <QuantityField
              key={`l${Math.max(0, rest)}`}
              label={t('mould.left')}
              dimension="mass"
              value={kept}
              onChange={setLeft}
              max={inMg}
              hint={t('mould.left.hint')}
            />
          </div>
          <div className="mt-4 flex flex-wrap gap-2">
            <Button
              look="main"
              big
              disabled={!fill || poured < 1 || busy}
              onClick={() => void record()}
              data-key="w"
            >
              {t('mould.record', { n: words.number(poured) })}
            </Button>
            <WeighIn
              view={view}
              station="mould"
              title={t('mould.more')}
              onStep={() => Promise.resolve(step.id)}
              main={false}
            />
          </div>
        </Panel>
        <Panel title={t('mould.makes')}>
          <div className="flex flex-wrap items-end gap-6">
            <div className="num text-[46px] leading-none">{words.number(count?.bars ?? 0)}</div>
            <Figure name={t('mould.fills')}>{count?.fills ? words.number(count.fills) : '—'}</Figure>
            <Figure name={t('mould.leaves')}>{count ? words.mass(count.leftMg) : '—'}</Figure>
            <Figure name={t('best-before')}>{words.day(`${keeps}T12:00:00Z`)}</Figure>
          </div>
          <p className="mt-3 text-[12.5px] text-ink-3">{t('mould.makes.hint')}</p>
          <div className="mt-3">
            <StepLines view={view} step={step} />
          </div>
        </Panel>
      </div>
      {fill && <FillPanel view={view} step={step} nominalMg={fill} pricePerKg={pricePerKg} />}
    </div>
  );
}

function Moulding({ view }: { view: BatchView }) {
  const words = useWords();
  const { t } = words;
  const { step, done, ensure, weighNow } = useStep(view, 'mould');
  return (
    <>
      {step ? (
        <Pouring key={step.id} view={view} step={step} part={done.length + 1} />
      ) : (
        <Panel title={t('mould.begin')}>
          <p className="mb-4 max-w-prose text-[14px] text-ink-2">{t('mould.begin.text')}</p>
          <WeighIn view={view} station="mould" title={t('mould.in')} onStep={ensure} startOpen={weighNow} />
        </Panel>
      )}
      {done.length > 0 && (
        <Panel title={t('labels')} className="mt-2">
          <ul className="grid gap-2">
            {done.map((s) => (
              <li key={s.id} className="flex flex-wrap items-center gap-4 border-b border-line pb-2">
                <span className="num text-[17px]">{s.details.barCode ?? view.batch.code}</span>
                <span className="grow text-ink-2">
                  {s.details.bestBefore &&
                    t('label.best-before', { day: words.day(`${s.details.bestBefore}T12:00:00Z`) })}
                </span>
                <Link
                  to={`/label/${view.batch.id}/${s.id}`}
                  className="inline-flex min-h-11 items-center gap-2 rounded border border-edge px-4 font-semibold hover:bg-panel-2"
                >
                  <Printer size={17} aria-hidden="true" /> {t('label.print')}
                </Link>
              </li>
            ))}
          </ul>
        </Panel>
      )}
      <Results view={view} steps={done} />
      <DoneSteps view={view} steps={done} />
    </>
  );
}

/** Mould: bars from mass and fill, exact; hold-up and left-over recorded; a code and a best-before. */
export default function MouldPage() {
  return <StationFrame station="mould">{(view) => <Moulding view={view} />}</StationFrame>;
}
