import { Button } from '../ui/Button.tsx';
import { useWords } from '../words/words.tsx';
import { useIsOld } from './release.ts';

/** Says that the workshop was upgraded while this page was open, and loads what is new when it suits. */
export function ReleaseBar() {
  const { t } = useWords();
  if (!useIsOld()) return null;
  return (
    <div
      className="no-print flex flex-wrap items-center gap-x-3 border-b border-line-2 bg-panel px-4 py-1 text-[13px]"
      role="status"
    >
      <p>
        <strong>{t('release.new')}</strong> {t('release.text')}
      </p>
      <Button look="quiet" onClick={() => location.reload()}>
        {t('release.load')}
      </Button>
    </div>
  );
}
