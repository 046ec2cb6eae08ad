import { useState } from 'react';
import type { BatchBrief, ParcelRecord, TrialBegin } from '@wunsch/contract';
import { useRead } from '../../shell/door.tsx';
import { newId } from '../../shell/entry.ts';
import { useEntryHere } from '../../shell/useEntryHere.ts';
import { Button } from '../../ui/Button.tsx';
import { SelectField, TextField } from '../../ui/Field.tsx';
import { Panel } from '../../ui/Panel.tsx';
import { QuantityField } from '../../ui/QuantityField.tsx';
import { useWords } from '../../words/words.tsx';
import { WORK_STOCK } from '../../shell/workStock.ts';
import { useRecipes } from './useIngredients.ts';

const EMPTY = { label: '', recipeId: '', batchId: '', massMg: null as number | null };

/** Beginning a trial: what is varied, its parts, and what they are weighed out of. The server draws the codes. */
export function NewTrial({ onDone }: { onDone: () => void }) {
  const words = useWords();
  const { t } = words;
  const send = useEntryHere();
  const recipes = useRecipes();
  const { data: batches = [] } = useRead<BatchBrief[]>('/api/batches?limit=100');
  const { data: stock = [] } = useRead<ParcelRecord[]>(WORK_STOCK);
  const [name, setName] = useState('');
  const [factor, setFactor] = useState('');
  const [parcelId, setParcelId] = useState('');
  const [parts, setParts] = useState([{ ...EMPTY }, { ...EMPTY }]);
  // Counted pieces are not weighed apart.
  const sources = stock.filter((p) => p.count === null);
  const source = sources.find((p) => p.id === parcelId) ?? null;
  const taken = parts.reduce((sum, p) => sum + (p.massMg ?? 0), 0);
  const tooMuch = source !== null && taken > source.remainingMg;
  const ready =
    name.trim() !== '' &&
    parts.every((p) => p.label.trim() !== '' && (source === null || (p.massMg ?? 0) > 0)) &&
    !tooMuch;
  const begin = () => {
    const body: TrialBegin = {
      name,
      factor,
      parcelId: source?.id ?? null,
      parts: parts.map((p) => ({
        label: p.label,
        recipeId: p.recipeId || null,
        batchId: p.batchId || null,
        massMg: source ? p.massMg : null,
      })),
    };
    void send({ path: `/api/trials/${newId()}`, body, label: t('done.trial', { name }) }).then(
      onDone,
      () => undefined,
    );
  };
  const set = (i: number, change: Partial<typeof EMPTY>) =>
    setParts(parts.map((p, k) => (k === i ? { ...p, ...change } : p)));
  const called = (p: ParcelRecord) =>
    [p.batchCode ?? p.lotCode, words.word('material', p.material), p.label, words.mass(p.remainingMg)]
      .filter(Boolean)
      .join(', ');
  return (
    <Panel>
      <form
        className="grid gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          if (ready) begin();
        }}
      >
        <div className="grid gap-3 sm:grid-cols-3">
          <TextField
            label={t('trials.name')}
            value={name}
            onChange={(e) => setName(e.target.value)}
            maxLength={120}
            autoFocus
          />
          <TextField
            label={t('trials.factor')}
            value={factor}
            onChange={(e) => setFactor(e.target.value)}
            maxLength={120}
            hint={t('trials.factor.hint')}
          />
          <SelectField
            label={t('trials.from')}
            value={parcelId}
            onChange={(e) => setParcelId(e.target.value)}
          >
            <option value="">{t('trials.from.none')}</option>
            {sources.map((p) => (
              <option key={p.id} value={p.id}>
                {called(p)}
              </option>
            ))}
          </SelectField>
        </div>
        {parts.map((p, i) => (
          <div key={i} className="grid gap-2 sm:grid-cols-4">
            <TextField
              label={t('trials.arm', { n: i + 1 })}
              value={p.label}
              onChange={(e) => set(i, { label: e.target.value })}
              maxLength={120}
            />
            {source && (
              <QuantityField
                label={t('trials.mass', { n: i + 1 })}
                dimension="mass"
                value={p.massMg}
                onChange={(massMg) => set(i, { massMg })}
                max={source.remainingMg}
              />
            )}
            <SelectField
              label={t('recipe')}
              value={p.recipeId}
              onChange={(e) => set(i, { recipeId: e.target.value })}
            >
              <option value="">{t('recipe.none')}</option>
              {recipes.map((r) => (
                <option
                  key={r.id}
                  value={r.id}
                >{`${r.name} (${t('recipe.version', { n: r.number })})`}</option>
              ))}
            </SelectField>
            {!source && (
              <SelectField
                label={t('batch')}
                value={p.batchId}
                onChange={(e) => set(i, { batchId: e.target.value })}
              >
                <option value="">{t('trials.no-batch')}</option>
                {batches.map((b) => (
                  <option key={b.id} value={b.id}>
                    {b.code}
                  </option>
                ))}
              </SelectField>
            )}
          </div>
        ))}
        {tooMuch && (
          <p role="alert" className="text-bad">
            {t('trials.too-much', { there: words.mass(source.remainingMg), asked: words.mass(taken) })}
          </p>
        )}
        <p className="text-[12.5px] text-ink-3">{t('trials.blind')}</p>
        <div className="flex flex-wrap gap-2">
          <Button disabled={parts.length >= 8} onClick={() => setParts([...parts, { ...EMPTY }])}>
            {t('trials.more')}
          </Button>
          <Button type="submit" look="main" disabled={!ready}>
            {t('trials.begin')}
          </Button>
          <Button look="quiet" onClick={onDone}>
            {t('cancel')}
          </Button>
        </div>
        {!ready && !tooMuch && (
          <p className="text-[13px] text-ink-2">{t(source ? 'trials.missing.weighed' : 'trials.missing')}</p>
        )}
      </form>
    </Panel>
  );
}
