import type { Station } from '@wunsch/core/ledger';
import { useDoor, useRead } from '../shell/door.tsx';
import { useExplained } from '../shell/explained.ts';
import { useSession } from '../shell/session.tsx';
import { Button } from '../ui/Button.tsx';
import { useWords } from '../words/words.tsx';
import { CAUTIONED } from './Caution.tsx';

/** Stations with a picture of their own. */
const PICTURES = ['roast', 'winnow', 'recipe', 'grind', 'temper', 'mould', 'taste'] as const;

type Pictured = (typeof PICTURES)[number];

const isPictured = (station: Station): station is Pictured =>
  (PICTURES as readonly Station[]).includes(station);

/** What a station's picture shows and how it is read: once for each person, after what is to be minded there. A conche has one of its own. */
export function Explained({ station, isConche = false }: { station: Station; isConche?: boolean }) {
  const { t } = useWords();
  const { person } = useSession();
  const { isPractice } = useDoor();
  const picture = isConche ? 'conche' : station;
  const [isDone, done] = useExplained(person.id, picture);
  const asks = !isDone && !isPractice && (picture === 'conche' || isPictured(picture));
  const isCautioned =
    person.role !== 'viewer' &&
    person.role !== 'taster' &&
    (CAUTIONED as readonly Station[]).includes(station);
  const { data: read } = useRead<Station[]>(asks && isCautioned ? '/api/cautions' : null);
  if (!asks || (isCautioned && !read?.includes(station))) return null;
  return (
    <section
      aria-label={t('explained.title')}
      className="mb-2 flex flex-wrap items-center gap-x-4 gap-y-2 border-l-4 border-violet bg-panel px-3 py-2"
    >
      <p className="min-w-0 max-w-[84ch] flex-1 basis-72 text-[13.5px]">
        <b className="font-semibold">{t('explained.title')}:</b> {t(`explained.${picture}`)}
      </p>
      <Button onClick={done}>{t('explained.done')}</Button>
    </section>
  );
}
