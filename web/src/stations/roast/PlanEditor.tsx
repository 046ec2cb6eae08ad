import { Plus, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { STARTER_PLANS, planMinutes, type RoastPlan } from '@wunsch/core/roast';
import { Button } from '../../ui/Button.tsx';
import { Choice, TextField } from '../../ui/Field.tsx';
import { QuantityField } from '../../ui/QuantityField.tsx';
import { useWords } from '../../words/words.tsx';

/** A plan of stages: choose one to start from and change it to the oven and the bean. */
export function PlanEditor({ plan, onPlan }: { plan: RoastPlan; onPlan: (plan: RoastPlan) => void }) {
  const words = useWords();
  const { t } = words;
  const change = (index: number, part: Partial<RoastPlan['stages'][number]>) =>
    onPlan({ ...plan, stages: plan.stages.map((s, i) => (i === index ? { ...s, ...part } : s)) });
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
      <ol className="grid gap-2">
        {plan.stages.map((stage, i) => (
          <li
            key={i}
            className="grid grid-cols-2 items-start gap-2 rounded border border-line p-2 sm:grid-cols-[1.2fr_1fr_1fr_1.4fr_44px]"
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
            <TextField
              label={t('roast.until')}
              value={stage.until ?? ''}
              onChange={(e) => change(i, { until: e.target.value || null })}
              maxLength={200}
              placeholder={t('roast.until.hint')}
            />
            <button
              type="button"
              disabled={plan.stages.length < 2}
              aria-label={t('roast.stage.remove', { name: stage.name })}
              onClick={() => onPlan({ ...plan, stages: plan.stages.filter((_, k) => k !== i) })}
              className="mt-6 grid size-11 place-items-center rounded hover:bg-violet-tint disabled:opacity-40"
            >
              <Trash2 size={17} aria-hidden="true" />
            </button>
          </li>
        ))}
      </ol>
      <div className="flex items-center gap-3">
        <Button
          icon={<Plus size={16} aria-hidden="true" />}
          onClick={() =>
            onPlan({
              ...plan,
              stages: [...plan.stages, { name: t('roast.stage'), setC: 120, minutes: 5, fan: true }],
            })
          }
        >
          {t('roast.stage.add')}
        </Button>
        <span className="text-[12.5px] text-ink-3">
          {t('roast.plan.length', { minutes: words.number(planMinutes(plan)) })}
        </span>
      </div>
    </div>
  );
}

/** The plan last used by this batch, or the first starter. */
export function usePlan(last: RoastPlan | undefined): [RoastPlan, (plan: RoastPlan) => void] {
  return useState<RoastPlan>(last ?? STARTER_PLANS[0]!);
}
