import type { Attachment } from '@wunsch/contract';
import { Panel } from '../ui/Panel.tsx';
import { useWords } from '../words/words.tsx';
import { FileButton } from '../ui/FileButton.tsx';
import { FILE_TYPES, useKeepFile } from './useKeepFile.ts';

/** Photographs and documents of a lot or a batch; drop a file or choose one. */
export function FilesPanel({
  of,
  files,
  mayMake,
}: {
  of: { lotId: string } | { batchId: string };
  files: readonly Attachment[];
  mayMake: boolean;
}) {
  const words = useWords();
  const { t } = words;
  const { keep, error } = useKeepFile(of);
  return (
    <Panel title={t('lot.files')}>
      <div
        onDragOver={(e) => e.preventDefault()}
        onDrop={(e) => {
          e.preventDefault();
          for (const file of e.dataTransfer.files) void keep(file);
        }}
      >
        {files.length === 0 && <p className="text-ink-3">{t('lot.files.none')}</p>}
        <ul className="flex flex-wrap gap-2">
          {files.map((f) => (
            <li key={f.id} className="w-32">
              <a
                href={`/api/attachments/${f.id}/file`}
                target="_blank"
                rel="noreferrer"
                className="block rounded border border-line p-1 hover:bg-panel-2"
              >
                {f.type.startsWith('image/') ? (
                  <img
                    src={`/api/attachments/${f.id}/file`}
                    alt={f.name}
                    loading="lazy"
                    className="h-24 w-full rounded-[3px] object-cover"
                  />
                ) : (
                  <span className="grid h-24 place-items-center bg-panel-2 text-[13px]">PDF</span>
                )}
                <span className="block truncate text-[12px]">{f.name}</span>
                <span className="block text-[12px] text-ink-3">
                  {words.day(f.at)} {f.by}
                </span>
              </a>
            </li>
          ))}
        </ul>
        {error && (
          <p role="alert" className="mt-2 text-bad">
            {error}
          </p>
        )}
        {mayMake && (
          <FileButton
            className="mt-3"
            label={t('lot.files.add')}
            accept={FILE_TYPES.join(',')}
            onFile={(file) => void keep(file)}
          />
        )}
      </div>
    </Panel>
  );
}
