import { useState } from 'react';
import { Link } from 'react-router';
import { mutate } from 'swr';
import { WorkshopPut, type Machine, type Person, type Role } from '@wunsch/contract';
import { useRead } from '../shell/door.tsx';
import { request } from '../shell/api.ts';
import { newId } from '../shell/entry.ts';
import { useEntryHere } from '../shell/useEntryHere.ts';
import { useSession } from '../shell/session.tsx';
import { Button } from '../ui/Button.tsx';
import { Dialog } from '../ui/Dialog.tsx';
import { Choice, SelectField, TextField } from '../ui/Field.tsx';
import { Panel } from '../ui/Panel.tsx';
import { MoneyField, QuantityField } from '../ui/QuantityField.tsx';
import { Table } from '../ui/Table.tsx';
import { useWords } from '../words/words.tsx';
import { SetAsidePanel } from './SetAsidePanel.tsx';
import { RoastHabitsPanel } from './RoastHabitsPanel.tsx';
import { MachineDialog } from './MachineDialog.tsx';

function Habits() {
  const { t } = useWords();
  const { workshop } = useSession();
  const send = useEntryHere();
  const { version, createdAt: _, ...start } = workshop;
  const [draft, setDraft] = useState(start);
  const set = (part: Partial<typeof draft>) => setDraft({ ...draft, ...part });
  const checked = WorkshopPut.safeParse(draft);
  const save = () =>
    void send({ path: '/api/workshop', body: draft, ifMatch: version, label: t('done.settings') }).then(
      () => mutate('/api/session'),
      () => undefined,
    );
  return (
    <Panel title={t('settings.workshop')}>
      <div className="grid gap-4 sm:grid-cols-2">
        <TextField
          label={t('first.name')}
          value={draft.name}
          onChange={(e) => set({ name: e.target.value })}
          maxLength={120}
        />
        <TextField
          label={t('first.currency')}
          value={draft.currency}
          onChange={(e) => set({ currency: e.target.value.toUpperCase() })}
          maxLength={3}
          error={/^[A-Z]{3}$/.test(draft.currency) ? null : t('settings.currency.bad')}
        />
        <Choice
          label={t('first.temperature')}
          value={draft.temperatureUnit}
          options={[
            { value: '°C', label: '°C' },
            { value: '°F', label: '°F' },
          ]}
          onChange={(temperatureUnit) => set({ temperatureUnit })}
        />
        <Choice
          label={t('first.mass')}
          value={draft.massSystem}
          options={[
            { value: 'metric', label: t('first.metric') },
            { value: 'pounds', label: t('first.pounds') },
          ]}
          onChange={(massSystem) => set({ massSystem })}
        />
        <Choice
          label={t('settings.school')}
          value={draft.cacaoSchool}
          options={[
            { value: 'all', label: t('figures.all') },
            { value: 'beans', label: t('figures.beans') },
          ]}
          onChange={(cacaoSchool) => set({ cacaoSchool })}
        />
        <QuantityField
          label={t('settings.bar')}
          dimension="mass"
          value={draft.barMg}
          onChange={(v) => v && set({ barMg: v })}
          min={1000}
          max={5_000_000}
        />
        <MoneyField
          label={t('settings.labour')}
          value={draft.labourRate}
          onChange={(labourRate) => set({ labourRate })}
        />
        <MoneyField
          label={t('settings.packaging')}
          value={draft.packagingPerBar}
          onChange={(packagingPerBar) => set({ packagingPerBar })}
        />
        <QuantityField
          label={t('settings.aim')}
          dimension="length"
          value={draft.gritAimUm}
          onChange={(v) => v && set({ gritAimUm: v })}
          min={8}
          max={200}
        />
        <QuantityField
          label={t('settings.grit-every')}
          dimension="duration"
          unit="h"
          value={draft.gritEveryHours * 3600}
          onChange={(v) => v && set({ gritEveryHours: v / 3600 })}
          min={1800}
          max={172_800}
        />
      </div>
      <fieldset className="mt-4">
        <legend className="text-[13px] text-ink-3">{t('settings.route')}</legend>
        {(['roasted', 'conched', 'tempered'] as const).map((work) => (
          <label key={work} className="mr-6 inline-flex min-h-11 items-center gap-3">
            <input
              type="checkbox"
              checked={draft.route[work]}
              onChange={(e) => set({ route: { ...draft.route, [work]: e.target.checked } })}
              className="size-5 accent-(--violet-text)"
            />
            {t(`settings.route.${work}`)}
          </label>
        ))}
      </fieldset>
      <Button look="main" big className="mt-4" disabled={!checked.success} onClick={save}>
        {t('settings.save')}
      </Button>
    </Panel>
  );
}

function Machines() {
  const words = useWords();
  const { t } = words;
  const { data = [] } = useRead<Machine[]>('/api/machines');
  const [editing, setEditing] = useState<Machine | 'new' | null>(null);
  const [token, setToken] = useState<string | null>(null);
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
          { id: 'station', title: t('station'), cell: (m) => t(`station.${m.station}`) },
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
                <Button
                  onClick={() =>
                    void request<{ token: string }>('POST', `/api/machines/${m.id}/token`).then(
                      (r) => setToken(r.token),
                      () => undefined,
                    )
                  }
                >
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

function People() {
  const { t } = useWords();
  const { data = [] } = useRead<Person[]>('/api/people');
  const [editing, setEditing] = useState<Person | 'new' | null>(null);
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
        <PersonDialog person={editing === 'new' ? null : editing} onClose={() => setEditing(null)} />
      )}
    </Panel>
  );
}

function PersonDialog({ person, onClose }: { person: Person | null; onClose: () => void }) {
  const words = useWords();
  const { t } = words;
  const send = useEntryHere();
  const [name, setName] = useState(person?.name ?? '');
  const [initials, setInitials] = useState(person?.initials ?? '');
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
        <label className="flex min-h-11 items-center gap-3">
          <input
            type="checkbox"
            checked={active}
            onChange={(e) => setActive(e.target.checked)}
            className="size-5 accent-(--violet-text)"
          />
          {t('active')}
        </label>
        <Button
          type="submit"
          look="main"
          big
          disabled={!name.trim() || !initials.trim() || (password !== '' && password.length < 8)}
        >
          {t('settings.save')}
        </Button>
      </form>
    </Dialog>
  );
}

/** The workshop's habits, machines and people. Owners change them; everyone may read. */
export default function SettingsPage() {
  const { t } = useWords();
  const { person, workshop } = useSession();
  return (
    <div className="grid grid-cols-1 gap-2 p-3 sm:px-4">
      <h1 className="text-[26px]">{t('settings')}</h1>
      {person.role !== 'owner' && <p className="text-ink-3">{t('settings.owner-only')}</p>}
      {person.role === 'owner' && <SetAsidePanel />}
      <fieldset disabled={person.role !== 'owner'} className="grid min-w-0 grid-cols-1 gap-2">
        <Habits key={workshop.version} />
        <RoastHabitsPanel key={`roast ${workshop.version}`} />
        <Machines />
        <People />
      </fieldset>
      <Panel title={t('settings.data')}>
        <p className="max-w-prose">{t('settings.data.text')}</p>
      </Panel>
    </div>
  );
}
