import { useState } from 'react';
import type { Machine } from '@wunsch/contract';
import { isConche } from '@wunsch/core/conche';
import { GRINDING_TOOLS, type GrindingTool } from '@wunsch/core/grind';
import {
  DEFAULT_SCALE_U_MG,
  isInstrument,
  isScale,
  MACHINE_KINDS,
  scaleUncertainty,
  STATIONS,
  type Station,
} from '@wunsch/core/ledger';
import { newId } from '../shell/entry.ts';
import { useEntryHere } from '../shell/useEntryHere.ts';
import { CheckField, SelectField, TextField } from '../ui/Field.tsx';
import { FormDialog } from '../ui/FormDialog.tsx';
import { MoneyField, QuantityField } from '../ui/QuantityField.tsx';
import { useWords } from '../words/words.tsx';

/** A machine: what it is and where it stands, its usable charge, what it cost, and when it wants service; a scale, how sure its weighings are. */
export function MachineDialog({ machine, onClose }: { machine: Machine | null; onClose: () => void }) {
  const words = useWords();
  const { t } = words;
  const send = useEntryHere();
  const [id] = useState(() => machine?.id ?? newId());
  const [name, setName] = useState(machine?.name ?? '');
  const [station, setStation] = useState<Station>(machine?.station ?? 'grind');
  const [kind, setKind] = useState(machine ? machine.kind : MACHINE_KINDS.grind[0]!);
  const [minMg, setMin] = useState<number | null>(machine?.minMg ?? null);
  const [maxMg, setMax] = useState<number | null>(machine?.maxMg ?? null);
  const [readsToMg, setReadsTo] = useState<number | null>(null);
  const [repeatsMg, setRepeats] = useState<number | null>(null);
  const [price, setPrice] = useState(machine?.price ?? 0);
  const [resale, setResale] = useState(machine?.resale ?? 0);
  const [lifeKg, setLife] = useState<number | null>(machine?.lifeKg ?? null);
  const [watts, setWatts] = useState<number | null>(machine?.watts ?? null);
  const [serviceHours, setService] = useState<number | null>(machine?.serviceHours ?? null);
  const [loud, setLoud] = useState(machine?.loud ?? false);
  const [active, setActive] = useState(machine?.active ?? true);
  const [tool, setTool] = useState<GrindingTool | null>(machine?.tool ?? null);
  const [places, setPlaces] = useState<number | null>(machine?.places ?? null);
  const grinds = station === 'grind' && !isConche({ kind }) && !isInstrument({ kind });
  const weighs = isScale({ kind });
  const uMg =
    weighs && (readsToMg ?? repeatsMg) !== null
      ? Math.max(1, Math.round(scaleUncertainty(readsToMg ?? 0, repeatsMg ?? 0)))
      : (machine?.uMg ?? null);
  const kinds = MACHINE_KINDS[station];
  const isUpsideDown = minMg !== null && maxMg !== null && minMg > maxMg;
  const save = () =>
    send({
      path: `/api/machines/${id}`,
      body: {
        name: name.trim(),
        station,
        kind,
        minMg,
        maxMg,
        uMg: weighs ? uMg : null,
        active,
        price: price || null,
        resale: resale || null,
        lifeKg,
        watts,
        serviceHours,
        loud,
        tool: grinds ? tool : null,
        places: station === 'mould' ? places : null,
      },
      label: t('done.machine', { name }),
      ...(machine && { ifMatch: machine.version }),
    });
  return (
    <FormDialog
      title={machine?.name ?? t('machine.add')}
      submit={t('settings.save')}
      isReady={name.trim() !== '' && !isUpsideDown}
      onSubmit={save}
      onClose={onClose}
    >
      <TextField
        label={t('machine.called')}
        value={name}
        onChange={(e) => setName(e.target.value)}
        required
        maxLength={120}
      />
      <div className="grid grid-cols-2 items-end gap-2">
        <SelectField
          label={t('station')}
          value={station}
          onChange={(e) => {
            const next = e.target.value as Station;
            setStation(next);
            if (!MACHINE_KINDS[next].includes(kind)) setKind(MACHINE_KINDS[next][0] ?? '');
          }}
        >
          {STATIONS.map((s) => (
            <option key={s} value={s}>
              {t(`station.${s}`)}
            </option>
          ))}
        </SelectField>
        <SelectField label={t('machine.kind')} value={kind} onChange={(e) => setKind(e.target.value)}>
          {[...kinds, ...(kind === '' || kinds.includes(kind) ? [] : [kind])].map((k) => (
            <option key={k} value={k}>
              {words.word('machine-kind', k)}
            </option>
          ))}
          <option value="">{t('machine.kind.other')}</option>
        </SelectField>
        {!isInstrument({ kind }) && (
          <QuantityField
            label={t('machine.min')}
            dimension="mass"
            unit={words.heavyUnit}
            value={minMg}
            onChange={setMin}
            optional
          />
        )}
        <QuantityField
          label={t('machine.max')}
          dimension="mass"
          unit={words.heavyUnit}
          value={maxMg}
          onChange={setMax}
          min={1000}
          optional
        />
      </div>
      {isUpsideDown && (
        <p role="alert" className="text-[13.5px] text-bad">
          {t('problem.min-above-max')}
        </p>
      )}
      {weighs && (
        <>
          <div className="grid grid-cols-2 items-start gap-2">
            <QuantityField
              label={t('machine.reads-to')}
              dimension="mass"
              value={readsToMg}
              onChange={setReadsTo}
              min={1}
              max={1_000_000}
              optional
            />
            <QuantityField
              label={t('machine.repeats')}
              dimension="mass"
              value={repeatsMg}
              onChange={setRepeats}
              min={0}
              max={1_000_000}
              hint={t('machine.repeats.hint')}
              optional
            />
          </div>
          <p className="text-[13px] text-ink-2" aria-live="polite">
            {t(uMg === null ? 'machine.u.none' : 'machine.u', {
              u: `${words.number((uMg ?? DEFAULT_SCALE_U_MG) / 1000, 2)} g`,
            })}
          </p>
        </>
      )}
      <div className="grid grid-cols-2 items-end gap-2">
        <MoneyField label={t('machine.price')} value={price} onChange={setPrice} />
        <MoneyField label={t('machine.resale')} value={resale} onChange={setResale} />
        {!isInstrument({ kind }) && (
          <>
            <QuantityField
              label={t('machine.life')}
              dimension="mass"
              unit={words.heavyUnit}
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
          </>
        )}
      </div>
      {station === 'mould' && !isInstrument({ kind }) && (
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
      {grinds && (
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
      <div className="flex flex-wrap gap-x-6">
        {!isInstrument({ kind }) && (
          <CheckField label={t('machine.loud.field')} checked={loud} onChange={setLoud} />
        )}
        {machine && <CheckField label={t('machine.in-use')} checked={active} onChange={setActive} />}
      </div>
    </FormDialog>
  );
}
