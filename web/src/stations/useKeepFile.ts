import { useState } from 'react';
import { newId } from '../shell/entry.ts';
import { base64Of, smallerPhoto } from '../shell/photo.ts';
import { useEntryHere } from '../shell/useEntryHere.ts';
import { useWords } from '../words/words.tsx';

/** Kinds of files that are kept. */
export const FILE_TYPES = ['image/jpeg', 'image/png', 'image/webp', 'application/pdf'];

const LARGEST = 6 * 1024 * 1024;

/** Keeps photographs and documents with a lot, a batch or a step; says what was refused. */
export function useKeepFile(of: { lotId: string } | { batchId: string; stepId?: string }) {
  const { t, explain } = useWords();
  const send = useEntryHere();
  const [error, setError] = useState<string | null>(null);
  const keep = async (file: File, name = file.name || 'photo.jpg') => {
    setError(null);
    try {
      if (!FILE_TYPES.includes(file.type)) throw new Error(t('lot.files.wrong'));
      const blob = await smallerPhoto(file);
      if (blob.size > LARGEST) throw new Error(t('lot.files.wrong'));
      await send({
        path: `/api/attachments/${newId()}`,
        body: { ...of, name, type: blob.type || file.type, content: await base64Of(blob) },
        label: t('done.file', { name }),
        batchId: 'batchId' in of ? of.batchId : null,
        undo: true,
      });
    } catch (failure) {
      setError(explain(failure));
    }
  };
  return { keep, error };
}
