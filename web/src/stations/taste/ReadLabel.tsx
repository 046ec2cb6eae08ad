import { ScanLine } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import type { FindHit } from '@wunsch/contract';
import { useDoor } from '../../shell/door.tsx';
import { Button } from '../../ui/Button.tsx';
import { Dialog } from '../../ui/Dialog.tsx';
import { useWords } from '../../words/words.tsx';

/** What browsers that read codes by themselves offer. */
interface CodeReader {
  detect: (source: CanvasImageSource) => Promise<{ rawValue: string }[]>;
}

/** Makes the browser’s reader of codes; null where it has none, or no camera may be asked for. */
function codeReader(): CodeReader | null {
  const Reader = (globalThis as { BarcodeDetector?: new (options: { formats: string[] }) => CodeReader })
    .BarcodeDetector;
  if (!Reader || !navigator.mediaDevices?.getUserMedia) return null;
  try {
    return new Reader({ formats: ['qr_code', 'data_matrix'] });
  } catch {
    return null;
  }
}

/** How often the picture is looked at, ms. */
const EVERY = 250;

/** What a label’s code says: the page of a batch, or a bar’s code, whose day of moulding stands at its end. */
export function saidBy(text: string): { batchId: string } | { code: string } | null {
  const page = /\/batch\/([0-9a-f-]{36})\b/i.exec(text);
  if (page) return { batchId: page[1]!.toLowerCase() };
  const code = /^([A-Za-z0-9]+(?:-[A-Za-z0-9]+)*?)(?:-\d{6})?$/.exec(text.trim());
  return code ? { code: code[1]! } : null;
}

/** A tasting one tap from the bar: the camera reads its label, where the browser can. Nothing is shown where it cannot. */
export function ReadLabel() {
  const { t } = useWords();
  const [open, setOpen] = useState(false);
  const [canRead] = useState(() => codeReader() !== null);
  if (!canRead) return null;
  return (
    <>
      <Button icon={<ScanLine size={16} aria-hidden="true" />} onClick={() => setOpen(true)}>
        {t('read-label')}
      </Button>
      {open && <Camera onClose={() => setOpen(false)} />}
    </>
  );
}

function Camera({ onClose }: { onClose: () => void }) {
  const { t } = useWords();
  const { read } = useDoor();
  const navigate = useNavigate();
  const video = useRef<HTMLVideoElement>(null);
  const [trouble, setTrouble] = useState<'camera' | 'unknown' | null>(null);
  useEffect(() => {
    const reader = codeReader();
    let stream: MediaStream | null = null;
    let isOver = false;
    const end = () => {
      isOver = true;
      stream?.getTracks().forEach((track) => track.stop());
    };
    const goTo = (batchId: string) => {
      end();
      onClose();
      void navigate(`/taste/${batchId}`);
    };
    const look = async () => {
      if (isOver || !reader || !video.current) return;
      const [found] = await reader.detect(video.current).catch(() => []);
      const said = found ? saidBy(found.rawValue) : null;
      if (said && 'batchId' in said) return goTo(said.batchId);
      if (said) {
        const hits = await read<FindHit[]>(`/api/find?q=${encodeURIComponent(said.code)}`).catch(() => []);
        const hit = hits.find((h) => h.kind === 'batch' && h.title === said.code);
        if (hit) return goTo(hit.id);
        setTrouble('unknown');
      }
      setTimeout(() => void look(), EVERY);
    };
    navigator.mediaDevices.getUserMedia({ video: { facingMode: 'environment' } }).then(
      async (opened) => {
        stream = opened;
        if (isOver || !video.current) return end();
        video.current.srcObject = opened;
        await video.current.play().catch(() => undefined);
        void look();
      },
      () => setTrouble('camera'),
    );
    return end;
  }, [navigate, onClose, read]);
  return (
    <Dialog open onClose={onClose} title={t('read-label')} description={t('read-label.text')}>
      <video ref={video} muted playsInline className="aspect-square w-full rounded bg-black object-cover" />
      {trouble && (
        <p role="alert" className="mt-2 text-bad">
          {t(`read-label.${trouble}`)}
        </p>
      )}
    </Dialog>
  );
}
