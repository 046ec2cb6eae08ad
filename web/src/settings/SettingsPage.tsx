import { mayMakeAs, useSession } from '../shell/session.tsx';
import { Panel } from '../ui/Panel.tsx';
import { useWords } from '../words/words.tsx';
import { BackupsPanel } from './BackupsPanel.tsx';
import { HabitsPanel } from './HabitsPanel.tsx';
import { MachinesPanel } from './MachinesPanel.tsx';
import { NamedPanel } from './NamedPanel.tsx';
import { PeoplePanel } from './PeoplePanel.tsx';
import { PhonePanel } from './PhonePanel.tsx';
import { RoastHabitsPanel } from './RoastHabitsPanel.tsx';
import { SetAsidePanel } from './SetAsidePanel.tsx';
import { SkillsPanel } from '../skills/SkillsPanel.tsx';
import { SignInsPanel } from './SignInsPanel.tsx';

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
        <HabitsPanel key={workshop.version} />
        <RoastHabitsPanel key={`roast ${workshop.version}`} />
        <MachinesPanel />
        <PeoplePanel />
      </fieldset>
      {mayMakeAs(person.role) && <SkillsPanel />}
      <NamedPanel />
      <SignInsPanel />
      <PhonePanel />
      {person.role === 'owner' && <BackupsPanel />}
      <Panel title={t('settings.data')}>
        <p className="max-w-prose">{t('settings.data.text')}</p>
      </Panel>
    </div>
  );
}
