import { Link } from 'react-router';
import { useWords } from '../../words/words.tsx';

/** Something that waits for somebody: when, what, and of what; null where it may be done at any time. */
export function DueRow({
  to,
  when,
  isDue = false,
  title,
  note,
  onGo,
}: {
  to: string;
  when: string | null;
  /** Its time has come. */
  isDue?: boolean;
  title: string;
  note: string;
  onGo?: () => void;
}) {
  const { t } = useWords();
  return (
    <li className="border-b border-line last:border-0">
      <Link
        to={to}
        onClick={onGo}
        className="grid min-h-14 grid-cols-[84px_1fr] items-stretch hover:bg-panel-2"
      >
        <span
          className={`num grid place-items-center px-1 text-center text-[15px] ${isDue ? 'bg-signal text-on-signal' : ''}`}
        >
          {isDue
            ? t('now')
            : (when ?? <span className="font-body text-[12px] font-normal text-ink-3">{t('any-time')}</span>)}
        </span>
        <span className="min-w-0 self-center px-3 py-2">
          <span className="block truncate text-[13.5px] font-semibold">{title}</span>
          <span className="block truncate text-[12px] text-ink-3">{note}</span>
        </span>
      </Link>
    </li>
  );
}
