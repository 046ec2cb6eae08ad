import { useState } from 'react';
import type { Person, SkillsView } from '@wunsch/contract';
import { STATIONS, type Station } from '@wunsch/core/ledger';
import { useRead } from '../shell/door.tsx';
import { newId } from '../shell/entry.ts';
import { useSession } from '../shell/session.tsx';
import { useEntryHere } from '../shell/useEntryHere.ts';
import { useHabits } from '../shell/useHabits.ts';
import { Panel } from '../ui/Panel.tsx';
import { useWords } from '../words/words.tsx';

/** Who may work at which station alone: signed off by owners, and by those who are signed off there. */
export function SkillsPanel() {
  const words = useWords();
  const { t } = words;
  const me = useSession().person;
  const send = useEntryHere();
  const { data: people } = useRead<Person[]>('/api/people');
  const { data: skills } = useRead<SkillsView>('/api/skills');
  const [wrong, setWrong] = useState<string | null>(null);
  if (!people || !skills) return null;
  const workers = people.filter((p) => p.active && (p.role === 'owner' || p.role === 'maker'));
  const signOf = (personId: string, station: Station) =>
    skills.signed.find((s) => s.personId === personId && s.station === station);
  const may = (personId: string, station: Station) =>
    me.role === 'owner' || (me.id !== personId && signOf(me.id, station) !== undefined);
  const toggle = (person: Person, station: Station) => {
    const signed = signOf(person.id, station);
    void send({
      path: signed ? `/api/sign-offs/${signed.id}/withdrawal` : `/api/sign-offs/${newId()}`,
      body: signed ? {} : { personId: person.id, station },
      label: t(signed ? 'skills.done.withdrawn' : 'skills.done.signed', {
        name: person.name,
        station: t(`station.${station}`),
      }),
      undo: true,
    }).then(
      () => setWrong(null),
      (error: unknown) => setWrong(words.explain(error)),
    );
  };
  const practised = (personId: string, station: Station) =>
    skills.practised
      .filter(
        (p) =>
          p.personId === personId && (p.lesson === station || (station === 'taste' && p.lesson === 'panel')),
      )
      .map((p) =>
        p.lesson === 'panel'
          ? t('skills.cards-read', { points: p.points })
          : t('skills.practised', { level: p.level, points: p.points }),
      )
      .join(', ');
  return (
    <Panel title={t('skills')}>
      <p className="mb-3 max-w-prose text-[13.5px]">{t('skills.text')}</p>
      <SignedOnly />
      <div className="overflow-x-auto">
        <table className="text-[13.5px]">
          <thead>
            <tr>
              <th className="pr-4 text-left text-[12.5px] font-medium text-ink-3">{t('name')}</th>
              {STATIONS.map((s) => (
                <th key={s} className="px-1 text-[12.5px] font-medium text-ink-3">
                  {t(`station.${s}`)}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {workers.map((p) => (
              <tr key={p.id} className="border-t border-line">
                <th scope="row" className="whitespace-nowrap py-1 pr-4 text-left font-semibold">
                  {p.name}
                </th>
                {STATIONS.map((s) => {
                  const signed = signOf(p.id, s);
                  const had = practised(p.id, s);
                  const title = [
                    signed ? t('skills.by', { by: signed.by, when: words.day(signed.at) }) : t('skills.not'),
                    had,
                  ]
                    .filter(Boolean)
                    .join('; ');
                  return (
                    <td key={s} className="p-1 text-center">
                      <button
                        type="button"
                        role="switch"
                        aria-checked={signed !== undefined}
                        aria-label={`${p.name}, ${t(`station.${s}`)}`}
                        title={title}
                        disabled={!may(p.id, s)}
                        onClick={() => toggle(p, s)}
                        className={`grid min-h-11 w-full min-w-14 place-items-center rounded border px-1 text-[12.5px] font-semibold ${signed ? 'border-violet bg-violet text-white' : 'border-edge bg-panel text-ink-3'} disabled:cursor-default`}
                      >
                        {signed ? signed.by : had ? '◦' : '–'}
                      </button>
                    </td>
                  );
                })}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <p className="mt-2 text-[12.5px] text-ink-3">{t('skills.legend')}</p>
      {wrong && (
        <p role="alert" className="mt-2 text-bad">
          {wrong}
        </p>
      )}
    </Panel>
  );
}

/** Whether the plan follows sign-offs; an owner’s to say. */
function SignedOnly() {
  const { t } = useWords();
  const { workshop, person } = useSession();
  const save = useHabits();
  return (
    <label className="mb-3 flex min-h-11 items-center gap-3 text-[13.5px]">
      <input
        type="checkbox"
        checked={workshop.signedOnly ?? false}
        disabled={person.role !== 'owner'}
        onChange={(e) => void save({ signedOnly: e.target.checked }).catch(() => undefined)}
        className="size-5 accent-(--violet-text)"
      />
      {t('skills.plan')}
    </label>
  );
}
