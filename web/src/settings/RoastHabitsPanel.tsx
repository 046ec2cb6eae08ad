import { useState } from 'react';
import { RoastHabits } from '@wunsch/contract';
import { kelvinOf } from '@wunsch/core/quantity';
import { useSession } from '../shell/session.tsx';
import { useHabits } from '../shell/useHabits.ts';
import { Button } from '../ui/Button.tsx';
import { Panel } from '../ui/Panel.tsx';
import { QuantityField } from '../ui/QuantityField.tsx';
import { stopsAtFault } from '../ui/fault.ts';
import { useWords } from '../words/words.tsx';

/** Habits of the roast room: what a roast is to come to, stirring, resting, and the figures of the advisory kill step. */
export function RoastHabitsPanel() {
  const { t, kelvin, kelvinUnit, temperatureUnit } = useWords();
  const { workshop } = useSession();
  const keep = useHabits();
  const [draft, setDraft] = useState<RoastHabits>(() => RoastHabits.parse(workshop.roast ?? {}));
  const set = (part: Partial<RoastHabits>) => setDraft({ ...draft, ...part });
  const save = () => void keep({ roast: draft }).catch(() => undefined);
  const percent = (share: number | null) => (share === null ? null : share * 100);
  return (
    <Panel title={t('settings.roast')}>
      <p className="mb-3 max-w-prose text-[12.5px] text-ink-3">{t('settings.roast.hint')}</p>
      <div className="grid grid-cols-2 items-end gap-3 sm:grid-cols-3">
        <QuantityField
          label={t('roast.aim.dose')}
          dimension="duration"
          value={draft.doseMinutes === null ? null : draft.doseMinutes * 60}
          onChange={(s) => set({ doseMinutes: s === null ? null : s / 60 })}
          min={1}
          max={12_000}
          optional
        />
        <QuantityField
          label={t('roast.aim.acid')}
          dimension="percent"
          value={percent(draft.acidGone)}
          onChange={(p) => set({ acidGone: p === null ? null : p / 100 })}
          min={0}
          max={100}
          optional
        />
        <QuantityField
          label={t('roast.aim.surface')}
          dimension="temperature"
          value={draft.ceilingC}
          onChange={(c) => c !== null && set({ ceilingC: c })}
          min={60}
          max={300}
        />
        <QuantityField
          label={t('roast.aim.moisture-low')}
          dimension="percent"
          value={draft.moistureLow}
          onChange={(moistureLow) => set({ moistureLow })}
          min={0}
          max={20}
          optional
        />
        <QuantityField
          label={t('roast.aim.moisture-high')}
          dimension="percent"
          value={draft.moistureHigh}
          onChange={(moistureHigh) => set({ moistureHigh })}
          min={0}
          max={20}
          optional
        />
        <QuantityField
          label={t('settings.roast.stir')}
          dimension="duration"
          value={draft.stirMinutes === null ? null : draft.stirMinutes * 60}
          onChange={(s) => set({ stirMinutes: s === null ? null : s / 60 })}
          min={30}
          max={7200}
          optional
        />
        <QuantityField
          label={t('settings.roast.rest')}
          dimension="duration"
          unit="h"
          value={draft.restHours * 3600}
          onChange={(s) => s !== null && set({ restHours: s / 3600 })}
          min={0}
          max={864_000}
        />
        <QuantityField
          label={t('settings.roast.logs')}
          dimension="number"
          value={draft.logReductions}
          onChange={(logReductions) => set({ logReductions })}
          min={0}
          max={20}
          optional
        />
        <QuantityField
          label={t('settings.roast.d')}
          dimension="duration"
          value={draft.dMinutes * 60}
          onChange={(s) => s && set({ dMinutes: s / 60 })}
          min={0.6}
          max={60_000}
        />
        <QuantityField
          label={t('settings.roast.z', { unit: kelvinUnit })}
          dimension="number"
          value={kelvin(draft.zKelvin)}
          onChange={(z) => z && set({ zKelvin: kelvinOf(temperatureUnit, z) })}
          min={kelvin(0.1)}
          max={kelvin(200)}
        />
        <QuantityField
          label={t('settings.roast.reference')}
          dimension="temperature"
          value={draft.referenceC}
          onChange={(referenceC) => referenceC !== null && set({ referenceC })}
          min={40}
          max={200}
        />
      </div>
      <Button
        look="main"
        big
        className="mt-4"
        disabled={!RoastHabits.safeParse(draft).success}
        onClick={(e) => !stopsAtFault(e.currentTarget.closest('section')) && save()}
      >
        {t('settings.save')}
      </Button>
    </Panel>
  );
}
