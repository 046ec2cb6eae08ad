import { useRef, useState } from 'react';
import { mutate } from 'swr';
import type { Problem } from '@wunsch/contract';
import { ApiProblem, ServerAway } from '../shell/api.ts';
import { Button } from '../ui/Button.tsx';
import { TextField } from '../ui/Field.tsx';
import { FileButton } from '../ui/FileButton.tsx';
import { useWords } from '../words/words.tsx';

/** What came of putting an archive back. */
interface Restored {
  workshop: string;
  entries: number;
}

/** Sends an archive; tells how far it has gone, 0 to 1. A fetch cannot say that of what it sends. */
function sendArchive(
  file: File,
  code: string,
  told: (share: number) => void,
): { done: Promise<Restored>; stop: () => void } {
  const sending = new XMLHttpRequest();
  const done = new Promise<Restored>((resolve, reject) => {
    sending.upload.onprogress = (e) => told(e.lengthComputable ? e.loaded / e.total : 0);
    sending.onload = () => {
      try {
        const said: unknown = JSON.parse(sending.responseText);
        if (sending.status === 201) resolve(said as Restored);
        else reject(new ApiProblem(said as Problem));
      } catch {
        reject(new ServerAway());
      }
    };
    sending.onerror = () => reject(new ServerAway());
    sending.onabort = () => reject(new DOMException('stopped', 'AbortError'));
  });
  sending.open('POST', '/api/restore');
  sending.setRequestHeader('content-type', 'application/zip');
  if (code.trim()) sending.setRequestHeader('first-run-code', code.trim());
  sending.send(file);
  return { done, stop: () => sending.abort() };
}

/** For whoever has a workshop already: its archive, put into this empty one. */
export function PutBack({ needsCode }: { needsCode: boolean }) {
  const { t, explain } = useWords();
  const [code, setCode] = useState('');
  const [share, setShare] = useState<number | null>(null);
  const [wrong, setWrong] = useState<string | null>(null);
  const stop = useRef<() => void>(() => undefined);
  const put = async (file: File) => {
    setWrong(null);
    setShare(0);
    const sending = sendArchive(file, code, setShare);
    stop.current = sending.stop;
    try {
      await sending.done;
      await mutate('/api/session');
    } catch (error) {
      if (!(error instanceof DOMException)) setWrong(explain(error));
      setShare(null);
    }
  };
  return (
    <details className="panel p-5">
      <summary className="min-h-11 cursor-pointer content-center text-[15px] font-semibold">
        {t('putback')}
      </summary>
      <p className="my-2 max-w-[64ch] text-[13.5px] text-ink-2">{t('putback.text')}</p>
      {needsCode && (
        <TextField
          label={t('first.code')}
          hint={t('first.code.hint')}
          value={code}
          onChange={(e) => setCode(e.target.value)}
          autoComplete="off"
          autoCapitalize="characters"
          maxLength={40}
        />
      )}
      {share === null ? (
        <div className="mt-3">
          {/* Without the code the server would take the whole file and then refuse it. */}
          {(!needsCode || code.trim() !== '') && (
            <FileButton
              label={t('putback.choose')}
              accept=".zip,application/zip"
              onFile={(f) => void put(f)}
            />
          )}
        </div>
      ) : (
        <div className="mt-3 flex flex-wrap items-center gap-3">
          <progress
            aria-label={t('putback')}
            className="h-3 grow accent-violet"
            {...(share < 1 && { value: share })}
            max={1}
          />
          <span role="status" className="num text-[13px]">
            {share < 1 ? t('putback.sends', { percent: Math.round(share * 100) }) : t('putback.checks')}
          </span>
          {share < 1 && <Button onClick={() => stop.current()}>{t('cancel')}</Button>}
        </div>
      )}
      {wrong && (
        <p role="alert" className="mt-3 text-bad">
          {wrong}
        </p>
      )}
    </details>
  );
}
