import { useContext, useState } from 'react';
import { PasswordChange, type SessionsView } from '@wunsch/contract';
import { useDoor, useRead } from '../shell/door.tsx';
import { NoticeContext } from '../shell/entry.ts';
import { Button } from '../ui/Button.tsx';
import { Dialog } from '../ui/Dialog.tsx';
import { TextField } from '../ui/Field.tsx';
import { Panel } from '../ui/Panel.tsx';
import { Table } from '../ui/Table.tsx';
import { useFold } from '../ui/useFold.tsx';
import { useWords } from '../words/words.tsx';

/** Devices shown at first: whoever signs in anew each morning leaves many behind. */
const SHOWN = 8;

/** Who is signed in on which device, with the way to end it; for owners also what was tried in vain. */
export function SignInsPanel() {
  const words = useWords();
  const { t } = words;
  const { request } = useDoor();
  const notify = useContext(NoticeContext);
  const { data, mutate } = useRead<SessionsView>('/api/sessions');
  const [changing, setChanging] = useState(false);
  const open = (data?.open ?? []).toSorted((a, b) => Number(b.current) - Number(a.current));
  const fold = useFold(open.length, SHOWN);
  const end = (id: string) =>
    void request('DELETE', `/api/sessions/${id}`).then(
      () => mutate(),
      (failure: unknown) => notify({ tone: 'bad', text: words.explain(failure) }),
    );
  return (
    <Panel
      title={t('sign-ins')}
      aside={<Button onClick={() => setChanging(true)}>{t('password.change')}</Button>}
    >
      <Table
        caption={t('sign-ins')}
        rows={open.filter((_, i) => !fold.hides(i))}
        keyOf={(s) => s.id}
        columns={[
          { id: 'name', title: t('name'), cell: (s) => s.person },
          {
            id: 'device',
            title: t('sign-ins.device'),
            cell: (s) => `${s.device || t('sign-ins.unknown')}${s.current ? ` (${t('sign-ins.this')})` : ''}`,
          },
          { id: 'since', title: t('sign-ins.since'), cell: (s) => words.when(s.createdAt) },
          {
            id: 'do',
            title: t('sign-ins.end'),
            cell: (s) => (s.current ? '' : <Button onClick={() => end(s.id)}>{t('sign-ins.end')}</Button>),
          },
        ]}
      />
      {fold.more}
      {data && data.wrong.length > 0 && (
        <>
          <h3 className="mt-4 text-[15px]">{t('sign-ins.wrong')}</h3>
          <ul className="text-[13px]">
            {data.wrong.map((w) => (
              <li key={`${w.name} ${w.from}`} className="border-t border-line py-2">
                {t('sign-ins.wrong.line', { name: w.name, from: w.from, n: w.count, when: words.when(w.at) })}
              </li>
            ))}
          </ul>
        </>
      )}
      {changing && <PasswordDialog onClose={() => setChanging(false)} />}
    </Panel>
  );
}

function PasswordDialog({ onClose }: { onClose: () => void }) {
  const words = useWords();
  const { t } = words;
  const { request } = useDoor();
  const notify = useContext(NoticeContext);
  const [draft, setDraft] = useState({ current: '', next: '' });
  const [error, setError] = useState<string | null>(null);
  return (
    <Dialog open onClose={onClose} title={t('password.change')} description={t('password.change.hint')}>
      <form
        className="grid gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          request('POST', '/api/password', draft).then(
            () => {
              notify({ tone: 'done', text: t('password.changed') });
              onClose();
            },
            (failure: unknown) => setError(words.explain(failure)),
          );
        }}
      >
        <TextField
          label={t('password.current')}
          type="password"
          autoComplete="current-password"
          value={draft.current}
          onChange={(e) => setDraft({ ...draft, current: e.target.value })}
          error={error}
          required
        />
        <TextField
          label={t('password.next')}
          type="password"
          autoComplete="new-password"
          value={draft.next}
          onChange={(e) => setDraft({ ...draft, next: e.target.value })}
          hint={t('password.short')}
          required
        />
        <Button type="submit" look="main" big disabled={!PasswordChange.safeParse(draft).success}>
          {t('settings.save')}
        </Button>
      </form>
    </Dialog>
  );
}
