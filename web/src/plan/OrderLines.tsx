import { Plus, X } from 'lucide-react';
import type { Order, PlanRoomView } from '@wunsch/contract';
import { newId } from '../shell/entry.ts';
import { Button } from '../ui/Button.tsx';
import { SelectField } from '../ui/Field.tsx';
import { QuantityField } from '../ui/QuantityField.tsx';
import { MadeByOptions } from './MadeByOptions.tsx';
import { useWords } from '../words/words.tsx';

/** Most kinds of bars of one order. */
const MOST = 40;

/** Bars of one kind in an order that is being written; null while nobody has said how many. */
export interface LineWish extends Omit<Order['lines'][number], 'bars'> {
  bars: number | null;
}

/** A kind of bars to begin with: the first recipe, of any lot. */
export const newLine = (room: PlanRoomView): LineWish => ({
  id: newId(),
  recipeId: room.recipes[0]?.id ?? '',
  lotId: null,
  bars: null,
  price: null,
});

/** What an order is of: one or several kinds of bars. */
export function OrderLines({
  room,
  lines,
  onChange,
}: {
  room: PlanRoomView;
  lines: readonly LineWish[];
  onChange: (lines: LineWish[]) => void;
}) {
  const { t } = useWords();
  const set = (id: string, part: Partial<LineWish>) =>
    onChange(lines.map((l) => (l.id === id ? { ...l, ...part } : l)));
  return (
    <div className="grid gap-3">
      {lines.map((line, k) => (
        <fieldset key={line.id} className={lines.length > 1 ? 'border-t border-line pt-2' : ''}>
          {lines.length > 1 && (
            <legend className="pr-2 text-[13px] font-semibold">{t('plan.line', { n: k + 1 })}</legend>
          )}
          <div className="grid items-end gap-3 sm:grid-cols-[1.4fr_1.4fr_1fr_auto]">
            <SelectField
              label={t('plan.recipe')}
              value={line.recipeId}
              onChange={(e) => set(line.id, { recipeId: e.target.value })}
            >
              <MadeByOptions recipes={room.recipes} />
            </SelectField>
            <SelectField
              label={t('plan.lot')}
              value={line.lotId ?? ''}
              onChange={(e) => set(line.id, { lotId: e.target.value || null })}
            >
              <option value="">{t('plan.lot.any')}</option>
              {room.lots.map((l) => (
                <option key={l.id} value={l.id}>
                  {l.code} · {l.name}
                </option>
              ))}
            </SelectField>
            <QuantityField
              label={t('plan.bars')}
              dimension="count"
              value={line.bars}
              onChange={(bars) => set(line.id, { bars })}
              min={1}
              max={100_000}
            />
            {lines.length > 1 && (
              <Button
                look="quiet"
                className="justify-self-end"
                aria-label={t('plan.line.remove', { n: k + 1 })}
                icon={<X size={17} aria-hidden="true" />}
                onClick={() => onChange(lines.filter((l) => l.id !== line.id))}
              />
            )}
          </div>
        </fieldset>
      ))}
      {lines.length < MOST && (
        <div>
          <Button
            icon={<Plus size={17} aria-hidden="true" />}
            onClick={() => onChange([...lines, newLine(room)])}
          >
            {t('plan.line.more')}
          </Button>
        </div>
      )}
    </div>
  );
}
