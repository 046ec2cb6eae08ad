import { Plus } from 'lucide-react';
import { MACHINE_KINDS, type Station } from '@wunsch/core/ledger';
import { newId } from '../shell/entry.ts';
import { Button } from '../ui/Button.tsx';
import { SelectField, TextField } from '../ui/Field.tsx';
import { QuantityField } from '../ui/QuantityField.tsx';
import { RemoveButton } from '../ui/RemoveButton.tsx';
import { useWords } from '../words/words.tsx';

/** A machine as it is being named; masses in mg. */
export interface MachineDraft {
  id: string;
  name: string;
  station: Station;
  kind: string;
  minMg: number | null;
  maxMg: number | null;
}

/** Which machines there are: those the shape suggests, to be changed, left out and added to. */
export function MachinesQuestion({
  machines,
  unit,
  onChange,
}: {
  machines: readonly MachineDraft[];
  /** What charges are typed in; the workshop that would say so is only being made. */
  unit: 'kg' | 'lb';
  onChange: (machines: MachineDraft[]) => void;
}) {
  const words = useWords();
  const { t } = words;
  const change = (id: string, part: Partial<MachineDraft>) =>
    onChange(machines.map((m) => (m.id === id ? { ...m, ...part } : m)));
  return (
    <div className="grid gap-2">
      {machines.map((m) => (
        <div
          key={m.id}
          className="grid grid-cols-2 items-end gap-2 rounded border border-line p-2 sm:grid-cols-[1.2fr_1.6fr_0.9fr_0.9fr_44px]"
        >
          <TextField
            label={t('machine.called')}
            value={m.name}
            onChange={(e) => change(m.id, { name: e.target.value })}
            maxLength={120}
          />
          <SelectField
            label={t('machine.kind')}
            value={`${m.station}/${m.kind}`}
            onChange={(e) => {
              const [station, kind = ''] = e.target.value.split('/');
              change(m.id, { station: station as Station, kind });
            }}
          >
            {(['sort', 'roast', 'winnow', 'grind', 'temper', 'mould'] as const).map((s) => (
              <optgroup key={s} label={t(`station.${s}`)}>
                {[...MACHINE_KINDS[s], ''].map((k) => (
                  <option key={k} value={`${s}/${k}`}>
                    {k ? words.word('machine-kind', k) : t('machine.kind.other')}
                  </option>
                ))}
              </optgroup>
            ))}
          </SelectField>
          <QuantityField
            label={t('machine.min')}
            dimension="mass"
            unit={unit}
            value={m.minMg}
            onChange={(v) => change(m.id, { minMg: v })}
            optional
          />
          <QuantityField
            label={t('machine.max')}
            dimension="mass"
            unit={unit}
            value={m.maxMg}
            onChange={(v) => change(m.id, { maxMg: v })}
            min={1000}
            optional
          />
          <RemoveButton
            label={t('machine.remove', { name: m.name })}
            onRemove={() => onChange(machines.filter((x) => x.id !== m.id))}
          />
        </div>
      ))}
      <Button
        icon={<Plus size={16} aria-hidden="true" />}
        onClick={() =>
          onChange([
            ...machines,
            {
              id: newId(),
              name: '',
              station: 'grind',
              kind: MACHINE_KINDS.grind[0]!,
              minMg: null,
              maxMg: null,
            },
          ])
        }
      >
        {t('machine.add')}
      </Button>
    </div>
  );
}
