import {
  USUAL_BAR_MG,
  USUAL_LABOUR_RATE,
  USUAL_PACKAGING,
  type FirstRun,
  type Shape,
} from '@wunsch/contract';
import { roundMass, usualMoney, type RegionHabits } from '@wunsch/core/quantity';
import { newId } from '../shell/entry.ts';
import { initialsFor } from '../shell/initials.ts';
import type { Words } from '../words/words.tsx';
import type { MachineDraft } from './MachinesQuestion.tsx';
import { machinesOf } from './shapes.ts';

/** Somebody who works here, as they are being named. */
export interface PersonDraft {
  id: string;
  name: string;
  role: 'maker' | 'taster' | 'viewer';
  /** Whether a password was typed; itself it is kept nowhere. */
  hasPassword: boolean;
}

/** What was answered so far, as it outlives a reload: everything but passwords. */
export interface Answers {
  /** Question that is open, from 0. */
  page: number;
  shape: Shape;
  name: string;
  currency: string;
  temperatureUnit: '°C' | '°F';
  massSystem: 'metric' | 'pounds';
  /** Null while they are those the shape suggests. */
  machines: MachineDraft[] | null;
  people: PersonDraft[];
  owner: string;
}

/** Answers to begin with, as where the browser is from; a language without a region says nothing of that. */
export const firstAnswers = (usual: RegionHabits, { language }: Words): Answers => ({
  page: 0,
  shape: 'kitchen',
  name: '',
  currency: usual.currency ?? (language === 'de' ? 'EUR' : 'GBP'),
  temperatureUnit: usual.temperatureUnit,
  massSystem: 'metric',
  machines: null,
  people: [],
  owner: '',
});

/** The machines a shape suggests, named. */
export const suggestedMachines = ({ shape, massSystem }: Answers, { t }: Words): MachineDraft[] =>
  machinesOf(shape, massSystem).map((m) => ({ ...m, id: newId(), name: t(`machine.${m.name}`) }));

/** The entry that makes the workshop; passwords by person, the owner's beside them. */
export function firstRunOf(
  answers: Answers,
  machines: readonly MachineDraft[],
  passwords: { owner: string; people: Readonly<Record<string, string>> },
  { language }: Words,
): FirstRun {
  const { shape, currency, temperatureUnit, massSystem } = answers;
  const people = answers.people.filter((p) => p.name.trim());
  const [own, ...initials] = initialsFor([answers.owner, ...people.map((p) => p.name)]);
  return {
    workshop: {
      name: answers.name.trim(),
      shape,
      currency,
      temperatureUnit,
      massSystem,
      // In pounds a bar begins at two ounces.
      ...(massSystem === 'pounds' && { barMg: roundMass(USUAL_BAR_MG, massSystem) }),
      labourRate: usualMoney(USUAL_LABOUR_RATE, currency),
      packagingPerBar: usualMoney(USUAL_PACKAGING, currency),
      language,
    },
    owner: { id: newId(), name: answers.owner.trim(), initials: own!, password: passwords.owner },
    people: people.map((p, i) => ({
      id: p.id,
      name: p.name.trim(),
      initials: initials[i]!,
      role: p.role,
      ...(passwords.people[p.id] && { password: passwords.people[p.id]! }),
    })),
    machines: machines
      .filter((m) => m.name.trim())
      .map(({ id, name, station, kind, minMg, maxMg }) => ({
        id,
        name: name.trim(),
        station,
        kind,
        minMg,
        maxMg,
      })),
  };
}
