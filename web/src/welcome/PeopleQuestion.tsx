import { Plus } from 'lucide-react';
import { SHORTEST_PASSWORD } from '@wunsch/contract';
import { newId } from '../shell/entry.ts';
import { Button } from '../ui/Button.tsx';
import { SelectField, TextField } from '../ui/Field.tsx';
import { RemoveButton } from '../ui/RemoveButton.tsx';
import { useWords } from '../words/words.tsx';
import type { PersonDraft } from './answers.ts';

/** Who works here beside the owner. A password that was typed before the page was loaded anew is asked for again. */
export function PeopleQuestion({
  people,
  passwords,
  onChange,
  onPassword,
}: {
  people: readonly PersonDraft[];
  passwords: Readonly<Record<string, string>>;
  onChange: (people: PersonDraft[]) => void;
  onPassword: (id: string, password: string) => void;
}) {
  const { t } = useWords();
  const change = (id: string, part: Partial<PersonDraft>) =>
    onChange(people.map((p) => (p.id === id ? { ...p, ...part } : p)));
  const wrong = (p: PersonDraft) => {
    const password = passwords[p.id] ?? '';
    if (p.hasPassword && password === '') return t('first.password-again');
    return password !== '' && password.length < SHORTEST_PASSWORD ? t('password.short') : null;
  };
  return (
    <div className="grid gap-2">
      {people.map((p) => (
        <div
          key={p.id}
          className="grid grid-cols-2 items-start gap-2 rounded border border-line p-2 sm:grid-cols-[1.4fr_1fr_1.2fr_44px]"
        >
          <TextField
            label={t('name')}
            value={p.name}
            onChange={(e) => change(p.id, { name: e.target.value })}
            maxLength={120}
          />
          <SelectField
            label={t('role')}
            value={p.role}
            onChange={(e) => change(p.id, { role: e.target.value as PersonDraft['role'] })}
          >
            {(['maker', 'taster', 'viewer'] as const).map((r) => (
              <option key={r} value={r}>
                {t(`role.${r}`)}
              </option>
            ))}
          </SelectField>
          <TextField
            label={t('password')}
            type="password"
            autoComplete="new-password"
            value={passwords[p.id] ?? ''}
            minLength={SHORTEST_PASSWORD}
            onChange={(e) => {
              onPassword(p.id, e.target.value);
              change(p.id, { hasPassword: e.target.value !== '' });
            }}
            error={wrong(p)}
          />
          {/* Beside the fields and not their names, whatever is said below one. */}
          <div className="mt-[22px]">
            <RemoveButton
              label={t('person.remove', { name: p.name })}
              onRemove={() => onChange(people.filter((x) => x.id !== p.id))}
            />
          </div>
        </div>
      ))}
      <Button
        icon={<Plus size={16} aria-hidden="true" />}
        onClick={() => onChange([...people, { id: newId(), name: '', role: 'maker', hasPassword: false }])}
      >
        {t('person.add')}
      </Button>
    </div>
  );
}
