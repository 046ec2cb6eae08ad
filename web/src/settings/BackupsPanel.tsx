import { useState } from 'react';
import type { BackupsView } from '@wunsch/contract';
import { useDoor, useRead } from '../shell/door.tsx';
import { Button } from '../ui/Button.tsx';
import { Panel } from '../ui/Panel.tsx';
import { useWords } from '../words/words.tsx';

/** How it stands with the backups: the last, the next, why one failed, and one now. */
export function BackupsPanel() {
  const words = useWords();
  const { t } = words;
  const { request } = useDoor();
  const { data, mutate } = useRead<BackupsView>('/api/backups', { refreshInterval: 60_000 });
  const [busy, setBusy] = useState(false);
  const [wrong, setWrong] = useState<string | null>(null);
  if (!data) return null;
  const make = async () => {
    setBusy(true);
    setWrong(null);
    try {
      await mutate(await request<BackupsView>('POST', '/api/backups', {}), { revalidate: false });
    } catch (error) {
      setWrong(words.explain(error));
    }
    setBusy(false);
  };
  return (
    <Panel title={t('backups')}>
      {data.folder === null ? (
        <p className="max-w-prose text-[13.5px]">{t('backups.none')}</p>
      ) : (
        <div className="grid gap-2 text-[13.5px]">
          <p>
            {data.last
              ? t('backups.last', { when: words.when(data.last.at), n: data.count })
              : t('backups.not-yet')}{' '}
            <span className="text-ink-3">
              {t('backups.folder', { folder: data.folder })}
              {data.nextAt && ` ${t('backups.next', { when: words.when(data.nextAt) })}`}
            </span>
          </p>
          {data.failed && (
            <p role="alert" className="text-bad">
              {t('backups.failed', { when: words.when(data.failed.at), why: data.failed.why })}
            </p>
          )}
          <p className="max-w-prose text-ink-2">{t('backups.text')}</p>
          <div>
            <Button disabled={busy || data.running} onClick={() => void make()}>
              {t(busy || data.running ? 'backups.runs' : 'backups.now')}
            </Button>
          </div>
        </div>
      )}
      {wrong && (
        <p role="alert" className="mt-2 text-bad">
          {wrong}
        </p>
      )}
    </Panel>
  );
}
