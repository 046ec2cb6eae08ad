import { Link } from 'react-router';
import type { Person, RunsView } from '@wunsch/contract';
import { SKILLS, type Skill } from '@wunsch/core/skills';
import { useRead } from '../shell/door.tsx';
import { mayMakeAs, useSession } from '../shell/session.tsx';
import { useHabits } from '../shell/useHabits.ts';
import { Panel } from '../ui/Panel.tsx';
import { useAtOnce } from '../ui/useAtOnce.ts';
import { useWords } from '../words/words.tsx';
import { SignOffRule } from './SignOffRule.tsx';
import { usePractisedWords, useSigning, type Signing } from './useSkills.ts';

/** Who may work at which station alone: signed off by owners, and by those who are signed off there. */
export function SkillsPanel() {
  const words = useWords();
  const { t } = words;
  const signing = useSigning();
  const { data: people } = useRead<Person[]>('/api/people');
  const { data: runs } = useRead<RunsView>('/api/skills/runs');
  if (!people || !signing) return null;
  const workers = people.filter((p) => p.active && mayMakeAs(p.role));
  return (
    <Panel title={t('skills')}>
      <p className="mb-3 max-w-prose text-[13.5px]">{t('skills.text')}</p>
      <SignedOnly />
      <SignOffRule />
      <div className="overflow-x-auto">
        <table className="text-[13.5px]">
          <thead>
            <tr>
              <th className="sticky left-0 z-10 bg-panel pr-4 text-left text-[12.5px] font-medium text-ink-3">
                {t('name')}
              </th>
              {SKILLS.map((s) => (
                <th key={s} className="px-1 text-[12.5px] font-medium text-ink-3">
                  {t(`station.${s}`)}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {workers.map((p) => (
              <tr key={p.id} className="border-t border-line">
                <th
                  scope="row"
                  className="sticky left-0 z-10 bg-panel py-1 pr-4 text-left font-semibold sm:whitespace-nowrap"
                >
                  <Link
                    to={`/people/${p.id}`}
                    className="inline-flex min-h-11 items-center underline underline-offset-4"
                  >
                    {p.name}
                  </Link>
                </th>
                {SKILLS.map((s) => (
                  <td key={s} className="p-1 text-center">
                    <SignCell
                      person={p}
                      skill={s}
                      signing={signing}
                      runs={runs?.find((r) => r.personId === p.id && r.skill === s)}
                      onToggle={() => signing.toggle(p, s)}
                    />
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <p className="mt-2 max-w-prose text-[12.5px] text-ink-3">{t('skills.legend')}</p>
    </Panel>
  );
}

/** One person at one skill: by whom they are signed off, or how far they are. */
function SignCell({
  person,
  skill,
  signing,
  runs,
  onToggle,
}: {
  person: Person;
  skill: Skill;
  signing: Signing;
  runs: RunsView[number] | undefined;
  onToggle: () => Promise<unknown>;
}) {
  const words = useWords();
  const { t } = words;
  const practisedWords = usePractisedWords();
  const me = useSession().person;
  const sign = signing.signOf(person.id, skill);
  const [by, setBy] = useAtOnce(sign?.by ?? null, onToggle);
  const covered = by === null ? signing.coveredBy(person.id, skill) : undefined;
  const practised = signing.practised(person.id, skill);
  // An owner answers for all of it and needs no signature.
  const ready = person.role === 'owner' ? null : signing.readiness(person.id, skill, runs);
  const isReady = by === null && !covered && ready !== null && ready.isReady;
  const title = [
    by !== null ? '' : covered ? t('skills.covered') : t('skills.not'),
    sign ? t('skills.by', { by: sign.by, when: words.day(sign.at) }) : '',
    isReady ? t('skills.ready') : '',
    ready && ready.counted > 0 ? t('skills.counted', { n: ready.counted, needed: ready.needed }) : '',
    practisedWords(practised),
  ]
    .filter(Boolean)
    .join('; ');
  return (
    <button
      type="button"
      role="switch"
      aria-checked={by !== null}
      aria-label={`${person.name}, ${t(`station.${skill}`)}`}
      aria-description={title}
      title={title}
      disabled={!signing.may(person.id, skill)}
      onClick={() => setBy(by === null ? me.initials : null)}
      className={`grid min-h-11 w-full min-w-14 place-items-center rounded px-1 text-[12.5px] font-semibold ${by !== null ? 'border border-violet bg-violet text-white' : isReady ? 'border-[3px] border-violet-text bg-panel text-ink' : 'border border-edge bg-panel text-ink-3'} disabled:cursor-default`}
    >
      {by !== null
        ? by
        : covered
          ? `(${covered.by})`
          : ready && ready.counted > 0
            ? `${Math.min(ready.counted, ready.needed)}/${ready.needed}`
            : practised.length > 0
              ? '◦'
              : '–'}
    </button>
  );
}

/** Whether the plan follows sign-offs; an owner’s to say. */
function SignedOnly() {
  const { t } = useWords();
  const { workshop, person } = useSession();
  const save = useHabits();
  const [signedOnly, setSignedOnly] = useAtOnce(workshop.signedOnly ?? false, (next) =>
    save({ signedOnly: next }),
  );
  return (
    <label className="mb-3 flex min-h-11 items-center gap-3 text-[13.5px]">
      <input
        type="checkbox"
        checked={signedOnly}
        disabled={person.role !== 'owner'}
        onChange={(e) => setSignedOnly(e.target.checked)}
        className="size-5 accent-(--violet-text)"
      />
      {t('skills.plan')}
    </label>
  );
}
