import { AllergenBoxes } from '../AllergenBoxes.tsx';
import { today } from '../today.ts';
import { useState } from 'react';
import { SupplyPut, type Supply } from '@wunsch/contract';
import { useRead } from '../../shell/door.tsx';
import { newId } from '../../shell/entry.ts';
import { useMayMake } from '../../shell/session.tsx';
import { useEntryHere } from '../../shell/useEntryHere.ts';
import { Button } from '../../ui/Button.tsx';
import { Dialog } from '../../ui/Dialog.tsx';
import { SelectField, TextField } from '../../ui/Field.tsx';
import { Chip, Panel } from '../../ui/Panel.tsx';
import { MoneyField, QuantityField } from '../../ui/QuantityField.tsx';
import { Table } from '../../ui/Table.tsx';
import { useWords } from '../../words/words.tsx';
import { useIngredients } from './useIngredients.ts';

const DAY = 86_400_000;

/** Days before its best-before at which a delivery is pointed out. */
const SOON = 30;

/** Deliveries of ingredients and packaging that are not used up, what runs out of its date first; and taking one in. */
export function Deliveries() {
  const words = useWords();
  const { t } = words;
  const { data = [] } = useRead<Supply[]>('/api/supplies');
  const mayMake = useMayMake();
  const [receiving, setReceiving] = useState(false);
  const [all, setAll] = useState(false);
  const left = data.filter((s) => s.remainingMg > 0);
  const rows = (all ? data : left).toSorted(
    (a, b) =>
      (a.bestBefore ?? '9').localeCompare(b.bestBefore ?? '9') || a.receivedOn.localeCompare(b.receivedOn),
  );
  return (
    <Panel
      title={t('deliveries')}
      aside={mayMake && <Button onClick={() => setReceiving(true)}>{t('deliveries.receive')}</Button>}
    >
      <Table
        caption={t('deliveries')}
        rows={rows}
        keyOf={(s) => s.id}
        empty={t('deliveries.none')}
        columns={[
          { id: 'what', title: t('what'), cell: (s) => words.word('ingredient', s.name) },
          {
            id: 'left',
            title: t('deliveries.left'),
            numeric: true,
            cell: (s) =>
              s.arrivedCount === null
                ? `${words.mass(s.remainingMg)} / ${words.mass(s.arrivedMg)}`
                : `${words.number(s.remainingCount ?? 0)} / ${words.number(s.arrivedCount)}`,
          },
          { id: 'supplier', title: t('deliveries.supplier'), cell: (s) => s.supplier },
          { id: 'number', title: t('deliveries.number'), cell: (s) => s.supplierLot },
          {
            id: 'before',
            title: t('sheet.bestBefore'),
            cell: (s) => (s.bestBefore ? <BestBefore day={s.bestBefore} /> : ''),
          },
          {
            id: 'price',
            title: t('lot.price'),
            numeric: true,
            cell: (s) => `${words.money(s.pricePerKg)}/kg`,
          },
          { id: 'came', title: t('lot.received'), cell: (s) => words.day(`${s.receivedOn}T12:00:00Z`) },
          {
            id: 'allergens',
            title: t('machine.allergens'),
            cell: (s) => (s.allergens ?? []).map((a) => words.word('allergen', a)).join(', '),
          },
        ]}
      />
      {data.length > left.length && (
        <Button look="quiet" className="mt-2" onClick={() => setAll(!all)}>
          {t(all ? 'deliveries.fewer' : 'deliveries.all', { n: data.length - left.length })}
        </Button>
      )}
      {receiving && <Receive onClose={() => setReceiving(false)} />}
    </Panel>
  );
}

function BestBefore({ day }: { day: string }) {
  const { t, day: written } = useWords();
  const days = (Date.parse(`${day}T12:00:00Z`) - Date.now()) / DAY;
  const text = written(`${day}T12:00:00Z`);
  if (days < 0) return <Chip tone="bad">{t('deliveries.past', { day: text })}</Chip>;
  return days < SOON ? <Chip tone="due">{text}</Chip> : text;
}

/** Taking a delivery in: what it is, how much, and what stands on the sack. */
function Receive({ onClose }: { onClose: () => void }) {
  const words = useWords();
  const { t } = words;
  const send = useEntryHere();
  const ingredients = [...useIngredients().values()];
  const [of, setOf] = useState<string>('');
  const [name, setName] = useState('');
  const [massMg, setMass] = useState<number | null>(null);
  const [count, setCount] = useState<number | null>(null);
  const [pricePerKg, setPrice] = useState<number | null>(null);
  const [text, setText] = useState({ supplier: '', supplierLot: '', bestBefore: '', place: '' });
  const [allergens, setAllergens] = useState<string[] | null>(null);
  const [failure, setFailure] = useState<string | null>(null);
  const set = (key: keyof typeof text) => (e: { target: { value: string } }) =>
    setText({ ...text, [key]: e.target.value });
  const ingredient = ingredients.find((i) => i.id === of) ?? null;
  const isPackaging = of === 'packaging';
  const usual = ingredient?.allergens ?? [];
  const checked = SupplyPut.safeParse({
    ingredientId: ingredient?.id ?? null,
    name: ingredient?.name ?? name,
    massMg,
    count: isPackaging ? count : null,
    pricePerKg: pricePerKg ?? ingredient?.pricePerKg ?? 0,
    receivedOn: today(),
    supplier: text.supplier,
    supplierLot: text.supplierLot,
    bestBefore: text.bestBefore || null,
    allergens: allergens ?? (ingredient ? usual : null),
    place: text.place,
    stepId: newId(),
    movementId: newId(),
    parcelId: newId(),
  });
  const receive = () =>
    void send({
      path: `/api/supplies/${newId()}`,
      body: checked.data!,
      label: t('done.delivery', {
        name: ingredient ? words.word('ingredient', ingredient.name) : name,
        mass: words.mass(massMg!),
      }),
      undo: true,
    }).then(onClose, (error: unknown) => setFailure(words.explain(error)));
  return (
    <Dialog open onClose={onClose} title={t('deliveries.receive')} wide>
      <form
        className="grid gap-3 sm:grid-cols-2"
        onSubmit={(e) => {
          e.preventDefault();
          if (checked.success) receive();
        }}
      >
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
          unit={words.massUnit === 'lb' ? 'lb' : 'kg'}
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
        <MoneyField
          label={t('lot.price')}
          value={pricePerKg ?? ingredient?.pricePerKg ?? 0}
          onChange={setPrice}
        />
        <TextField
          label={t('deliveries.supplier')}
          value={text.supplier}
          onChange={set('supplier')}
          maxLength={120}
        />
        <TextField
          label={t('deliveries.number')}
          value={text.supplierLot}
          onChange={set('supplierLot')}
          maxLength={80}
          hint={t('deliveries.number.hint')}
        />
        <TextField
          label={t('sheet.bestBefore')}
          type="date"
          value={text.bestBefore}
          onChange={set('bestBefore')}
        />
        <TextField label={t('lot.place')} value={text.place} onChange={set('place')} maxLength={80} />
        {ingredient && usual.length > 0 && (
          <AllergenBoxes
            legend={t('deliveries.allergens')}
            value={allergens ?? usual}
            onChange={setAllergens}
            offered={usual}
          />
        )}
        {failure && (
          <p role="alert" className="text-bad sm:col-span-2">
            {failure}
          </p>
        )}
        <Button
          type="submit"
          look="main"
          big
          className="sm:col-span-2"
          disabled={of === '' || (isPackaging && !name.trim()) || !checked.success}
        >
          {t('beans.receive.do')}
        </Button>
      </form>
    </Dialog>
  );
}
