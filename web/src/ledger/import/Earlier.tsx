import { useState } from 'react';
import type { ImportRun } from '@wunsch/contract';
import { useRead } from '../../shell/door.tsx';
import { newId } from '../../shell/entry.ts';
import { useSession } from '../../shell/session.tsx';
import { useEntryHere } from '../../shell/useEntryHere.ts';
import { Button } from '../../ui/Button.tsx';
import { Panel } from '../../ui/Panel.tsx';
import { useWords } from '../../words/words.tsx';

/** Tables taken over before, each of which can be taken back whole by whoever took it. */
export function Earlier() {
  const words = useWords();
  const { t } = words;
  const me = useSession().person;
  const send = useEntryHere();
  const { data } = useRead<ImportRun[]>('/api/imports');
  const [wrong, setWrong] = useState<string | null>(null);
  if (!data || data.length === 0) return null;
  const back = (run: ImportRun) =>
    void send({
      path: `/api/undos/${newId()}`,
      body: { seq: run.seq },
      label: t('import.taken-back', { file: run.file }),
    }).then(
      () => setWrong(null),
      (error: unknown) => setWrong(words.explain(error)),
    );
  return (
    <Panel title={t('import.earlier')}>
      <ul>
        {data.map((run) => (
          <li
            key={run.id}
            className="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-line py-2 text-[13.5px]"
          >
            <span className={`min-w-0 grow ${run.voided ? 'text-ink-3 line-through' : ''}`}>
              <b className="font-semibold">{run.file}</b> {t(`import.of.${run.of}`, { n: run.rows })}
            </span>
            <span className="num text-ink-3">
              {words.day(run.at)} {run.by}
            </span>
            {!run.voided && run.by === me.initials && (
              <Button onClick={() => back(run)} aria-label={`${t('import.back')}: ${run.file}`}>
                {t('import.back')}
              </Button>
            )}
          </li>
        ))}
      </ul>
      {wrong && (
        <p role="alert" className="mt-2 text-bad">
          {wrong}
        </p>
      )}
    </Panel>
  );
}
