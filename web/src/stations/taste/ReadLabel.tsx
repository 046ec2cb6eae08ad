import { ScanLine } from 'lucide-react';
import { useCallback, useState } from 'react';
import { useNavigate } from 'react-router';
import { Camera } from '../../shell/Camera.tsx';
import { codeReader, thingOf } from '../../shell/codes.ts';
import { useDoor } from '../../shell/door.tsx';
import { Button } from '../../ui/Button.tsx';
import { useWords } from '../../words/words.tsx';

/** A tasting one tap from the bar: the camera reads its label, where the browser can. Nothing is shown where it cannot. */
export function ReadLabel() {
  const { t } = useWords();
  const { read } = useDoor();
  const navigate = useNavigate();
  const [open, setOpen] = useState(false);
  const [canRead] = useState(() => codeReader() !== null);
  const onRead = useCallback(
    async (text: string) => {
      const thing = await thingOf(text, read);
      const batchId = thing && /^\/batch\/([\w-]+)/.exec(thing.path)?.[1];
      if (!batchId) return false;
      setOpen(false);
      void navigate(`/taste/${batchId}`);
      return true;
    },
    [navigate, read],
  );
  if (!canRead) return null;
  return (
    <>
      <Button icon={<ScanLine size={16} aria-hidden="true" />} onClick={() => setOpen(true)}>
        {t('read-label')}
      </Button>
      {open && <Camera onRead={onRead} onClose={() => setOpen(false)} />}
    </>
  );
}
