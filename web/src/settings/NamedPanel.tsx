import { useSession } from '../shell/session.tsx';
import { useEntryHere } from '../shell/useEntryHere.ts';
import { Panel } from '../ui/Panel.tsx';
import { useAtOnce } from '../ui/useAtOnce.ts';
import { useWords } from '../words/words.tsx';

/** Whether the person signed in wants to be named on the public pages of bars they made. */
export function NamedPanel() {
  const { t } = useWords();
  const { person } = useSession();
  const send = useEntryHere();
  const [isNamed, setNamed] = useAtOnce(person.isNamed, (next) =>
    send({ path: `/api/people/${person.id}/named`, body: { isNamed: next }, label: t('done.named') }),
  );
  return (
    <Panel title={t('named.title')}>
      <label className="flex min-h-11 items-center gap-3 text-[14.5px]">
        <input
          type="checkbox"
          className="size-5 accent-violet"
          checked={isNamed}
          onChange={(e) => setNamed(e.target.checked)}
        />
        {t('named.me')}
      </label>
      <p className="text-[12.5px] text-ink-3">{t('named.hint')}</p>
    </Panel>
  );
}
