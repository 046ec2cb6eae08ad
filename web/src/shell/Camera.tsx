import { useEffect, useRef, useState } from 'react';
import { Dialog } from '../ui/Dialog.tsx';
import { useWords } from '../words/words.tsx';
import { codeReader } from './codes.ts';

/** How often the picture is looked at, ms. */
const EVERY = 250;

/** The camera reads codes until one is taken. */
export function Camera({
  onRead,
  onClose,
}: {
  /** Whether what was read is taken; the camera looks on where it is not. */
  onRead: (text: string) => Promise<boolean>;
  onClose: () => void;
}) {
  const { t } = useWords();
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
    const look = async () => {
      if (isOver || !reader || !video.current) return;
      const [found] = await reader.detect(video.current).catch(() => []);
      if (found && !isOver) {
        if (await onRead(found.rawValue)) return end();
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
  }, [onRead]);
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
