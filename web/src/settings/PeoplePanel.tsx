import { useState } from 'react';
import { SHORTEST_PASSWORD, type Person, type Role } from '@wunsch/contract';
import { useRead } from '../shell/door.tsx';
import { newId } from '../shell/entry.ts';
import { initialsOf } from '../shell/initials.ts';
import { useAsked } from '../shell/useAsked.ts';
import { useEntryHere } from '../shell/useEntryHere.ts';
import { Button } from '../ui/Button.tsx';
import { Dialog } from '../ui/Dialog.tsx';
import { CheckField, SelectField, TextField } from '../ui/Field.tsx';
import { Panel } from '../ui/Panel.tsx';
import { Table } from '../ui/Table.tsx';
import { useWords } from '../words/words.tsx';

/** Who works here, and what each may do; a new password is set here for whoever forgot theirs. */
export function PeoplePanel() {
  const { t } = useWords();
  const { data } = useRead<Person[]>('/api/people');
  const [editing, setEditing] = useState<Person | 'new' | null>(null);
  useAsked('person', () => setEditing('new'), 'owner');
  return (
    <Panel
      title={t('settings.people')}
      aside={<Button onClick={() => setEditing('new')}>{t('person.add')}</Button>}
    >
      <Table
        caption={t('settings.people')}
        rows={data}
        keyOf={(p) => p.id}
        columns={[
          { id: 'name', title: t('name'), cell: (p) => `${p.name} (${p.initials})` },
          {
            id: 'role',
            title: t('role'),
            cell: (p) => `${t(`role.${p.role}`)}${p.active ? '' : `, ${t('inactive')}`}`,
          },
          {
            id: 'do',
            title: t('change'),
            cell: (p) => <Button onClick={() => setEditing(p)}>{t('change')}</Button>,
          },
        ]}
      />
      {editing && (
        <PersonDialog
          person={editing === 'new' ? null : editing}
          taken={new Set(data?.map((p) => p.initials))}
          onClose={() => setEditing(null)}
        />
      )}
    </Panel>
  );
}

function PersonDialog({
  person,
  taken,
  onClose,
}: {
  person: Person | null;
  /** Initials others have. */
  taken: ReadonlySet<string>;
  onClose: () => void;
}) {
  const words = useWords();
  const { t } = words;
  const send = useEntryHere();
  const [name, setName] = useState(person?.name ?? '');
  // Proposed from the name until somebody says otherwise.
  const [said, setInitials] = useState(person?.initials ?? null);
  const initials = said ?? (name.trim() && initialsOf(name, taken));
  const [role, setRole] = useState<Role>(person?.role ?? 'maker');
  const [password, setPassword] = useState('');
  const [active, setActive] = useState(person?.active ?? true);
  const [error, setError] = useState<string | null>(null);
  return (
    <Dialog open onClose={onClose} title={person?.name ?? t('person.add')}>
      <form
        className="grid gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          send({
            path: `/api/people/${person?.id ?? newId()}`,
            body: { name, initials, role, active, ...(password && { password }) },
            label: t('done.person', { name }),
            ...(person && { ifMatch: person.version }),
          }).then(onClose, (f: unknown) => setError(words.explain(f)));
        }}
      >
        <TextField
          label={t('name')}
          value={name}
          onChange={(e) => setName(e.target.value)}
          required
          maxLength={120}
          error={error}
        />
        <TextField
          label={t('initials')}
          value={initials}
          onChange={(e) => setInitials(e.target.value)}
          required
          maxLength={4}
        />
        <SelectField label={t('role')} value={role} onChange={(e) => setRole(e.target.value as Role)}>
          {(['owner', 'maker', 'taster', 'viewer'] as const).map((r) => (
            <option key={r} value={r}>
              {t(`role.${r}`)}
            </option>
          ))}
        </SelectField>
        <TextField
          label={t('password')}
          type="password"
          autoComplete="new-password"
          value={password}
          onChange={(e) => setPassword(e.target.value)}
          hint={person ? t('password.keep') : t('password.short')}
        />
        <CheckField label={t('active')} checked={active} onChange={setActive} />
        <Button
          type="submit"
          look="main"
          big
          disabled={
            !name.trim() || !initials.trim() || (password !== '' && password.length < SHORTEST_PASSWORD)
          }
        >
          {t('settings.save')}
        </Button>
      </form>
    </Dialog>
  );
}
