import type { Person, SkillsView } from '@wunsch/contract';
import type { Station } from '@wunsch/core/ledger';
import { useDoor, useRead } from '../shell/door.tsx';
import { useMayMake, useSession } from '../shell/session.tsx';
import { useWords } from '../words/words.tsx';

/** For whoever is not signed off at a station where others are: beside whom to work. Nothing where nobody is. */
export function Beside({ station }: { station: Station }) {
  const { t } = useWords();
  const me = useSession().person;
  const mayMake = useMayMake();
  const { isPractice } = useDoor();
  // Owners answer for all of it and are signed off by nobody.
  const asked = mayMake && !isPractice && me.role !== 'owner';
  const { data: skills } = useRead<SkillsView>(asked ? '/api/skills' : null);
  const signed = skills?.signed.filter((s) => s.station === station) ?? [];
  const concerned = signed.length > 0 && !signed.some((s) => s.personId === me.id);
  const { data: people } = useRead<Person[]>(concerned ? '/api/people' : null);
  if (!concerned || !people) return null;
  const packs =
    station === 'mould' &&
    (skills?.signed.some((s) => s.station === 'wrap' && s.personId === me.id) ?? false);
  const names = people.filter((p) => p.active && signed.some((s) => s.personId === p.id)).map((p) => p.name);
  if (names.length === 0) return null;
  return (
    <p role="status" className="mb-2 border-l-4 border-signal bg-panel px-3 py-2 text-[13.5px]">
      {t(packs ? 'skills.beside.packer' : 'skills.beside', { names: names.join(', ') })}
    </p>
  );
}
