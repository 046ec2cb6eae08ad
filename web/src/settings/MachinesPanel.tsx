import { useState } from 'react';
import { Link } from 'react-router';
import type { Machine } from '@wunsch/contract';
import { useRead } from '../shell/door.tsx';
import { request } from '../shell/api.ts';
import { useAsked } from '../shell/useAsked.ts';
import { Button } from '../ui/Button.tsx';
import { Dialog } from '../ui/Dialog.tsx';
import { Panel } from '../ui/Panel.tsx';
import { Table } from '../ui/Table.tsx';
import { useWords } from '../words/words.tsx';
import { MachineDialog } from './MachineDialog.tsx';

/** The machines with their usable charges and device tokens. */
export function MachinesPanel() {
  const words = useWords();
  const { t } = words;
  const { data } = useRead<Machine[]>('/api/machines');
  const [editing, setEditing] = useState<Machine | 'new' | null>(null);
  useAsked('machine', () => setEditing('new'), 'owner');
  const [token, setToken] = useState<string | null>(null);
  // A new token silences the board that sends with the one before.
  const [replacing, setReplacing] = useState<Machine | null>(null);
  const [wrong, setWrong] = useState<string | null>(null);
  const makeToken = (m: Machine) => {
    setReplacing(null);
    setWrong(null);
    void request<{ token: string }>('POST', `/api/machines/${m.id}/token`).then(
      (r) => setToken(r.token),
      (error: unknown) => setWrong(words.explain(error)),
    );
  };
  return (
    <Panel
      title={t('settings.machines')}
      aside={<Button onClick={() => setEditing('new')}>{t('machine.add')}</Button>}
    >
      <Table
        caption={t('settings.machines')}
        rows={data}
        keyOf={(m) => m.id}
        empty={t('settings.machines.none')}
        columns={[
          {
            id: 'name',
            title: t('machine.called'),
            cell: (m) => (
              <Link to={`/machine/${m.id}`} className="underline underline-offset-4">
                {m.name}
              </Link>
            ),
          },
          {
            id: 'kind',
            title: t('machine.kind'),
            cell: (m) =>
              [
                words.word('machine-kind', m.kind) || t(`station.${m.station}`),
                m.active ? '' : t('machine.retired'),
              ]
                .filter(Boolean)
                .join(', '),
          },
          {
            id: 'min',
            title: t('machine.min'),
            numeric: true,
            cell: (m) => (m.minMg === null ? '' : words.mass(m.minMg)),
          },
          {
            id: 'max',
            title: t('machine.max'),
            numeric: true,
            cell: (m) => (m.maxMg === null ? '' : words.mass(m.maxMg)),
          },
          {
            id: 'do',
            title: t('change'),
            cell: (m) => (
              <span className="flex gap-2">
                <Button onClick={() => setEditing(m)}>{t('change')}</Button>
                <Button onClick={() => (m.hasToken ? setReplacing(m) : makeToken(m))}>
                  {t('machine.token')}
                </Button>
              </span>
            ),
          },
        ]}
      />
      {editing && (
        <MachineDialog machine={editing === 'new' ? null : editing} onClose={() => setEditing(null)} />
      )}
      {wrong && (
        <p role="alert" className="mt-2 text-bad">
          {wrong}
        </p>
      )}
      {replacing && (
        <Dialog
          open
          onClose={() => setReplacing(null)}
          title={t('machine.token')}
          description={t('machine.token.again', { name: replacing.name })}
        >
          <Button look="danger" big onClick={() => makeToken(replacing)}>
            {t('machine.token.replace')}
          </Button>
        </Dialog>
      )}
      {token && (
        <Dialog
          open
          onClose={() => setToken(null)}
          title={t('machine.token')}
          description={t('machine.token.hint')}
        >
          <code className="block select-all break-all rounded bg-panel-2 p-3">{token}</code>
        </Dialog>
      )}
    </Panel>
  );
}
