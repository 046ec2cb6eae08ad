import { Camera } from 'lucide-react';
import type { Attachment } from '@wunsch/contract';
import { useDoor, useRead } from '../shell/door.tsx';
import { useMayMake } from '../shell/session.tsx';
import { FileButton } from '../ui/FileButton.tsx';
import { useWords } from '../words/words.tsx';
import { useKeepFile } from './useKeepFile.ts';

/** Photographs of a step, a dip or bars as they look, and the camera for another one. In a practice nobody keeps any. */
export function StepPhotos({ batchId, stepId, what }: { batchId: string; stepId: string; what: string }) {
  const words = useWords();
  const { t } = words;
  const mayMake = useMayMake();
  const { isPractice } = useDoor();
  const { data = [] } = useRead<Attachment[]>(isPractice ? null : `/api/attachments?batchId=${batchId}`);
  const { keep, error } = useKeepFile({ batchId, stepId });
  const mine = data.filter((f) => f.stepId === stepId && f.type.startsWith('image/'));
  if (isPractice) return null;
  return (
    <div className="flex flex-wrap items-center gap-2">
      {mine.map((f) => (
        <a
          key={f.id}
          href={`/api/attachments/${f.id}/file`}
          target="_blank"
          rel="noreferrer"
          className="block rounded border border-line p-0.5 hover:bg-panel-2"
        >
          <img
            src={`/api/attachments/${f.id}/file`}
            alt={`${f.name}, ${words.when(f.at)}`}
            loading="lazy"
            className="size-14 rounded-[3px] object-cover"
          />
        </a>
      ))}
      {mayMake && (
        <FileButton
          label={t('photo.take')}
          accept="image/jpeg,image/png,image/webp"
          icon={<Camera size={17} aria-hidden="true" />}
          onFile={(file) => void keep(file, what)}
        />
      )}
      {error && (
        <p role="alert" className="text-[13px] text-bad">
          {error}
        </p>
      )}
    </div>
  );
}
