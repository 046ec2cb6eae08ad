import { Link, useParams } from 'react-router';
import type { Person, PersonRuns } from '@wunsch/contract';
import { isJudged, SKILLS, type Skill } from '@wunsch/core/skills';
import { isMissing } from '../shell/api.ts';
import { useRead } from '../shell/door.tsx';
import { NotFound } from '../shell/NotFound.tsx';
import { mayMakeAs, useSession } from '../shell/session.tsx';
import { Button } from '../ui/Button.tsx';
import { Panel } from '../ui/Panel.tsx';
import { Table } from '../ui/Table.tsx';
import { useWords, type Words } from '../words/words.tsx';
import { RunMarks, runWord } from './RunMarks.tsx';
import { usePractisedWords, useSigning, type Signing } from './useSkills.ts';

/** What one person has done at the stations, how the last runs went, and where they are signed off; whoever is signed in where the address names nobody. */
export default function PersonPage() {
  const { t } = useWords();
  const { person: me } = useSession();
  const { personId = me.id } = useParams();
  const { data: people } = useRead<Person[]>('/api/people');
  const { data: runs, error } = useRead<PersonRuns>(`/api/people/${personId}/runs`);
  const person = people?.find((p) => p.id === personId);
  if (isMissing(error) || (people && !person)) return <NotFound />;
  if (!runs || !person) return <p className="p-6 text-ink-3">{t('loading')}</p>;
  return (
    <div className="grid gap-3 p-3 sm:px-4">
      <h1 className="text-[26px]">{t('runs.title', { name: person.name })}</h1>
      <StationsPanel person={person} runs={runs} />
      <LatestPanel runs={runs} />
    </div>
  );
}

/** Station by station: runs, how the last went, practice, and the sign-off. */
function StationsPanel({ person, runs }: { person: Person; runs: PersonRuns }) {
  const words = useWords();
  const { t } = words;
  const signing = useSigning();
  const practisedWords = usePractisedWords();
  const sumAt = (skill: Skill) => runs.sums.find((s) => s.skill === skill);
  const shown = SKILLS.filter(
    (s) => sumAt(s) || signing?.signOf(person.id, s) || (signing?.practised(person.id, s) ?? []).length > 0,
  );
  const works = person.active && mayMakeAs(person.role);
  if (shown.length === 0)
    return (
      <Panel>
        <p className="max-w-prose text-ink-2">{t('runs.none')}</p>
      </Panel>
    );
  return (
    <Panel title={t('runs.stations')}>
      <ul>
        {shown.map((skill) => {
          const sum = sumAt(skill);
          const had = practisedWords(signing?.practised(person.id, skill) ?? []);
          return (
            <li
              key={skill}
              className="grid grid-cols-[96px_1fr] items-center gap-x-4 gap-y-1 border-b border-line py-2 text-[13.5px] sm:grid-cols-[110px_180px_1fr_auto]"
            >
              <span className="font-semibold">{t(`station.${skill}`)}</span>
              <RunMarks runs={runs.latest.filter((r) => r.skill === skill)} sum={sum} />
              <span className="col-span-2 text-ink-2 sm:col-span-1">
                {[
                  sum && t('runs.sum', { n: sum.runs, when: words.day(sum.lastAt) }),
                  had,
                  signing && signedWords({ person, skill, sum, signing, words }),
                ]
                  .filter(Boolean)
                  .join('; ')}
              </span>
              {works && person.role !== 'owner' && signing?.may(person.id, skill) && (
                <Button
                  className="col-span-2 justify-self-start sm:col-span-1 sm:justify-self-end"
                  aria-label={`${t(signing.signOf(person.id, skill) ? 'skills.withdraw' : 'skills.sign')}, ${t(`station.${skill}`)}`}
                  onClick={() => void signing.toggle(person, skill).catch(() => undefined)}
                >
                  {t(signing.signOf(person.id, skill) ? 'skills.withdraw' : 'skills.sign')}
                </Button>
              )}
            </li>
          );
        })}
      </ul>
      <p className="mt-2 max-w-prose text-[12.5px] text-ink-3">{t('runs.legend')}</p>
    </Panel>
  );
}

/** Whether somebody is signed off at a station, or how far they are. */
function signedWords({
  person,
  skill,
  sum,
  signing,
  words: { t, day },
}: {
  person: Person;
  skill: Skill;
  sum: PersonRuns['sums'][number] | undefined;
  signing: Signing;
  words: Words;
}): string {
  if (person.role === 'owner') return '';
  const sign = signing.signOf(person.id, skill);
  if (sign) return t('skills.by', { by: sign.by, when: day(sign.at) });
  if (signing.coveredBy(person.id, skill)) return t('skills.covered');
  const { isReady, counted, needed } = signing.readiness(person.id, skill, sum);
  return isReady ? t('skills.ready') : t('skills.counted', { n: counted, needed });
}

/** Runs shown one by one. */
const SHOWN = 20;

function LatestPanel({ runs: { latest } }: { runs: PersonRuns }) {
  const words = useWords();
  const { t } = words;
  if (latest.length === 0) return null;
  return (
    <Panel title={t('runs.latest')}>
      <Table
        caption={t('runs.latest')}
        rows={latest.slice(0, SHOWN)}
        keyOf={(r) => r.stepId}
        columns={[
          { id: 'when', title: t('runs.when'), cell: (r) => words.when(r.at) },
          { id: 'station', title: t('runs.station'), cell: (r) => t(`station.${r.skill}`) },
          {
            id: 'batch',
            title: t('runs.batch'),
            cell: (r) =>
              r.batchId && (
                <Link
                  to={`/batch/${r.batchId}`}
                  className="inline-flex min-h-11 items-center underline underline-offset-4"
                >
                  {r.batchCode}
                </Link>
              ),
          },
          { id: 'went', title: t('runs.went'), cell: (r) => wentWords(r, words) },
        ]}
      />
    </Panel>
  );
}

/** How a run went, with what it was wanting in. */
function wentWords(run: PersonRuns['latest'][number], words: Words): string {
  const { t } = words;
  const word = t(`run.${runWord(run, isJudged(run.kind))}`);
  return run.faults.length === 0 ? word : `${word}: ${run.faults.map((f) => t(`run.fault.${f}`)).join(', ')}`;
}
