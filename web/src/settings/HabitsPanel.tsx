import { useState } from 'react';
import { WorkshopPut } from '@wunsch/contract';
import { formatMoney } from '@wunsch/core/quantity';
import { useHabits } from '../shell/useHabits.ts';
import { useSession } from '../shell/session.tsx';
import { Button } from '../ui/Button.tsx';
import { CurrencyField } from '../ui/CurrencyField.tsx';
import { Choice, TextField } from '../ui/Field.tsx';
import { Panel } from '../ui/Panel.tsx';
import { PriceField } from '../ui/PriceField.tsx';
import { MoneyField, QuantityField } from '../ui/QuantityField.tsx';
import { stopsAtFault } from '../ui/fault.ts';
import { AllergenBoxes } from '../stations/AllergenBoxes.tsx';
import { CurveLevel } from './CurveLevel.tsx';
import { JointCosts } from './JointCosts.tsx';
import { useWords } from '../words/words.tsx';

/** Name, units, usual costs and aims of the workshop. */
export function HabitsPanel() {
  const words = useWords();
  const { t, heavyUnit } = words;
  const { workshop } = useSession();
  const keep = useHabits();
  const { version: _, createdAt: __, ...habits } = workshop;
  // Only what is changed here is sent: other habits may be changed on the same page meanwhile.
  const [changes, setChanges] = useState<Partial<WorkshopPut>>({});
  const draft = { ...habits, ...changes };
  const set = (part: Partial<typeof draft>) => setChanges({ ...changes, ...part });
  const checked = WorkshopPut.safeParse(draft);
  const save = () =>
    void keep(changes).then(
      () => setChanges({}),
      () => undefined,
    );
  return (
    <Panel title={t('settings.workshop')}>
      <div className="grid gap-4 sm:grid-cols-2">
        <TextField
          label={t('first.name')}
          value={draft.name}
          onChange={(e) => set({ name: e.target.value })}
          maxLength={120}
        />
        <CurrencyField
          label={t('first.currency')}
          value={draft.currency}
          onChange={(currency) => set({ currency })}
          hint={
            draft.currency === workshop.currency
              ? undefined
              : t('settings.currency.kept', {
                  was: formatMoney(125_000, workshop.currency, words.locale),
                  becomes: formatMoney(125_000, draft.currency, words.locale),
                })
          }
        />
        <Choice
          label={t('first.temperature')}
          value={draft.temperatureUnit}
          options={[
            { value: '°C', label: '°C' },
            { value: '°F', label: '°F' },
          ]}
          onChange={(temperatureUnit) => set({ temperatureUnit })}
        />
        <Choice
          label={t('first.mass')}
          value={draft.massSystem}
          options={[
            { value: 'metric', label: t('first.metric') },
            { value: 'pounds', label: t('first.pounds') },
          ]}
          onChange={(massSystem) => set({ massSystem })}
        />
        <Choice
          label={t('settings.school')}
          value={draft.cacaoSchool}
          options={[
            { value: 'all', label: t('figures.all') },
            { value: 'beans', label: t('figures.beans') },
          ]}
          onChange={(cacaoSchool) => set({ cacaoSchool })}
        />
        <QuantityField
          label={t('settings.bar')}
          dimension="mass"
          value={draft.barMg}
          onChange={(v) => v && set({ barMg: v })}
          min={1000}
          max={5_000_000}
        />
        <MoneyField
          label={t('settings.labour')}
          value={draft.labourRate}
          onChange={(labourRate) => set({ labourRate })}
        />
        <MoneyField
          label={t('settings.packaging')}
          value={draft.packagingPerBar}
          onChange={(packagingPerBar) => set({ packagingPerBar })}
        />
        <MoneyField
          label={t('settings.energy')}
          value={draft.energyPrice}
          onChange={(energyPrice) => set({ energyPrice })}
        />
        <PriceField
          label={t('settings.overhead', { unit: heavyUnit })}
          value={draft.overheadPerKg}
          onChange={(overheadPerKg) => set({ overheadPerKg })}
        />
        <QuantityField
          label={t('settings.aim')}
          dimension="length"
          value={draft.gritAimUm}
          onChange={(v) => v && set({ gritAimUm: v })}
          min={8}
          max={200}
        />
        <QuantityField
          label={t('settings.grit-every')}
          dimension="duration"
          unit="h"
          value={draft.gritEveryHours * 3600}
          onChange={(v) => v && set({ gritEveryHours: v / 3600 })}
          min={1800}
          max={172_800}
        />
      </div>
      <JointCosts draft={draft} set={set} />
      <CurveLevel value={draft.curveLevel} onChange={(curveLevel) => set({ curveLevel })} />
      <div className="mt-4 grid gap-4 sm:grid-cols-2">
        <TextField
          label={t('settings.address')}
          value={draft.address}
          onChange={(e) => set({ address: e.target.value })}
          maxLength={200}
          hint={t('settings.address.hint')}
        />
        <TextField
          label={t('settings.public-address')}
          type="url"
          value={draft.publicAddress}
          onChange={(e) => set({ publicAddress: e.target.value.trim() })}
          maxLength={200}
          hint={t('settings.public-address.hint')}
        />
        <QuantityField
          label={t('settings.box')}
          dimension="count"
          value={draft.boxBars}
          onChange={(v) => v && set({ boxBars: v })}
          min={1}
          max={1000}
        />
        <AllergenBoxes
          legend={t('settings.traces')}
          value={draft.traces}
          onChange={(traces) => set({ traces })}
        />
      </div>
      <fieldset className="mt-4">
        <legend className="text-[13px] text-ink-3">{t('settings.route')}</legend>
        {(['roasted', 'conched', 'tempered'] as const).map((work) => (
          <label key={work} className="mr-6 inline-flex min-h-11 items-center gap-3">
            <input
              type="checkbox"
              checked={draft.route[work]}
              onChange={(e) => set({ route: { ...draft.route, [work]: e.target.checked } })}
              className="size-5 accent-(--violet-text)"
            />
            {t(`settings.route.${work}`)}
          </label>
        ))}
      </fieldset>
      <Button
        look="main"
        big
        className="mt-4"
        disabled={!checked.success}
        onClick={(e) => !stopsAtFault(e.currentTarget.closest('section')) && save()}
      >
        {t('settings.save')}
      </Button>
    </Panel>
  );
}
