import type { Person, RunsView, SkillsView } from '@wunsch/contract';
import type { Station } from '@wunsch/core/ledger';
import { readyToSign, USUAL_SIGN_OFF, type Readiness } from '@wunsch/core/skills';
import { useRead } from '../shell/door.tsx';
import { newId } from '../shell/entry.ts';
import { useSession } from '../shell/session.tsx';
import { useEntryHere } from '../shell/useEntryHere.ts';
import { useWords } from '../words/words.tsx';

type SignOff = SkillsView['signed'][number];
type Practised = SkillsView['practised'][number];

/** Who is signed off where, who may sign, and how to. */
export interface Signing {
  signOf: (personId: string, station: Station) => SignOff | undefined;
  /** Whether whoever is signed in may sign this person off there, or take it back. */
  may: (personId: string, station: Station) => boolean;
  /** Signs off, or withdraws what was signed. */
  toggle: (person: Person, station: Station) => Promise<unknown>;
  /** What somebody has practised that belongs to a station. */
  practised: (personId: string, station: Station) => Practised[];
  /** How far somebody is from being ready, by their runs and practice. */
  readiness: (personId: string, station: Station, runs: RunsView[number] | undefined) => Readiness;
}

/** See {@link Signing}; null until it is known who is signed off. */
export function useSigning(): Signing | null {
  const { t } = useWords();
  const { person: me, workshop } = useSession();
  const send = useEntryHere();
  const { data: skills } = useRead<SkillsView>('/api/skills');
  if (!skills) return null;
  const signOf: Signing['signOf'] = (personId, station) =>
    skills.signed.find((s) => s.personId === personId && s.station === station);
  const practised: Signing['practised'] = (personId, station) =>
    skills.practised.filter(
      (p) =>
        p.personId === personId && (p.lesson === station || (station === 'taste' && p.lesson === 'panel')),
    );
  return {
    signOf,
    practised,
    may: (personId, station) =>
      me.role === 'owner' || (me.id !== personId && signOf(me.id, station) !== undefined),
    toggle: (person, station) => {
      const signed = signOf(person.id, station);
      return send({
        path: signed ? `/api/sign-offs/${signed.id}/withdrawal` : `/api/sign-offs/${newId()}`,
        body: signed ? {} : { personId: person.id, station },
        label: t(signed ? 'skills.done.withdrawn' : 'skills.done.signed', {
          name: person.name,
          station: t(`station.${station}`),
        }),
        undo: true,
      });
    },
    readiness: (personId, station, runs) =>
      readyToSign(
        { good: runs?.good ?? 0, done: runs?.done ?? 0 },
        practised(personId, station),
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
