import type { Person, RunsView, SkillsView } from '@wunsch/contract';
import { covers, readyToSign, USUAL_SIGN_OFF, type Readiness, type Skill } from '@wunsch/core/skills';
import { useRead } from '../shell/door.tsx';
import { newId } from '../shell/entry.ts';
import { useSession } from '../shell/session.tsx';
import { useEntryHere } from '../shell/useEntryHere.ts';
import { useWords } from '../words/words.tsx';

type SignOff = SkillsView['signed'][number];
type Practised = SkillsView['practised'][number];

/** Who is signed off where, who may sign, and how to. */
export interface Signing {
  signOf: (personId: string, skill: Skill) => SignOff | undefined;
  /** Another signature that is enough for it: who moulds may pack. */
  coveredBy: (personId: string, skill: Skill) => SignOff | undefined;
  /** Whether whoever is signed in may sign this person off there, or take it back. */
  may: (personId: string, skill: Skill) => boolean;
  /** Signs off, or withdraws what was signed. */
  toggle: (person: Person, skill: Skill) => Promise<unknown>;
  /** What somebody has practised that belongs to a skill. */
  practised: (personId: string, skill: Skill) => Practised[];
  /** How far somebody is from being ready, by their runs and practice. */
  readiness: (personId: string, skill: Skill, runs: RunsView[number] | undefined) => Readiness;
}

/** See {@link Signing}; null until it is known who is signed off. */
export function useSigning(): Signing | null {
  const { t } = useWords();
  const { person: me, workshop } = useSession();
  const send = useEntryHere();
  const { data: skills } = useRead<SkillsView>('/api/skills');
  if (!skills) return null;
  const signOf: Signing['signOf'] = (personId, skill) =>
    skills.signed.find((s) => s.personId === personId && s.station === skill);
  const practised: Signing['practised'] = (personId, skill) =>
    skills.practised.filter(
      (p) => p.personId === personId && (p.lesson === skill || (skill === 'taste' && p.lesson === 'panel')),
    );
  return {
    signOf,
    coveredBy: (personId, skill) =>
      skills.signed.find(
        (s) => s.personId === personId && s.station !== skill && covers(s.station as Skill, skill),
      ),
    practised,
    may: (personId, skill) =>
      me.role === 'owner' ||
      (me.id !== personId &&
        skills.signed.some((s) => s.personId === me.id && covers(s.station as Skill, skill))),
    toggle: (person, skill) => {
      const signed = signOf(person.id, skill);
      return send({
        path: signed ? `/api/sign-offs/${signed.id}/withdrawal` : `/api/sign-offs/${newId()}`,
        body: signed ? {} : { personId: person.id, station: skill },
        label: t(signed ? 'skills.done.withdrawn' : 'skills.done.signed', {
          name: person.name,
          station: t(`station.${skill}`),
        }),
        undo: true,
      });
    },
    readiness: (personId, skill, runs) =>
      readyToSign(
        { good: runs?.good ?? 0, done: runs?.done ?? 0 },
        practised(personId, skill),
        // A workshop that was read from an older server has no rule of its own.
        workshop.signOff ?? USUAL_SIGN_OFF,
      ),
  };
}

/** What was practised, in words; empty where nothing was. */
export function usePractisedWords(): (practised: readonly Practised[]) => string {
  const { t } = useWords();
  return (practised) =>
    practised
      .map((p) =>
        p.lesson === 'panel'
          ? t('skills.cards-read', { points: p.points })
          : t('skills.practised', { level: p.level, points: p.points }),
      )
      .join(', ');
}
