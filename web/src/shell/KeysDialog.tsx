import { Dialog } from '../ui/Dialog.tsx';
import { useWords } from '../words/words.tsx';

/** Every key that does something on every page. */
export function KeysDialog({ onClose }: { onClose: () => void }) {
  const { t } = useWords();
  const keys: [string, string][] = [
    ['1–9', t('keys.stations')],
    ['0', t('bench')],
    ['/', t('find')],
    ['w', t('keys.weigh')],
    ['r', t('keys.reading')],
    ['m', t('keys.event')],
    ['n', t('keys.note')],
    ['t', t('timer.set')],
    ['u', t('keys.undo')],
    ['Esc', t('keys.leave')],
    ['?', t('keys')],
  ];
  return (
    <Dialog open onClose={onClose} title={t('keys')}>
      <dl className="grid grid-cols-[64px_1fr] gap-y-2">
        {keys.map(([key, what]) => (
          <div key={key} className="contents">
            <dt>
              <kbd className="rounded border border-edge px-2 py-0.5 font-semibold">{key}</kbd>
            </dt>
            <dd>{what}</dd>
          </div>
        ))}
      </dl>
    </Dialog>
  );
}
