import type { ReactNode } from 'react';
import { Button } from '../../ui/Button.tsx';
import { useWords } from '../../words/words.tsx';

/** Keeps a card, once every mark it needs is there; until then it says which are not. */
export function SaveCardButton({
  open,
  onSave,
  children,
}: {
  open: readonly string[];
  onSave: () => void;
  /** What else can be done with the card. */
  children?: ReactNode;
}) {
  const { t } = useWords();
  return (
    <div className="mt-3 flex flex-wrap items-center gap-x-4 gap-y-2">
      <Button look="main" big disabled={open.length > 0} onClick={onSave}>
        {t('taste.save')}
      </Button>
      {children}
      {open.length > 0 && (
        <p className="text-[13px] text-ink-2">{t('taste.open-marks', { names: open.join(', ') })}</p>
      )}
    </div>
  );
}
