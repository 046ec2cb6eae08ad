import { useState } from 'react';
import type { ClassView, GuestAdd, GuestUpdate } from '@wunsch/contract';
import { newId } from '../shell/entry.ts';
import { useEntryHere } from '../shell/useEntryHere.ts';
import { AllergenBoxes } from '../stations/AllergenBoxes.tsx';
import { Button } from '../ui/Button.tsx';
import { FormDialog } from '../ui/FormDialog.tsx';
import { TextField } from '../ui/Field.tsx';
import { useWords } from '../words/words.tsx';
import { newGuestCode } from './classNames.ts';
import { TasteChoice } from './TasteChoice.tsx';

/** Taking a guest in, or changing what is known of one. */
export function GuestDialog({
  of,
  guest,
  onClose,
}: {
  of: ClassView;
  guest?: ClassView['guests'][number];
  onClose: () => void;
}) {
  const { t } = useWords();
  const send = useEntryHere();
  const [name, setName] = useState(guest?.name ?? '');
  const [allergies, setAllergies] = useState<string[]>(guest?.allergies ?? []);
  const [avoid, setAvoid] = useState(guest?.avoid ?? '');
  const [taste, setTaste] = useState({
    cacaoPercent: guest?.cacaoPercent ?? null,
    flavourIds: guest?.flavourIds ?? [],
  });
  const save = async (state: NonNullable<GuestUpdate['state']> = guest?.state ?? 'coming') => {
    const known = { name: name.trim(), allergies, avoid, ...taste };
    if (guest)
      await send({
        path: `/api/class-guests/${guest.id}/facts`,
        body: { ...known, state } satisfies GuestUpdate,
        ifMatch: guest.version,
        label: t('class.done.guest-changed', { name: known.name }),
      });
    else
      await send({
        path: `/api/class-guests/${newId()}`,
        body: { ...known, classId: of.id, code: newGuestCode() } satisfies GuestAdd,
        label: t('class.done.guest', { name: known.name }),
        undo: true,
      });
  };
  return (
    <FormDialog
      title={guest ? t('class.guest.of', { name: guest.name }) : t('class.guest.add')}
      submit={t(guest ? 'class.save' : 'class.guest.add')}
      isReady={name.trim() !== ''}
      onSubmit={() => save()}
      also={({ busy, run }) =>
        guest && (
          <Button
            look={guest.state === 'coming' ? 'danger' : 'plain'}
            big
            disabled={busy}
            onClick={() => run(() => save(guest.state === 'coming' ? 'not-coming' : 'coming'))}
          >
            {t(guest.state === 'coming' ? 'class.guest.not-coming' : 'class.guest.coming')}
          </Button>
        )
      }
      onClose={onClose}
      wide
    >
      <TextField
        label={t('class.guest.name')}
        value={name}
        onChange={(e) => setName(e.target.value)}
        maxLength={120}
      />
      <AllergenBoxes legend={t('class.guest.allergies')} value={allergies} onChange={setAllergies} />
      <TextField
        label={t('class.guest.avoid')}
        value={avoid}
        onChange={(e) => setAvoid(e.target.value)}
        maxLength={300}
      />
      <TasteChoice of={{ ...of, flavours: of.offers }} value={taste} onChange={setTaste} />
      <p className="text-[12.5px] text-ink-3">{t('class.allergy.caution')}</p>
    </FormDialog>
  );
}
