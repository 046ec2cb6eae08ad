import { TriangleAlert } from 'lucide-react';
import type { Station } from '@wunsch/core/ledger';
import { useDoor, useRead } from '../shell/door.tsx';
import { newId } from '../shell/entry.ts';
import { useMayMake } from '../shell/session.tsx';
import { useEntryHere } from '../shell/useEntryHere.ts';
import { Button } from '../ui/Button.tsx';
import { useWords } from '../words/words.tsx';

/** Stations at which work can hurt somebody. */
export const CAUTIONED = ['beans', 'roast', 'winnow', 'recipe', 'grind', 'temper', 'mould'] as const;

type Cautioned = (typeof CAUTIONED)[number];

const isCautioned = (station: Station): station is Cautioned =>
  (CAUTIONED as readonly Station[]).includes(station);

/** What to mind at a station, until whoever works there has read it: once for each person, and never again. */
export function Caution({ station }: { station: Station }) {
  const { t } = useWords();
  const send = useEntryHere();
  const mayMake = useMayMake();
  const { isPractice } = useDoor();
  const asked = mayMake && !isPractice && isCautioned(station);
  const { data: read } = useRead<Station[]>(asked ? '/api/cautions' : null);
  if (!asked || !read || read.includes(station)) return null;
  const done = () =>
    void send({
      path: `/api/caution-readings/${newId()}`,
      body: { station },
      label: t('caution.done', { station: t(`station.${station}`) }),
      quiet: true,
    }).catch(() => undefined);
  return (
    <section
      aria-label={t('caution.title')}
      className="mb-2 flex flex-wrap items-center gap-x-4 gap-y-2 border-l-4 border-signal bg-panel px-3 py-2"
    >
      <p className="min-w-0 max-w-[84ch] flex-1 basis-72 text-[13.5px]">
        <TriangleAlert size={16} aria-hidden="true" className="mr-2 inline align-[-3px]" />
        <b className="font-semibold">{t('caution.title')}:</b> {t(`caution.at.${station}`)}{' '}
        <span className="text-ink-3">{t('caution.rules')}</span>
      </p>
      <Button onClick={done}>{t('caution.have-read')}</Button>
    </section>
  );
}
