import { useMemo, useState } from 'react';
import { useNavigate } from 'react-router';
import type { BatchBrief, Lot, Recipe } from '@wunsch/contract';
import { ENTRY_STATION } from '@wunsch/core/ledger';
import { useRead } from '../shell/door.tsx';
import { newId } from '../shell/entry.ts';
import { takeInHand } from '../shell/inhand.ts';
import { useEntryHere } from '../shell/useEntryHere.ts';
import { Button } from '../ui/Button.tsx';
import { Dialog } from '../ui/Dialog.tsx';
import { SelectField, TextField } from '../ui/Field.tsx';
import { QuantityField } from '../ui/QuantityField.tsx';
import { useWords } from '../words/words.tsx';

/** What the codes of a lot’s batches begin with: NK for NK and for NK-2. */
const stemOf = (lotCode: string): string => lotCode.replace(/[-\s]?\d+$/, '');

/** The next free code after those there are: NK-14 after NK-13. */
export function nextCode(prefix: string, taken: readonly string[]): string {
  const stem = stemOf(prefix);
  const highest = taken.reduce((max, code) => {
    const match = code.toLowerCase().startsWith(`${stem.toLowerCase()}-`) ? /-(\d+)$/.exec(code) : null;
    return match ? Math.max(max, Number(match[1])) : max;
  }, 0);
  return `${stem}-${String(highest + 1).padStart(2, '0')}`;
}

/** Starts a batch: a lot, how much, and a recipe if it is known already. Oldest lot first. */
export function StartBatch({ onClose, lotId: given }: { onClose: () => void; lotId?: string }) {
  const words = useWords();
  const { t } = words;
  const navigate = useNavigate();
  const send = useEntryHere();
  // Asked anew each time the dialog opens: a lot or a code may be seconds old.
  const { data: lots } = useRead<Lot[]>('/api/lots', { dedupingInterval: 0 });
  const { data: recipes } = useRead<Recipe[]>('/api/recipes');
  const inStore = useMemo(() => (lots ?? []).filter((l) => l.remainingMg > 0), [lots]);
  const [lotId, setLotId] = useState<string | null>(given ?? null);
  // A lot that was asked for is waited for, never replaced by another: it may be so new that the list does not have it yet.
  const lot =
    lotId !== null ? inStore.find((l) => l.id === lotId) : (inStore.find((l) => !l.onHold) ?? inStore[0]);
  // Codes go on from those of the same beginning, however long ago they were.
  const { data: batches, error } = useRead<BatchBrief[]>(
    lot ? `/api/batches?code=${encodeURIComponent(`${stemOf(lot.code)}-`)}&limit=500` : null,
    { dedupingInterval: 0 },
  );
  const [planned, setPlanned] = useState<number | null>(null);
  const [recipeId, setRecipeId] = useState('');
  const [code, setCode] = useState<string | null>(null);
  // Nothing is proposed before it is known what there is; where that cannot be known now, the first is.
  const taken = batches ?? (error ? [] : null);
  const suggested =
    lot && taken
      ? nextCode(
          lot.code,
          taken.map((b) => b.code),
        )
      : '';
  const start = async () => {
    if (!lot) return;
    const id = newId();
    await send({
      path: `/api/batches/${id}`,
      body: {
        code: (code ?? suggested).trim(),
        lotId: lot.id,
        plannedMg: planned,
        recipeId: recipeId || null,
      },
      label: t('done.batch', { code: code ?? suggested }),
      batchId: id,
      undo: true,
    });
    takeInHand(id);
    onClose();
    navigate(`/${ENTRY_STATION[lot.material]}/${id}`);
  };
  return (
    <Dialog open onClose={onClose} title={t('batch.start')} description={t('batch.start.hint')}>
      {lots && inStore.length === 0 ? (
        <div className="grid gap-3">
          <p className="text-ink-2">{t('batch.start.no-lots')}</p>
          <Button
            look="main"
            big
            onClick={() => {
              onClose();
              navigate('/beans?do=receive');
            }}
          >
            {t('beans.receive')}
          </Button>
        </div>
      ) : (
        <form
          className="grid gap-3"
          onSubmit={(e) => {
            e.preventDefault();
            void start().catch(() => undefined);
          }}
        >
          <SelectField
            label={t('lot')}
            value={lot?.id ?? ''}
            onChange={(e) => {
              setLotId(e.target.value);
              setCode(null);
            }}
          >
            {!lot && <option value="" />}
            {inStore.map((l) => (
              <option key={l.id} value={l.id}>
                {`${l.code}  ${l.name} (${words.mass(l.remainingMg)}${l.onHold ? `, ${t('on-hold')}` : ''})`}
              </option>
            ))}
          </SelectField>
          <TextField
            label={t('batch.code')}
            value={code ?? suggested}
            onChange={(e) => setCode(e.target.value)}
            maxLength={24}
            required
          />
          <QuantityField
            label={t('batch.planned')}
            dimension="mass"
            unit={words.heavyUnit}
            value={planned}
            onChange={setPlanned}
            min={50_000}
            max={lot?.remainingMg}
            optional
            hint={lot ? t('batch.planned.hint', { mass: words.mass(lot.remainingMg) }) : undefined}
          />
          <SelectField label={t('recipe')} value={recipeId} onChange={(e) => setRecipeId(e.target.value)}>
            <option value="">{t('recipe.later')}</option>
            {(recipes ?? [])
              .filter((r) => r.current)
              .map((r) => (
                <option key={r.id} value={r.id}>
                  {`${r.name} (${t('recipe.version', { n: r.number })})`}
                </option>
              ))}
          </SelectField>
          <Button type="submit" look="main" big disabled={!lot || (code ?? suggested).trim() === ''}>
            {t('batch.start')}
          </Button>
        </form>
      )}
    </Dialog>
  );
}
