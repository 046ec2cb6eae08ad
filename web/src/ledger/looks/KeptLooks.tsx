import { X } from 'lucide-react';
import { useState } from 'react';
import { useSearchParams } from 'react-router';
import type { KeptLook, TableLook } from '@wunsch/contract';
import { useRead } from '../../shell/door.tsx';
import { newId } from '../../shell/entry.ts';
import { useMayTaste } from '../../shell/session.tsx';
import { useEntryHere } from '../../shell/useEntryHere.ts';
import { Button } from '../../ui/Button.tsx';
import { FormDialog } from '../../ui/FormDialog.tsx';
import { TextField } from '../../ui/Field.tsx';
import { useWords } from '../../words/words.tsx';

/** What of an address says how its table is looked at: everything but which sheet and which page of it it is. In one order, so that two can be compared. */
function lookOf(params: URLSearchParams): string {
  const kept = new URLSearchParams(params);
  kept.delete('sheet');
  kept.delete('before');
  kept.sort();
  return kept.toString();
}

/** Ways of looking at a table that were given a name, by anyone here; and a name for the present one. */
export function KeptLooks({ table }: { table: TableLook['table'] }) {
  const { t } = useWords();
  const { data = [] } = useRead<KeptLook[]>('/api/table-looks');
  const [params, setParams] = useSearchParams();
  const mayKeep = useMayTaste();
  const send = useEntryHere();
  const [asking, setAsking] = useState(false);
  const now = lookOf(params);
  const mine = data.filter((l) => l.table === table);
  const isKept = mine.some((l) => lookOf(new URLSearchParams(l.query)) === now);
  const show = (query: string) =>
    setParams((old) => {
      const next = new URLSearchParams(query);
      const sheet = old.get('sheet');
      if (sheet) next.set('sheet', sheet);
      return next;
    });
  const forget = ({ id, name }: KeptLook) =>
    void send({
      path: `/api/table-looks/${id}/forgotten`,
      body: {},
      label: t('done.look-forgotten', { name }),
      undo: true,
    }).catch(() => undefined);
  if (mine.length === 0 && (now === '' || !mayKeep)) return null;
  return (
    <div role="group" aria-label={t('looks')} className="flex flex-wrap items-center gap-2">
      {mine.map((look) => {
        const isOn = lookOf(new URLSearchParams(look.query)) === now;
        return (
          <span
            key={look.id}
            className={`inline-flex items-stretch overflow-hidden rounded border ${isOn ? 'border-violet bg-violet-tint' : 'border-edge bg-panel'}`}
          >
            <button
              type="button"
              aria-pressed={isOn}
              className="min-h-11 px-3 text-[13.5px] font-semibold hover:underline"
              onClick={() => show(isOn ? '' : look.query)}
            >
              {look.name}
            </button>
            {mayKeep && isOn && (
              <button
                type="button"
                aria-label={t('looks.forget', { name: look.name })}
                className="grid min-h-11 w-11 place-items-center border-l border-line hover:bg-panel-2"
                onClick={() => forget(look)}
              >
                <X size={15} aria-hidden="true" />
              </button>
            )}
          </span>
        );
      })}
      {mayKeep && now !== '' && !isKept && (
        <Button look="quiet" onClick={() => setAsking(true)}>
          {t('looks.keep')}
        </Button>
      )}
      {asking && <KeepDialog table={table} query={now} onClose={() => setAsking(false)} />}
    </div>
  );
}

function KeepDialog({ table, query, onClose }: TableLookOf) {
  const { t } = useWords();
  const send = useEntryHere();
  const [name, setName] = useState('');
  const keep = () =>
    send({
      path: `/api/table-looks/${newId()}`,
      body: { table, name: name.trim(), query },
      label: t('done.look-kept', { name: name.trim() }),
      undo: true,
    });
  return (
    <FormDialog
      title={t('looks.keep')}
      description={t('looks.keep.text')}
      submit={t('looks.keep.do')}
      isReady={name.trim() !== ''}
      onSubmit={keep}
      onClose={onClose}
    >
      <TextField
        label={t('looks.name')}
        value={name}
        onChange={(e) => setName(e.target.value)}
        maxLength={60}
        required
      />
    </FormDialog>
  );
}

interface TableLookOf {
  table: TableLook['table'];
  query: string;
  onClose: () => void;
}
