import { Link } from 'react-router';
import type { SetAsideEntry } from '@wunsch/contract';
import { useRead } from '../shell/door.tsx';
import { useSession } from '../shell/session.tsx';
import { useWords } from '../words/words.tsx';

/** A line for the owner on the Bench while entries lie set aside. */
export function SetAsideLine() {
  const { t } = useWords();
  const { person } = useSession();
  const { data = [] } = useRead<SetAsideEntry[]>(person.role === 'owner' ? '/api/set-aside' : null);
  if (data.length === 0) return null;
  return (
    <p role="status" className="border-b border-line-2 px-4 py-2 text-[13px]">
      <strong>{t('set-aside.line', { n: data.length })}</strong>{' '}
      <Link to="/settings" className="underline underline-offset-4">
        {t('set-aside.look')}
      </Link>
    </p>
  );
}
