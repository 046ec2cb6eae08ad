import { Plus } from 'lucide-react';
import { planMinutes, type RoastPlan } from '@wunsch/core/roast';
import { Button } from '../../ui/Button.tsx';
import { TextField } from '../../ui/Field.tsx';
import { QuantityField } from '../../ui/QuantityField.tsx';
import { RemoveButton } from '../../ui/RemoveButton.tsx';
import { useWords } from '../../words/words.tsx';

/** The plan’s stages as a table, for typing. */
export function StageTable({ plan, onPlan }: { plan: RoastPlan; onPlan: (plan: RoastPlan) => void }) {
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
              value={words.word('roast-stage', stage.name)}
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
            <RemoveButton
              label={t('roast.stage.remove', { name: words.word('roast-stage', stage.name) })}
              onRemove={() => onPlan({ ...plan, stages: plan.stages.filter((_, k) => k !== i) })}
              disabled={plan.stages.length < 2}
              className="self-end justify-self-end"
            />
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
