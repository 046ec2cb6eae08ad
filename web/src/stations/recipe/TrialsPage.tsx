import { Plus } from 'lucide-react';
import { useState } from 'react';
import type { Trial } from '@wunsch/contract';
import { useRead } from '../../shell/door.tsx';
import { useMayMake } from '../../shell/session.tsx';
import { useAsked } from '../../shell/useAsked.ts';
import { Button } from '../../ui/Button.tsx';
import { EmptyState } from '../../ui/Panel.tsx';
import { useWords } from '../../words/words.tsx';
import { NewTrial } from './NewTrial.tsx';
import { TrialCard } from './TrialCard.tsx';

/** Trials: one factor varied between parts of a material, tasted blind, the winner kept as the next version. */
export default function TrialsPage() {
  const { t } = useWords();
  const { data } = useRead<Trial[]>('/api/trials');
  const mayMake = useMayMake();
  const [adding, setAdding] = useState(false);
  useAsked('begin', () => setAdding(true));
  return (
    <div className="p-3 sm:px-4">
      <header className="mb-3 flex flex-wrap items-center gap-3">
        <h1 className="text-[26px]">{t('trials')}</h1>
        {mayMake && !adding && (
          <Button
            className="ml-auto"
            look="main"
            icon={<Plus size={16} aria-hidden="true" />}
            onClick={() => setAdding(true)}
          >
            {t('trials.begin')}
          </Button>
        )}
      </header>
      {adding && <NewTrial onDone={() => setAdding(false)} />}
      {data?.length === 0 && !adding && <EmptyState title={t('trials')}>{t('trials.none')}</EmptyState>}
      <div className="grid gap-2">
        {data?.toReversed().map((trial) => (
          <TrialCard key={trial.id} trial={trial} />
        ))}
      </div>
    </div>
  );
}
