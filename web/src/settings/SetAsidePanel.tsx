import type { SetAsideEntry } from '@wunsch/contract';
import { useRead } from '../shell/door.tsx';
import { newId } from '../shell/entry.ts';
import { useEntryHere } from '../shell/useEntryHere.ts';
import { Button } from '../ui/Button.tsx';
import { Panel } from '../ui/Panel.tsx';
import { useWords } from '../words/words.tsx';

/** Entries that could not be carried out when the workshop was opened, with the reason; nothing where there are none. */
export function SetAsidePanel() {
  const words = useWords();
  const { t } = words;
  const send = useEntryHere();
  const { data = [] } = useRead<SetAsideEntry[]>('/api/set-aside');
  if (data.length === 0) return null;
  return (
    <Panel title={t('set-aside')}>
      <p className="mb-2 max-w-prose text-[13px]">{t('set-aside.text')}</p>
      <ul>
        {data.map((entry) => (
          <li key={entry.seq} className="grid gap-1 border-t border-line py-2 text-[13px]">
            <div className="flex flex-wrap items-center gap-x-4 gap-y-1">
              <span className="tabular-nums text-ink-3">{words.when(entry.at)}</span>
              <strong>{words.word('trail', entry.kind)}</strong>
              <span className="text-ink-3">{entry.by}</span>
              <span className="grow text-bad">{entry.reason}</span>
              <Button
                onClick={() =>
                  void send({
                    path: `/api/set-aside/${newId()}/seen`,
                    body: { seq: entry.seq },
                    label: t('done.set-aside'),
                  }).catch(() => undefined)
                }
              >
                {t('set-aside.away')}
              </Button>
            </div>
            <code className="block max-h-24 overflow-auto break-all rounded bg-panel-2 p-2 text-[12px]">
              {entry.body}
            </code>
          </li>
        ))}
      </ul>
    </Panel>
  );
}
