import { useState } from 'react';
import { Link } from 'react-router';
import type { ClassBrief } from '@wunsch/contract';
import { useRead } from '../shell/door.tsx';
import { useMayMake } from '../shell/session.tsx';
import { useAsked } from '../shell/useAsked.ts';
import { BookTable } from '../ui/BookTable.tsx';
import { Button } from '../ui/Button.tsx';
import { EmptyState, Panel } from '../ui/Panel.tsx';
import { useWords } from '../words/words.tsx';
import { ClassDialog } from './ClassDialog.tsx';

/** Classes for guests: those to come, and those that have been. */
export default function ClassesPage() {
  const words = useWords();
  const { t } = words;
  const mayMake = useMayMake();
  const [isPlanning, setPlanning] = useState(false);
  useAsked('plan', () => setPlanning(true));
  const { data } = useRead<ClassBrief[]>('/api/classes');
  if (!data) return <p className="p-4 text-ink-3">{t('loading')}</p>;
  const plan = mayMake && (
    <Button look="main" onClick={() => setPlanning(true)}>
      {t('classes.new')}
    </Button>
  );
  const rank = { planned: 0, held: 1, 'called-off': 2 } as const;
  // The next one first, then those that have been, the last of them first.
  const rows = [...data].sort(
    (a, b) =>
      rank[a.state] - rank[b.state] ||
      (a.state === 'planned' ? 1 : -1) * (Date.parse(a.startsAt) - Date.parse(b.startsAt)),
  );
  return (
    <div className="mx-auto grid max-w-5xl gap-2 p-3 sm:px-4">
      <p>
        <Link to="/plan" className="inline-flex min-h-11 items-center underline underline-offset-4">
          {t('plan')}
        </Link>
      </p>
      <header className="flex flex-wrap items-center justify-between gap-3">
        <h1 className="text-[26px]">{t('classes')}</h1>
        {data.length > 0 && plan}
      </header>
      <p className="mb-1 max-w-[76ch] text-[13.5px] text-ink-2">{t('classes.text')}</p>
      {data.length === 0 ? (
        <EmptyState title={t('classes.none')} action={plan}>
          {t('classes.none.text')}
        </EmptyState>
      ) : (
        <Panel>
          <BookTable
            caption={t('classes')}
            rows={rows}
            keyOf={(c) => c.id}
            empty={t('classes.none')}
            columns={[
              {
                id: 'title',
                title: t('classes.title'),
                value: (c) => c.title,
                cell: (c) => (
                  <Link
                    to={`/plan/classes/${c.id}`}
                    className="inline-flex min-h-11 items-center font-semibold underline underline-offset-4"
                  >
                    {c.title}
                  </Link>
                ),
              },
              {
                id: 'when',
                title: t('classes.when'),
                value: (c) => c.startsAt,
                cell: (c) => words.when(c.startsAt),
              },
              {
                id: 'guests',
                title: t('classes.guests'),
                value: (c) => c.guests,
                cell: (c) => t('classes.of', { n: c.guests, places: c.places }),
              },
              {
                id: 'state',
                title: t('classes.state'),
                value: (c) => c.state,
                cell: (c) => t(`classes.state.${c.state}`),
                wide: true,
              },
              {
                id: 'liking',
                title: t('classes.liking'),
                value: (c) => c.liking ?? -1,
                cell: (c) => (c.liking === null ? '' : words.number(c.liking, 1)),
                numeric: true,
                wide: true,
              },
            ]}
          />
        </Panel>
      )}
      {isPlanning && <ClassDialog onClose={() => setPlanning(false)} />}
    </div>
  );
}
