import { useState } from 'react';
import type { Machine } from '@wunsch/contract';
import { GRINDING_TOOLS, type GrindingTool } from '@wunsch/core/grind';
import { STATIONS, type Station } from '@wunsch/core/ledger';
import { newId } from '../shell/entry.ts';
import { useEntryHere } from '../shell/useEntryHere.ts';
import { Button } from '../ui/Button.tsx';
import { Dialog } from '../ui/Dialog.tsx';
import { SelectField, TextField } from '../ui/Field.tsx';
import { MoneyField, QuantityField } from '../ui/QuantityField.tsx';
import { useWords } from '../words/words.tsx';

/** A machine: where it stands, its usable charge, what it cost, and when it wants service. */
export function MachineDialog({ machine, onClose }: { machine: Machine | null; onClose: () => void }) {
  const words = useWords();
  const { t } = words;
  const send = useEntryHere();
  const [name, setName] = useState(machine?.name ?? '');
  const [station, setStation] = useState<Station>(machine?.station ?? 'grind');
  const [minMg, setMin] = useState<number | null>(machine?.minMg ?? null);
  const [maxMg, setMax] = useState<number | null>(machine?.maxMg ?? null);
  const [price, setPrice] = useState(machine?.price ?? 0);
  const [resale, setResale] = useState(machine?.resale ?? 0);
  const [lifeKg, setLife] = useState<number | null>(machine?.lifeKg ?? null);
  const [watts, setWatts] = useState<number | null>(machine?.watts ?? null);
  const [serviceHours, setService] = useState<number | null>(machine?.serviceHours ?? null);
  const [loud, setLoud] = useState(machine?.loud ?? false);
  const [tool, setTool] = useState<GrindingTool | null>(machine?.tool ?? null);
  const [places, setPlaces] = useState<number | null>(machine?.places ?? null);
  const [error, setError] = useState<string | null>(null);
  return (
    <Dialog open onClose={onClose} title={machine?.name ?? t('machine.add')}>
      <form
        className="grid gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          send({
            path: `/api/machines/${machine?.id ?? newId()}`,
            body: {
              name,
              station,
              kind: machine?.kind ?? '',
              minMg,
              maxMg,
              uMg: machine?.uMg ?? null,
              active: true,
              price: price || null,
              resale: resale || null,
              lifeKg,
              watts,
              serviceHours,
              loud,
              tool: station === 'grind' ? tool : null,
              places: station === 'mould' ? places : null,
            },
            label: t('done.machine', { name }),
            ...(machine && { ifMatch: machine.version }),
          }).then(onClose, (f: unknown) => setError(words.explain(f)));
        }}
      >
        <TextField
          label={t('machine.called')}
          value={name}
          onChange={(e) => setName(e.target.value)}
          required
          maxLength={120}
          error={error}
        />
        <SelectField
          label={t('station')}
          value={station}
          onChange={(e) => setStation(e.target.value as Station)}
        >
          {STATIONS.map((s) => (
            <option key={s} value={s}>
              {t(`station.${s}`)}
            </option>
          ))}
        </SelectField>
        <div className="grid grid-cols-2 items-end gap-2">
          <QuantityField
            label={t('machine.min')}
            dimension="mass"
            unit="kg"
            value={minMg}
            onChange={setMin}
            optional
          />
          <QuantityField
            label={t('machine.max')}
            dimension="mass"
            unit="kg"
            value={maxMg}
            onChange={setMax}
            min={1000}
            optional
          />
          <MoneyField label={t('machine.price')} value={price} onChange={setPrice} />
          <MoneyField label={t('machine.resale')} value={resale} onChange={setResale} />
          <QuantityField
            label={t('machine.life')}
            dimension="mass"
            unit="kg"
            value={lifeKg === null ? null : Math.round(lifeKg * 1e6)}
            onChange={(mg) => setLife(mg === null ? null : mg / 1e6)}
            min={1_000_000}
            max={1e15}
            optional
          />
          <QuantityField
            label={t('machine.watts')}
            dimension="number"
            value={watts}
            onChange={setWatts}
            min={0}
            max={1e6}
            optional
          />
          <QuantityField
            label={t('machine.service.field')}
            dimension="number"
            value={serviceHours}
            onChange={setService}
            min={1}
            max={1e6}
            optional
          />
        </div>
        {station === 'mould' && (
          <QuantityField
            label={t('machine.places')}
            dimension="count"
            value={places}
            onChange={setPlaces}
            min={1}
            max={100_000}
            optional
            hint={t('machine.places.hint')}
          />
        )}
        {station === 'grind' && (
          <SelectField
            label={t('machine.tool')}
            value={tool ?? ''}
            onChange={(e) => setTool((e.target.value || null) as GrindingTool | null)}
          >
            <option value="">{t('machine.tool.none')}</option>
            {GRINDING_TOOLS.map((k) => (
              <option key={k} value={k}>
                {t(`tool.${k}`)}
              </option>
            ))}
          </SelectField>
        )}
        <label className="flex min-h-11 items-center gap-3">
          <input
            type="checkbox"
            checked={loud}
            onChange={(e) => setLoud(e.target.checked)}
            className="size-5 accent-(--violet-text)"
          />
          {t('machine.loud.field')}
        </label>
        <Button type="submit" look="main" big disabled={name.trim() === ''}>
          {t('settings.save')}
        </Button>
      </form>
    </Dialog>
  );
}
