import { useState } from 'react';
import { SupplyPut, type Supply, type SupplyFacts } from '@wunsch/contract';
import { newId } from '../../shell/entry.ts';
import { useEntryHere } from '../../shell/useEntryHere.ts';
import { SelectField, TextField } from '../../ui/Field.tsx';
import { FormDialog } from '../../ui/FormDialog.tsx';
import { PriceField } from '../../ui/PriceField.tsx';
import { MoneyField, QuantityField } from '../../ui/QuantityField.tsx';
import { useWords } from '../../words/words.tsx';
import { AllergenBoxes } from '../AllergenBoxes.tsx';
import { today } from '../today.ts';
import { costNow, useIngredients } from './useIngredients.ts';

/** What stands on the sack. */
type Facts = Omit<Required<SupplyFacts>, 'note'>;

/** Supplier, number, best before, place, and the allergens this delivery declares. */
function SackFields({
  facts,
  usual,
  onChange,
}: {
  facts: Facts;
  /** Allergens the ingredient has by itself; null for packaging, which declares none. */
  usual: readonly string[] | null;
  onChange: (facts: Facts) => void;
}) {
  const { t } = useWords();
  const text = (
    key: 'supplier' | 'supplierLot' | 'place',
    label: string,
    maxLength: number,
    hint?: string,
  ) => (
    <TextField
      label={label}
      value={facts[key]}
      onChange={(e) => onChange({ ...facts, [key]: e.target.value })}
      maxLength={maxLength}
      hint={hint}
    />
  );
  return (
    <>
      <div className="grid gap-3 sm:grid-cols-2">
        {text('supplier', t('deliveries.supplier'), 120)}
        {text('supplierLot', t('deliveries.number'), 80, t('deliveries.number.hint'))}
        <TextField
          label={t('sheet.bestBefore')}
          type="date"
          value={facts.bestBefore ?? ''}
          onChange={(e) => onChange({ ...facts, bestBefore: e.target.value || null })}
        />
        {text('place', t('lot.place'), 80)}
      </div>
      {usual && (
        <AllergenBoxes
          legend={t('deliveries.allergens')}
          value={facts.allergens ?? usual}
          onChange={(allergens) => onChange({ ...facts, allergens })}
        />
      )}
    </>
  );
}

const NOTHING: Facts = { supplier: '', supplierLot: '', bestBefore: null, allergens: null, place: '' };

/** Taking a delivery in: what it is, how much, and what stands on the sack. */
export function ReceiveDelivery({ onClose }: { onClose: () => void }) {
  const words = useWords();
  const { t } = words;
  const send = useEntryHere();
  const ingredients = [...useIngredients().values()];
  const [id] = useState(newId);
  const [of, setOf] = useState<string>('');
  const [name, setName] = useState('');
  const [massMg, setMass] = useState<number | null>(null);
  const [count, setCount] = useState<number | null>(null);
  const [pricePerKg, setPrice] = useState<number | null>(null);
  // Nobody knows what foil costs by the kilogram: what the whole delivery cost stands on its note.
  const [total, setTotal] = useState(0);
  const [receivedOn, setReceivedOn] = useState(today);
  const [facts, setFacts] = useState(NOTHING);
  const ingredient = ingredients.find((i) => i.id === of) ?? null;
  const usualPrice = ingredient ? costNow(ingredient) : 0;
  const isPackaging = of === 'packaging';
  const checked = SupplyPut.safeParse({
    ingredientId: ingredient?.id ?? null,
    name: ingredient?.name ?? name,
    massMg,
    count: isPackaging ? count : null,
    pricePerKg: isPackaging ? Math.round(total / ((massMg ?? Infinity) / 1e6)) : (pricePerKg ?? usualPrice),
    receivedOn,
    ...facts,
    allergens: facts.allergens ?? ingredient?.allergens ?? null,
    stepId: newId(),
    movementId: newId(),
    parcelId: newId(),
  });
  return (
    <FormDialog
      title={t('deliveries.receive')}
      wide
      submit={t('beans.receive.do')}
      isReady={of !== '' && (!isPackaging || name.trim() !== '') && checked.success}
      onSubmit={() =>
        send({
          path: `/api/supplies/${id}`,
          body: checked.data!,
          label: t('done.delivery', {
            name: ingredient ? words.word('ingredient', ingredient.name) : name,
            mass: words.mass(massMg!),
          }),
          undo: true,
        })
      }
      onClose={onClose}
    >
      <div className="grid gap-3 sm:grid-cols-2">
        <SelectField label={t('what')} value={of} onChange={(e) => setOf(e.target.value)}>
          <option value="">{t('deliveries.choose')}</option>
          {ingredients.map((i) => (
            <option key={i.id} value={i.id}>
              {words.word('ingredient', i.name)}
            </option>
          ))}
          <option value="packaging">{words.word('material', 'packaging')}</option>
        </SelectField>
        {isPackaging && (
          <TextField
            label={t('deliveries.packaging')}
            value={name}
            onChange={(e) => setName(e.target.value)}
            maxLength={120}
          />
        )}
        <QuantityField
          label={t('lot.mass')}
          dimension="mass"
          unit={words.heavyUnit}
          value={massMg}
          onChange={setMass}
          min={1000}
          max={100_000_000_000}
        />
        {isPackaging && (
          <QuantityField
            label={t('deliveries.count')}
            dimension="count"
            value={count}
            onChange={setCount}
            min={1}
            max={10_000_000}
          />
        )}
        {isPackaging ? (
          <MoneyField label={t('deliveries.total')} value={total} onChange={setTotal} />
        ) : (
          <PriceField value={pricePerKg ?? usualPrice} onChange={setPrice} />
        )}
        <TextField
          label={t('lot.received')}
          type="date"
          value={receivedOn}
          max={today()}
          onChange={(e) => setReceivedOn(e.target.value)}
          required
        />
      </div>
      <SackFields facts={facts} usual={ingredient?.allergens ?? null} onChange={setFacts} />
    </FormDialog>
  );
}

/** What was misread off the sack is put right; mass and price are corrected in the ledger. */
export function ChangeDelivery({ of, onClose }: { of: Supply; onClose: () => void }) {
  const words = useWords();
  const { t } = words;
  const send = useEntryHere();
  const ingredient = useIngredients().get(of.ingredientId ?? '');
  const [{ supplier, supplierLot, bestBefore, allergens, place }, setFacts] = useState<Facts>(of);
  const facts = { supplier, supplierLot, bestBefore, allergens, place };
  return (
    <FormDialog
      title={words.word('ingredient', of.name)}
      description={t('deliveries.came', { day: words.day(of.receivedOn) })}
      wide
      submit={t('settings.save')}
      onSubmit={() =>
        send({
          path: `/api/supplies/${of.id}/facts`,
          body: { ...facts, note: of.note },
          ifMatch: of.version,
          label: t('done.delivery-changed', { name: words.word('ingredient', of.name) }),
        })
      }
      onClose={onClose}
    >
      <SackFields
        facts={facts}
        usual={of.ingredientId === null ? null : (ingredient?.allergens ?? [])}
        onChange={setFacts}
      />
    </FormDialog>
  );
}
