import { Wand2 } from 'lucide-react';
import { useState } from 'react';
import type { RoastAimDetails } from '@wunsch/contract';
import { type AimResult, type BeanLearning, type OvenLearning, type RoastPlan } from '@wunsch/core/roast';
import { Button } from '../../ui/Button.tsx';
import { QuantityField } from '../../ui/QuantityField.tsx';
import { useWords } from '../../words/words.tsx';
import { solveWork } from '../../workers/roast.ts';
import { WorkCancelled } from '../../workers/worker.ts';

/** Works out a plan for an aim, and says what of it cannot be met. */
export function Solver({
  plan,
  onPlan,
  aim,
  onAim,
  learning,
  beans,
  loadKg,
  every,
}: {
  plan: RoastPlan;
  onPlan: (plan: RoastPlan) => void;
  aim: RoastAimDetails;
  onAim: (aim: RoastAimDetails) => void;
  learning: OvenLearning | null;
  beans: BeanLearning | null;
  loadKg: number;
  every: number | undefined;
}) {
  const words = useWords();
  const { t } = words;
  const [maxMinutes, setMaxMinutes] = useState<number | null>(null);
  const [busy, setBusy] = useState(false);
  const [found, setFound] = useState<{ results: AimResult[]; aim: RoastAimDetails } | null>(null);
  const [failure, setFailure] = useState<string | null>(null);
  const solve = async () => {
    if (!learning || !beans) return;
    setBusy(true);
    setFailure(null);
    const { moistureLow, moistureHigh } = aim;
    const answer = await solveWork
      .ask((thread) =>
        thread.solve({
          start: plan,
          bean: beans.bean,
          oven: learning.oven,
          loadKg,
          stirEvery: every,
          dialUnit: words.temperatureUnit,
          aim: {
            doseMinutes: aim.doseMinutes,
            acidGone: aim.acidGone,
            surfaceMaxC: aim.surfaceMaxC,
            moisture: moistureLow !== null && moistureHigh !== null ? [moistureLow, moistureHigh] : null,
            maxMinutes,
          },
        }),
      )
      .catch((error: unknown) => {
        if (!(error instanceof WorkCancelled)) setFailure(words.explain(error));
        return null;
      });
    setBusy(false);
    if (!answer) return;
    setFound({ results: answer.results, aim });
    onPlan({ ...answer.plan, name: answer.plan.name });
  };
  const write = (r: AimResult, v: number) => {
    if (r.what === 'acid') return words.percent(v, 0);
    if (r.what === 'surface') return words.temperature(v);
    if (r.what === 'moisture') return `${words.number(v, 1)} %`;
    return `${words.number(v, 1)} ${t('unit.min')}`;
  };
  /** What was wished for, as the limit or the range that it is. */
  const wish = (r: AimResult, { moistureLow, moistureHigh }: RoastAimDetails) => {
    const bound = write(r, r.wanted);
    if (r.what === 'acid') return t('roast.aim.at-least', { bound });
    if (r.what === 'surface' || r.what === 'minutes') return t('roast.aim.at-most', { bound });
    if (r.what === 'moisture' && moistureLow !== null && moistureHigh !== null)
      return `${words.number(moistureLow, 1)}–${write(r, moistureHigh)}`;
    return bound;
  };
  return (
    <details className="rounded border border-line p-3">
      <summary className="min-h-8 cursor-pointer font-semibold">{t('roast.aim')}</summary>
      <div className="mt-2 grid grid-cols-2 gap-2 md:grid-cols-3">
        <QuantityField
          label={t('roast.aim.dose')}
          dimension="duration"
          value={aim.doseMinutes === null ? null : Math.round(aim.doseMinutes * 60)}
          onChange={(v) => onAim({ ...aim, doseMinutes: v === null ? null : v / 60 })}
          min={30}
          max={12_000}
          optional
        />
        <QuantityField
          label={t('roast.aim.acid')}
          dimension="percent"
          value={aim.acidGone === null ? null : Math.round(aim.acidGone * 1000) / 10}
          onChange={(v) => onAim({ ...aim, acidGone: v === null ? null : v / 100 })}
          min={0}
          max={100}
          optional
        />
        <QuantityField
          label={t('roast.aim.surface')}
          dimension="temperature"
          value={aim.surfaceMaxC}
          onChange={(v) => onAim({ ...aim, surfaceMaxC: v })}
          min={60}
          max={300}
          optional
        />
        <QuantityField
          label={t('roast.aim.moisture-low')}
          dimension="percent"
          value={aim.moistureLow}
          onChange={(v) => onAim({ ...aim, moistureLow: v })}
          min={0}
          max={20}
          optional
        />
        <QuantityField
          label={t('roast.aim.moisture-high')}
          dimension="percent"
          value={aim.moistureHigh}
          onChange={(v) => onAim({ ...aim, moistureHigh: v })}
          min={0}
          max={20}
          optional
        />
        <QuantityField
          label={t('roast.aim.minutes')}
          dimension="duration"
          value={maxMinutes === null ? null : maxMinutes * 60}
          onChange={(v) => setMaxMinutes(v === null ? null : v / 60)}
          min={60}
          max={36_000}
          optional
        />
      </div>
      <div className="mt-3 flex flex-wrap items-center gap-3">
        <Button
          look="main"
          icon={<Wand2 size={17} aria-hidden="true" />}
          disabled={busy || !learning || !(loadKg > 0)}
          onClick={() => void solve()}
        >
          {t('roast.aim.solve')}
        </Button>
        {busy && (
          <>
            <span role="status">{t('roast.aim.busy')}</span>
            <Button
              look="quiet"
              onClick={() => {
                solveWork.cancel();
                setBusy(false);
              }}
            >
              {t('cancel')}
            </Button>
          </>
        )}
        <span className="text-[12.5px] text-ink-3">
          {t('roast.aim.for', { mass: words.mass(loadKg * 1e6) })}
        </span>
      </div>
      {failure && (
        <p role="alert" className="mt-3 text-bad">
          {failure}
        </p>
      )}
      {found && !busy && (
        <ul className="mt-3 grid gap-1" role="status" aria-label={t('roast.aim.results')}>
          {found.results.map((r) => (
            <li key={r.what} className={r.met ? 'text-ok' : 'text-bad'}>
              {r.met ? '✓ ' : '▲ '}
              {t(r.met ? 'roast.aim.met' : 'roast.aim.missed', {
                what: t(`roast.aim.what.${r.what}`),
                got: write(r, r.got),
                wanted: r.met ? wish(r, found.aim) : write(r, r.wanted),
              })}
            </li>
          ))}
          {found.results.some((r) => !r.met) && <li className="text-ink-2">{t('roast.aim.nearest')}</li>}
        </ul>
      )}
    </details>
  );
}
