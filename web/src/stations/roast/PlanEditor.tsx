import { Plus, Trash2, Wand2 } from 'lucide-react';
import { useState } from 'react';
import type { RoastAimDetails } from '@wunsch/contract';
import {
  makeBean,
  planMinutes,
  STARTER_PLANS,
  type AimResult,
  type BeanFacts,
  type OvenLearning,
  type RoastForecast,
  type RoastPlan,
} from '@wunsch/core/roast';
import { Button } from '../../ui/Button.tsx';
import { Choice, TextField } from '../../ui/Field.tsx';
import { QuantityField } from '../../ui/QuantityField.tsx';
import { useWords } from '../../words/words.tsx';
import { cancelRoastWork, roastWorker } from '../../workers/roast.ts';
import { RoastChart } from './RoastChart.tsx';

/** A plan of stages: choose one to start from, drag it on the chart or write it in the table, or have it worked out for an aim. */
export function PlanEditor({
  plan,
  onPlan,
  aim,
  onAim,
  corridor,
  learning,
  lot,
  loadKg,
  earlier,
}: {
  plan: RoastPlan;
  onPlan: (plan: RoastPlan) => void;
  aim: RoastAimDetails;
  onAim: (aim: RoastAimDetails) => void;
  corridor: RoastForecast | null;
  learning: OvenLearning | null;
  lot: BeanFacts;
  loadKg: number;
  earlier: readonly (readonly { seconds: number; celsius: number }[])[];
}) {
  const words = useWords();
  const { t } = words;
  return (
    <div className="grid gap-3">
      <Choice
        label={t('roast.plan')}
        value={plan.name}
        options={STARTER_PLANS.map((p) => ({
          value: p.name,
          label: words.word('plan', p.name),
          note: `${planMinutes(p)} ${t('unit.min')}`,
        }))}
        onChange={(name) => onPlan(STARTER_PLANS.find((p) => p.name === name)!)}
      />
      <RoastChart
        label={t('roast.plan.chart')}
        plan={plan}
        onPlan={onPlan}
        bean={[]}
        oven={[]}
        earlier={earlier}
        corridor={corridor}
        now={null}
        ceilingC={aim.surfaceMaxC}
        height={270}
      />
      <p className="text-[12.5px] text-ink-3">{t('roast.drag.hint')}</p>
      {corridor && <Expected forecast={corridor} />}
      <Solver
        plan={plan}
        onPlan={onPlan}
        aim={aim}
        onAim={onAim}
        learning={learning}
        lot={lot}
        loadKg={loadKg}
      />
      <StageTable plan={plan} onPlan={onPlan} />
    </div>
  );
}

/** What the model expects of the plan, in a line of words. */
function Expected({ forecast }: { forecast: RoastForecast }) {
  const words = useWords();
  const { t } = words;
  const range = (v: { low: number; high: number }, write: (n: number) => string) =>
    `${write(v.low)}–${write(v.high)}`;
  return (
    <p className="text-[13.5px]">
      {t('roast.expected', {
        dose: range(forecast.dose.end, (n) => words.number(n, 0)),
        acid: `${words.number((1 - forecast.acid.end.high) * 100)}–${words.percent(1 - forecast.acid.end.low, 0)}`,
        moisture: range(forecast.moisture.end, (n) => words.number(n, 1)),
        loss: `${words.number(forecast.lossShare.low * 100, 1)}–${words.percent(forecast.lossShare.high)}`,
      })}
    </p>
  );
}

function Solver({
  plan,
  onPlan,
  aim,
  onAim,
  learning,
  lot,
  loadKg,
}: {
  plan: RoastPlan;
  onPlan: (plan: RoastPlan) => void;
  aim: RoastAimDetails;
  onAim: (aim: RoastAimDetails) => void;
  learning: OvenLearning | null;
  lot: BeanFacts;
  loadKg: number;
}) {
  const words = useWords();
  const { t } = words;
  const [maxMinutes, setMaxMinutes] = useState<number | null>(null);
  const [busy, setBusy] = useState(false);
  const [results, setResults] = useState<AimResult[] | null>(null);
  const solve = async () => {
    if (!learning) return;
    setBusy(true);
    const { moistureLow, moistureHigh } = aim;
    const answer = await roastWorker()
      .solve({
        start: plan,
        bean: makeBean(lot),
        oven: learning.oven,
        loadKg,
        aim: {
          doseMinutes: aim.doseMinutes,
          acidGone: aim.acidGone,
          surfaceMaxC: aim.surfaceMaxC,
          moisture: moistureLow !== null && moistureHigh !== null ? [moistureLow, moistureHigh] : null,
          maxMinutes,
        },
      })
      .catch(() => null);
    setBusy(false);
    if (!answer) return;
    setResults(answer.results);
    onPlan({ ...answer.plan, name: answer.plan.name });
  };
  const write = (r: AimResult, v: number) => {
    if (r.what === 'acid') return words.percent(v, 0);
    if (r.what === 'surface') return words.temperature(v);
    if (r.what === 'moisture') return `${words.number(v, 1)} %`;
    return `${words.number(v, 1)} ${t('unit.min')}`;
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
                cancelRoastWork();
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
      {results && !busy && (
        <ul className="mt-3 grid gap-1" role="status" aria-label={t('roast.aim.results')}>
          {results.map((r) => (
            <li key={r.what} className={r.met ? 'text-ok' : 'text-bad'}>
              {r.met ? '✓ ' : '▲ '}
              {t(r.met ? 'roast.aim.met' : 'roast.aim.missed', {
                what: t(`roast.aim.what.${r.what}`),
                got: write(r, r.got),
                wanted: write(r, r.wanted),
              })}
            </li>
          ))}
          {results.some((r) => !r.met) && <li className="text-ink-2">{t('roast.aim.nearest')}</li>}
        </ul>
      )}
    </details>
  );
}

function StageTable({ plan, onPlan }: { plan: RoastPlan; onPlan: (plan: RoastPlan) => void }) {
  const words = useWords();
  const { t } = words;
  const change = (index: number, part: Partial<RoastPlan['stages'][number]>) =>
    onPlan({ ...plan, stages: plan.stages.map((s, i) => (i === index ? { ...s, ...part } : s)) });
  return (
    <>
      <ol className="grid gap-2">
        {plan.stages.map((stage, i) => (
          <li
            key={i}
            className="grid grid-cols-2 items-start gap-2 rounded border border-line p-2 sm:grid-cols-3 lg:grid-cols-[1.1fr_.9fr_.9fr_1fr_1.3fr_90px_44px]"
          >
            <TextField
              label={t('roast.stage')}
              value={stage.name}
              onChange={(e) => change(i, { name: e.target.value })}
              maxLength={40}
            />
            <QuantityField
              label={t('roast.set')}
              dimension="temperature"
              value={stage.setC}
              onChange={(v) => v !== null && change(i, { setC: v })}
              min={40}
              max={260}
            />
            <QuantityField
              label={t('roast.minutes')}
              dimension="duration"
              value={stage.minutes * 60}
              onChange={(v) => v !== null && change(i, { minutes: v / 60 })}
              min={30}
              max={36_000}
            />
            <QuantityField
              label={t('roast.until-bean')}
              dimension="temperature"
              value={stage.endBeanC ?? null}
              onChange={(v) => change(i, { endBeanC: v })}
              min={40}
              max={200}
              optional
            />
            <TextField
              label={t('roast.until')}
              value={stage.until ?? ''}
              onChange={(e) => change(i, { until: e.target.value || null })}
              maxLength={200}
              placeholder={t('roast.until.hint')}
            />
            <label className="flex min-h-11 items-center gap-2 self-end">
              <input
                type="checkbox"
                checked={stage.fan}
                onChange={(e) => change(i, { fan: e.target.checked })}
                className="size-5 accent-(--violet-text)"
              />
              {t('roast.fan')}
            </label>
            <button
              type="button"
              disabled={plan.stages.length < 2}
              aria-label={t('roast.stage.remove', { name: stage.name })}
              onClick={() => onPlan({ ...plan, stages: plan.stages.filter((_, k) => k !== i) })}
              className="grid size-11 place-items-center self-end justify-self-end rounded hover:bg-bad-tint disabled:opacity-40"
            >
              <Trash2 size={17} aria-hidden="true" />
            </button>
          </li>
        ))}
      </ol>
      <div className="flex flex-wrap items-center gap-3">
        <Button
          look="quiet"
          icon={<Plus size={16} aria-hidden="true" />}
          onClick={() =>
            onPlan({
              ...plan,
              stages: [
                ...plan.stages,
                {
                  name: t('roast.stage'),
                  setC: plan.stages.at(-1)!.setC,
                  minutes: 5,
                  fan: true,
                  until: null,
                  endBeanC: null,
                },
              ],
            })
          }
        >
          {t('roast.stage.add')}
        </Button>
        <span className="text-ink-3">
          {t('roast.plan.length', {
            minutes: words.number(planMinutes(plan), planMinutes(plan) % 1 ? 1 : 0),
          })}
        </span>
      </div>
    </>
  );
}

/** The plan in hand: the last one roasted by, or the first starter. */
export function usePlan(last: RoastPlan | undefined) {
  return useState<RoastPlan>(last ?? STARTER_PLANS[0]!);
}
