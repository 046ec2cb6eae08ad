import { Link, useNavigate } from 'react-router';
import type { Lot } from '@wunsch/contract';
import { lotWords } from '@wunsch/core/beans';
import { useSession } from '../../shell/session.tsx';
import { Button } from '../../ui/Button.tsx';
import { Chip, EmptyState } from '../../ui/Panel.tsx';
import { useWords } from '../../words/words.tsx';
import { Sack } from './Sack.tsx';
import { lotPrice } from '../../ui/lotPrice.ts';

/** Lots in store, oldest first, with what is left and what to mind. */
export function LotList({ lots }: { lots: readonly Lot[] }) {
  const words = useWords();
  const { t } = words;
  const navigate = useNavigate();
  const { workshop } = useSession();
  if (lots.length === 0)
    return (
      <EmptyState
        title={t('empty.beans.title')}
        action={
          workshop.shape === 'estate' && (
            <Button onClick={() => navigate('/beans?show=harvest')}>{t('harvest.note')}</Button>
          )
        }
      >
        {t('empty.beans.text')}
      </EmptyState>
    );
  const firstToUse = lots.find((l) => l.material === 'dry beans' && l.remainingMg > 0 && !l.onHold)?.id;
  return (
    <ul className="grid gap-2 lg:grid-cols-2">
      {lots.map((l) => {
        const moist = l.moisture !== null && l.moisture > 8 && l.material === 'dry beans';
        return (
          <li key={l.id}>
            <Link
              to={`/beans/${l.id}`}
              className={`panel flex h-full gap-4 p-4 hover:bg-panel-2 ${l.remainingMg === 0 ? 'border-dashed' : ''}`}
            >
              <Sack lot={l} />
              <span className="min-w-0 grow">
                <span className="flex flex-wrap items-baseline justify-between gap-2">
                  <span className="num text-[20px]">{l.code}</span>
                  <span className="num text-[18px]">{words.mass(l.remainingMg)}</span>
                </span>
                <span className="block font-semibold">{lotWords(l.name, l.harvest).join(' ')}</span>
                <span className="block text-[12.5px] text-ink-3">
                  {[
                    l.country,
                    words.word('material', l.material),
                    t('lot.of', { mass: words.mass(l.arrivedMg) }),
                    lotPrice(l, words),
                  ]
                    .filter(Boolean)
                    .join(' · ')}
                </span>
                <span className="mt-1 flex flex-wrap gap-2">
                  {l.id === firstToUse && <Chip>{t('lot.use-first')}</Chip>}
                  {l.onHold && (
                    <Chip tone="bad">{t('lot.on-hold', { why: l.holdReason || t('on-hold') })}</Chip>
                  )}
                  {moist && (
                    <Chip tone="bad">{t('lot.moist', { percent: words.number(l.moisture!, 1) })}</Chip>
                  )}
                  {(l.material === 'wet beans' || l.material === 'pods') && l.remainingMg > 0 && (
                    <Chip tone="due">{t('lot.ferments')}</Chip>
                  )}
                </span>
              </span>
            </Link>
          </li>
        );
      })}
    </ul>
  );
}
