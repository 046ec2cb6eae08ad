import { useState } from 'react';
import type { Lot, Plots } from '@wunsch/contract';
import { arrivalFacts } from '@wunsch/core/beans';
import { mergeChanges } from '../../shell/merge.ts';
import { Button } from '../../ui/Button.tsx';
import { Clash } from '../../ui/Clash.tsx';
import { Dialog } from '../../ui/Dialog.tsx';
import { TextArea, TextField } from '../../ui/Field.tsx';
import { Panel } from '../../ui/Panel.tsx';
import { PriceField } from '../../ui/PriceField.tsx';
import { MoneyField, QuantityField } from '../../ui/QuantityField.tsx';
import { useWords } from '../../words/words.tsx';
import { EMPTY_SHEET, SheetFields } from './SheetFields.tsx';
import { PlotsClose } from './PlotsMap.tsx';
import { factsOf, useLotWork } from './useLot.ts';
import { FileButton } from '../../ui/FileButton.tsx';
import { FreeBox } from './FreeBox.tsx';

type Facts = ReturnType<typeof factsOf>;

const TEXTS = [
  ['code', 'lot.code', 24],
  ['name', 'lot.name', 120],
  ['country', 'lot.country', 80],
  ['region', 'lot.region', 120],
  ['grower', 'lot.grower', 120],
  ['variety', 'lot.variety', 120],
  ['harvest', 'lot.harvest', 40],
  ['place', 'lot.place', 80],
  ['certificates', 'lot.certificates', 400],
] as const;

const NUMBERS = [
  ['moisture', 'lot.moisture', 'percent', 0, 60],
  ['nibFat', 'lot.nib-fat', 'percent', 30, 70],
  ['beansPer100g', 'lot.beans-count', 'count', 20, 400],
  ['leadWeeks', 'lot.lead', 'count', 0, 104],
  ['ceilingC', 'lot.ceiling', 'temperature', 60, 300],
] as const;

/** Changing what is known of a lot; its weight is changed by a correction in the ledger. */
export function LotFactsForm({ lot, onClose }: { lot: Lot; onClose: () => void }) {
  const { t, heavyUnit } = useWords();
  const work = useLotWork(lot);
  // The copy this form began with: whoever changes the lot meanwhile must not be overwritten unseen.
  const [base] = useState<Facts>(factsOf(lot));
  const [facts, setFacts] = useState<Facts>(base);
  const [clashing, setClashing] = useState<readonly (keyof Facts)[]>([]);
  const set = (part: Partial<Facts>) => setFacts((all) => ({ ...all, ...part }));
  const save = async (chosen?: readonly string[]) => {
    const { mine, clashes } = mergeChanges(base, facts, factsOf(lot));
    if (clashes.length > 0 && !chosen) return setClashing(clashes);
    const kept = Object.fromEntries(clashes.filter((k) => chosen?.includes(k)).map((k) => [k, facts[k]]));
    await work.change({ ...mine, ...kept }).then(onClose, () => undefined);
  };
  const has = arrivalFacts(lot.material);
  const fits: Partial<Record<string, boolean>> = {
    region: has.grown,
    grower: has.grown,
    variety: has.grown,
    harvest: has.grown,
    moisture: has.mostMoisture !== null,
    nibFat: has.nibFat,
    beansPer100g: has.beans,
    ceilingC: has.beans,
  };
  const names = new Map<string, string>([
    ...[...TEXTS, ...NUMBERS].map(([key, label]): [string, string] => [key, t(label)]),
    ['pricePerKg', t('lot.price', { unit: heavyUnit })],
    ['freight', t('lot.freight')],
    ['isFree', t('lot.free')],
  ]);
  return (
    <Dialog open onClose={onClose} title={t('lot.change')} wide>
      <form
        className="grid gap-3 sm:grid-cols-2"
        onSubmit={(e) => {
          e.preventDefault();
          void save();
        }}
      >
        {TEXTS.filter(([key]) => fits[key] ?? true).map(([key, label, max]) => (
          <TextField
            key={key}
            label={t(label)}
            value={facts[key]}
            maxLength={max}
            onChange={(e) => set({ [key]: e.target.value })}
          />
        ))}
        {(has.sheet.length > 0 || !has.grown) && (
          <SheetFields
            material={lot.material}
            sheet={facts.sheet ?? EMPTY_SHEET}
            onChange={(sheet) => set({ sheet })}
          />
        )}
        {NUMBERS.filter(([key]) => fits[key] ?? true).map(([key, label, dimension, min, max]) => (
          <QuantityField
            key={key}
            label={t(label)}
            dimension={dimension}
            value={facts[key]}
            onChange={(v) => set({ [key]: v })}
            min={min}
            max={key === 'moisture' ? has.mostMoisture! : max}
            optional
          />
        ))}
        <PriceField value={facts.pricePerKg} onChange={(pricePerKg) => set({ pricePerKg })} />
        <MoneyField label={t('lot.freight')} value={facts.freight} onChange={(freight) => set({ freight })} />
        <FreeBox pricePerKg={facts.pricePerKg} isFree={facts.isFree} onChange={(isFree) => set({ isFree })} />
        {has.grown && (
          <TextArea
            label={t('lot.grower-notes')}
            value={facts.growerNotes}
            maxLength={2000}
            onChange={(e) => set({ growerNotes: e.target.value })}
          />
        )}
        <TextArea
          label={t('lot.notes')}
          value={facts.notes}
          maxLength={4000}
          onChange={(e) => set({ notes: e.target.value })}
        />
        {clashing.length > 0 && (
          <div className="sm:col-span-2">
            <Clash
              fields={clashing.map((key) => ({
                key,
                name: names.get(key) ?? key,
                mine: String(facts[key] ?? ''),
                theirs: String(factsOf(lot)[key] ?? ''),
              }))}
              onChoose={(mine) => void save(mine)}
            />
          </div>
        )}
        <Button
          type="submit"
          look="main"
          big
          className="sm:col-span-2"
          disabled={!facts.name.trim() || !facts.code.trim()}
        >
          {t('lot.change.do')}
        </Button>
      </form>
    </Dialog>
  );
}

/** The plots of a lot: drawn, taken in from a GeoJSON file, and saved as one. */
export function PlotsPanel({ lot, mayMake }: { lot: Lot; mayMake: boolean }) {
  const words = useWords();
  const { t } = words;
  const work = useLotWork(lot);
  const [error, setError] = useState<string | null>(null);
  const take = async (file: File) => {
    setError(null);
    let why: string;
    try {
      const { Plots: schema } = await import('@wunsch/contract');
      const checked = schema.safeParse(collected(JSON.parse(await file.text())));
      if (checked.success) return await work.change({ plots: checked.data }).then(() => undefined);
      const issue = checked.error.issues[0]!;
      why = `${issue.path.join('.')} ${issue.message}`;
    } catch (failure) {
      why = failure instanceof SyntaxError ? failure.message : words.explain(failure);
    }
    setError(t('lot.plots.wrong', { why }));
  };
  return (
    <Panel title={t('lot.plots')} aside={lot.plots && t('lot.plots.count', { n: lot.plots.features.length })}>
      {lot.plots ? <PlotsClose plots={lot.plots} /> : <p className="text-ink-3">{t('lot.plots.none')}</p>}
      {error && (
        <p role="alert" className="mt-2 text-bad">
          {error}
        </p>
      )}
      <div className="mt-3 flex flex-wrap gap-2">
        {mayMake && (
          <FileButton
            label={t('lot.plots.import')}
            accept=".geojson,.json,application/geo+json"
            onFile={(file) => void take(file)}
          />
        )}
        {lot.plots && (
          <a
            href={`/api/lots/${lot.id}/plots.geojson`}
            className="inline-flex min-h-11 items-center rounded border border-edge px-4 text-[13.5px] font-semibold hover:bg-panel-2"
          >
            {t('lot.plots.export')}
          </a>
        )}
      </div>
    </Panel>
  );
}

/** A single feature or bare geometry is taken as a collection of one. */
function collected(given: unknown): unknown {
  const json = given as { type?: string };
  if (json?.type === 'Feature') return { type: 'FeatureCollection', features: [json] };
  if (json?.type === 'Polygon' || json?.type === 'MultiPolygon' || json?.type === 'Point')
    return {
      type: 'FeatureCollection',
      features: [{ type: 'Feature', properties: {}, geometry: json as Plots['features'][0]['geometry'] }],
    };
  return given;
}
