import { Plus } from 'lucide-react';
import { useState } from 'react';
import type { FillingLines, FillingRecord } from '@wunsch/contract';
import { useRead } from '../../shell/door.tsx';
import { useMayMake } from '../../shell/session.tsx';
import { useAsked } from '../../shell/useAsked.ts';
import { Button } from '../../ui/Button.tsx';
import { Chip, EmptyState, Panel } from '../../ui/Panel.tsx';
import { useWords } from '../../words/words.tsx';
import { StepLines } from '../StepLedger.tsx';
import { today } from '../today.ts';
import { FillingDialog } from './FillingDialog.tsx';
import { FillingKeeping } from './FillingKeeping.tsx';
import { useFillings } from './useFillings.ts';

/** Fillings: what is on hand of which, what each was made of, and making one, anew or as before. */
export default function FillingsPage() {
  const { t } = useWords();
  const mayMake = useMayMake();
  const fillings = useFillings();
  const [making, setMaking] = useState<FillingRecord | 'new' | null>(null);
  useAsked('make', () => setMaking('new'));
  const there = fillings?.filter((f) => f.leftMg > 0) ?? [];
  const gone = fillings?.filter((f) => f.leftMg === 0) ?? [];
  const list = (of: readonly FillingRecord[]) => (
    <ul>
      {of.map((f) => (
        <Filling key={`${f.id} ${f.parcelId}`} of={f} onAgain={mayMake ? () => setMaking(f) : null} />
      ))}
    </ul>
  );
  return (
    <div className="grid gap-2 p-3 sm:px-4">
      <header className="mb-1 flex flex-wrap items-center gap-3">
        <h1 className="text-[26px]">{t('fillings')}</h1>
        {mayMake && (
          <Button
            look="main"
            className="ml-auto"
            icon={<Plus size={16} aria-hidden="true" />}
            onClick={() => setMaking('new')}
            data-key="w"
          >
            {t('filling.make')}
          </Button>
        )}
      </header>
      {fillings?.length === 0 && (
        <EmptyState title={t('fillings.none')}>{t('fillings.none.text')}</EmptyState>
      )}
      {there.length > 0 && <Panel title={t('fillings.there')}>{list(there)}</Panel>}
      {gone.length > 0 && <Panel title={t('fillings.gone')}>{list(gone)}</Panel>}
      {making && <FillingDialog from={making === 'new' ? null : making} onClose={() => setMaking(null)} />}
    </div>
  );
}

/** One filling: how much is left, how long it keeps, and what it was made of. */
function Filling({ of, onAgain }: { of: FillingRecord; onAgain: (() => void) | null }) {
  const words = useWords();
  const { t } = words;
  const inMg = of.lines.reduce((sum, l) => sum + l.massMg, 0);
  const [isOpen, setOpen] = useState(false);
  const isOld = of.bestBefore !== null && of.bestBefore < today();
  return (
    <li className="flex flex-wrap items-start gap-x-5 gap-y-2 border-b border-line py-3 last:border-0">
      <div className="min-w-0 grow basis-72">
        <h3 className="text-[16px] font-semibold">{of.name}</h3>
        <p className="text-[12.5px] text-ink-3">
          {t('filling.made', { mass: words.mass(of.madeMg), day: words.day(of.madeAt), by: of.by })}
          {of.waterActivity !== null &&
            ` · ${t('filling.measured', { value: words.number(of.waterActivity, 2) })}`}
        </p>
        <p className="mt-1 text-[13.5px] text-ink-2">
          {of.lines
            .map((l) =>
              t('filling.part', {
                percent: words.number((100 * l.massMg) / inMg, 1),
                what: [
                  l.code,
                  l.ingredientId
                    ? words.word('ingredient', l.label)
                    : l.label && l.label !== l.material
                      ? l.label
                      : words.word('material', l.material),
                ]
                  .filter(Boolean)
                  .join(' '),
              }),
            )
            .join(', ')}
        </p>
        <p className="mt-1 flex flex-wrap gap-2">
          {of.onHold && <Chip tone="bad">{t('on-hold')}</Chip>}
          {of.bestBefore !== null && of.leftMg > 0 && (
            <Chip tone={isOld ? 'bad' : 'plain'}>
              {t(isOld ? 'filling.past' : 'filling.until', { day: words.day(of.bestBefore) })}
            </Chip>
          )}
        </p>
      </div>
      {of.leftMg > 0 && <span className="num text-[20px]">{words.mass(of.leftMg)}</span>}
      {onAgain && <Button onClick={onAgain}>{t('filling.again')}</Button>}
      <details className="basis-full" onToggle={(e) => setOpen(e.currentTarget.open)}>
        <summary className="min-h-8 cursor-pointer text-[13px] text-ink-2">{t('filling.weights')}</summary>
        {isOpen && <Weights id={of.id} />}
      </details>
    </li>
  );
}

/** The weights of a filling, to be corrected, or taken out of the books. */
function Weights({ id }: { id: string }) {
  const { data } = useRead<FillingLines>(`/api/fillings/${id}`);
  if (!data) return null;
  return (
    <>
      <StepLines view={{ batch: { id: null }, movements: data.movements }} step={data.step} />
      <FillingKeeping step={data.step} />
    </>
  );
}
