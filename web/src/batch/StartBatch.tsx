import { useMemo, useState } from 'react';
import { useNavigate } from 'react-router';
import type { BatchBrief, Lot, ParcelRecord, Recipe } from '@wunsch/contract';
import { ENTRY_STATION, type Material } from '@wunsch/core/ledger';
import { useRead } from '../shell/door.tsx';
import { newId } from '../shell/entry.ts';
import { takeInHand } from '../shell/inhand.ts';
import { useEntryHere } from '../shell/useEntryHere.ts';
import { WORK_STOCK } from '../shell/workStock.ts';
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

/** What of one batch may become another before it has a recipe: the second of two from one roast. */
const PARTED: ReadonlySet<Material> = new Set<Material>(['sorted beans', 'roasted beans', 'nibs', 'liquor']);

/** Starts a batch: a lot, or what another batch has left, how much, and a recipe if it is known already. Oldest lot first. */
export function StartBatch({ onClose, lotId: given }: { onClose: () => void; lotId?: string }) {
  const words = useWords();
  const { t } = words;
  const navigate = useNavigate();
  const send = useEntryHere();
  // Asked anew each time the dialog opens: a lot or a code may be seconds old.
  const { data: lots } = useRead<Lot[]>('/api/lots', { dedupingInterval: 0 });
  const { data: recipes } = useRead<Recipe[]>('/api/recipes');
  const { data: stock } = useRead<ParcelRecord[]>(WORK_STOCK);
  const inStore = useMemo(() => (lots ?? []).filter((l) => l.remainingMg > 0), [lots]);
  // Of a lot that is used up a batch may still be made, of what another has left.
  const left = useMemo(
    () =>
      (stock ?? []).flatMap((parcel) => {
        const lot = lots?.find((l) => l.code === parcel.lotCode);
        return lot && parcel.batchId !== null && PARTED.has(parcel.material) ? [{ parcel, lot }] : [];
      }),
    [stock, lots],
  );
  const [lotId, setLotId] = useState<string | null>(given ?? null);
  const [leftId, setLeftId] = useState<string | null>(null);
  // A lot that was asked for is waited for, never replaced by another: it may be so new that the list does not have it yet.
  const ofStore =
    lotId !== null ? inStore.find((l) => l.id === lotId) : (inStore.find((l) => !l.onHold) ?? inStore[0]);
  const ofBatch =
    left.find((l) => l.parcel.id === leftId) ??
    (lots && inStore.length === 0 ? left.find((l) => !given || l.lot.id === given) : undefined);
  const lot = ofBatch?.lot ?? ofStore;
  const parcel = ofBatch?.parcel;
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
        plannedMg: parcel ? null : planned,
        recipeId: recipeId || null,
      },
      label: t('done.batch', { code: code ?? suggested }),
      batchId: id,
      undo: true,
    });
    takeInHand(id);
    onClose();
    navigate(
      parcel ? `/${ENTRY_STATION[parcel.material]}/${id}?weigh=1` : `/${ENTRY_STATION[lot.material]}/${id}`,
    );
  };
  return (
    <Dialog open onClose={onClose} title={t('batch.start')} description={t('batch.start.hint')}>
      {lots && inStore.length === 0 && left.length === 0 ? (
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
            value={parcel?.id ?? lot?.id ?? ''}
            onChange={(e) => {
              const isLeft = left.some((l) => l.parcel.id === e.target.value);
              setLeftId(isLeft ? e.target.value : null);
              setLotId(isLeft ? null : e.target.value);
              setCode(null);
            }}
          >
            {!lot && <option value="" />}
            {inStore.map((l) => (
              <option key={l.id} value={l.id}>
                {`${l.code}  ${l.name} (${words.mass(l.remainingMg)}${l.onHold ? `, ${t('on-hold')}` : ''})`}
              </option>
            ))}
            {left.length > 0 && (
              <optgroup label={t('batch.left')}>
                {left.map(({ parcel: p }) => (
                  <option key={p.id} value={p.id}>
                    {`${p.batchCode}  ${words.word('material', p.material)} (${words.mass(p.remainingMg)}${p.onHold ? `, ${t('on-hold')}` : ''})`}
                  </option>
                ))}
              </optgroup>
            )}
          </SelectField>
          <TextField
            label={t('batch.code')}
            value={code ?? suggested}
            onChange={(e) => setCode(e.target.value)}
            maxLength={24}
            required
          />
          {!parcel && (
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
          )}
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
