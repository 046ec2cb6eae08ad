import type { LotSheet } from '@wunsch/contract';
import { arrivalFacts, sheetFatRange } from '@wunsch/core/beans';
import { sheetAllergens } from '@wunsch/core/label';
import type { Material } from '@wunsch/core/ledger';
import { CHOCOLATE_TYPES, TEMPER_PATHS } from '@wunsch/core/temper';
import { AllergenBoxes } from '../AllergenBoxes.tsx';
import { SelectField, TextField } from '../../ui/Field.tsx';
import { QuantityField } from '../../ui/QuantityField.tsx';
import { useWords } from '../../words/words.tsx';

/** A sheet of which nothing is known yet. */
export const EMPTY_SHEET: LotSheet = {
  maker: '',
  makerLot: '',
  bestBefore: null,
  kind: null,
  cacao: null,
  fat: null,
  ingredients: '',
  allergens: [],
  meltC: null,
  coolC: null,
  workLowC: null,
  workHighC: null,
};

/** The figures a maker prints on the sheet of bought chocolate, butter, powder or liquor: those this material has. */
export function SheetFields({
  material,
  sheet,
  onChange,
}: {
  material: Material;
  sheet: LotSheet;
  onChange: (sheet: LotSheet) => void;
}) {
  const words = useWords();
  const { t } = words;
  const { sheet: has } = arrivalFacts(material);
  const set = (part: Partial<LotSheet>) => onChange({ ...sheet, ...part });
  // What its ingredients or its kind tell counts, whether or not anybody has ticked it.
  const besides = sheetAllergens(sheet).filter((a) => !sheet.allergens.includes(a));
  const usual = TEMPER_PATHS[sheet.kind ?? 'dark'];
  const temperature = (key: 'meltC' | 'coolC' | 'workLowC' | 'workHighC', usualC: number) => (
    <QuantityField
      label={t(`sheet.${key}`)}
      dimension="temperature"
      value={sheet[key]}
      onChange={(v) => set({ [key]: v })}
      min={15}
      max={70}
      optional
      hint={t('sheet.usual', { celsius: words.temperature(usualC) })}
    />
  );
  return (
    <>
      <TextField
        label={t('sheet.maker')}
        value={sheet.maker}
        onChange={(e) => set({ maker: e.target.value })}
        maxLength={120}
      />
      <TextField
        label={t('sheet.makerLot')}
        value={sheet.makerLot}
        onChange={(e) => set({ makerLot: e.target.value })}
        maxLength={80}
      />
      <TextField
        label={t('sheet.bestBefore')}
        type="date"
        value={sheet.bestBefore ?? ''}
        onChange={(e) => set({ bestBefore: e.target.value || null })}
      />
      {has.includes('kind') && (
        <SelectField
          label={t('sheet.kind')}
          value={sheet.kind ?? ''}
          onChange={(e) => set({ kind: (e.target.value || null) as LotSheet['kind'] })}
        >
          <option value="">{t('sheet.kind.none')}</option>
          {CHOCOLATE_TYPES.map((kind) => (
            <option key={kind} value={kind}>
              {t(`kind.${kind}`)}
            </option>
          ))}
        </SelectField>
      )}
      {has.includes('cacao') && (
        <QuantityField
          label={t('sheet.cacao')}
          dimension="percent"
          value={sheet.cacao}
          onChange={(cacao) => set({ cacao })}
          min={0}
          max={100}
          optional
        />
      )}
      {has.includes('fat') && (
        <QuantityField
          label={t('sheet.fat')}
          dimension="percent"
          value={sheet.fat}
          onChange={(fat) => set({ fat })}
          {...sheetFatRange(material)}
          optional
        />
      )}
      {has.includes('kind') && (
        <>
          <TextField
            label={t('sheet.ingredients')}
            value={sheet.ingredients}
            onChange={(e) => set({ ingredients: e.target.value })}
            maxLength={1000}
            hint={t('sheet.ingredients.hint')}
            className="sm:col-span-2"
          />
          <AllergenBoxes
            legend={t('sheet.allergens')}
            value={sheet.allergens}
            onChange={(allergens) => set({ allergens })}
          />
          {besides.length > 0 && (
            <p role="status" className="col-span-full -mt-2 text-[13px] text-ink-2">
              {t('sheet.allergens.besides', {
                list: besides.map((a) => words.word('allergen', a)).join(', '),
              })}
            </p>
          )}
        </>
      )}
      {has.includes('window') && (
        <>
          {temperature('meltC', usual.meltC)}
          {temperature('coolC', usual.coolC)}
          {temperature('workLowC', usual.windowLowC)}
          {temperature('workHighC', usual.windowHighC)}
        </>
      )}
    </>
  );
}
