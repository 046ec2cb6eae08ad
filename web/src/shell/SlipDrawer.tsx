import { Dialog } from '../ui/Dialog.tsx';
import { useWords } from '../words/words.tsx';
import { Slip } from './Slip.tsx';

/** The slip over the page, where the page is too narrow to have it at its side. */
export function SlipDrawer({ onClose }: { onClose: () => void }) {
  const { t } = useWords();
  return (
    <Dialog open onClose={onClose} title={t('slip')}>
      <Slip />
    </Dialog>
  );
}
