import { useState } from 'react';
import type { ClassHold, ClassView } from '@wunsch/contract';
import { newId } from '../shell/entry.ts';
import { useNow } from '../shell/now.ts';
import { useEntryHere } from '../shell/useEntryHere.ts';
import { FaultBox } from '../ui/FaultBox.tsx';
import { FormDialog } from '../ui/FormDialog.tsx';
import { TextArea } from '../ui/Field.tsx';
import { QuantityField } from '../ui/QuantityField.tsx';
import { useWords } from '../words/words.tsx';
import { comingTo, drawnFrom, stuffName } from './classNames.ts';

/** Closing a class: who came, and what it really used. */
export function HoldDialog({ of, onClose }: { of: ClassView; onClose: () => void }) {
  const words = useWords();
  const { t } = words;
  const send = useEntryHere();
  const coming = comingTo(of);
  const isAhead = useNow() < Date.parse(of.startsAt);
  const [came, setCame] = useState<readonly string[]>(() => coming.map((g) => g.id));
  const [used, setUsed] = useState(() =>
    of.needs.flatMap((n) =>
      n.parcels.length > 0 && n.massMg
        ? [
            {
              ...n,
              massMg: Math.min(n.massMg, n.onHandMg ?? n.massMg) as number | null,
            },
          ]
        : [],
    ),
  );
  const [note, setNote] = useState('');
  const save = async () => {
    const body: ClassHold = {
      cameIds: [...came],
      lines: used.flatMap(({ parcels, massMg }) =>
        drawnFrom(parcels, massMg ?? 0).map((drawn) => ({
          ...drawn,
          stepId: newId(),
          takenId: newId(),
          lossId: newId(),
        })),
      ),
      note,
    };
    await send({
      path: `/api/classes/${of.id}/held`,
      body,
      label: t('class.done.held', { title: of.title }),
      undo: true,
    });
  };
  return (
    <FormDialog title={t('class.hold')} submit={t('class.hold.close')} onSubmit={save} onClose={onClose} wide>
      {isAhead && (
        <FaultBox>
          ▲ {t('class.hold.ahead', { day: words.day(of.startsAt), time: words.time(of.startsAt) })}
        </FaultBox>
      )}
      <p className="text-[13.5px] text-ink-2">{t('class.hold.text')}</p>
      <fieldset>
        <legend className="mb-1 text-[13px] font-medium text-ink-2">{t('class.hold.came')}</legend>
        <div className="flex flex-wrap gap-2">
          {coming.map((g) => (
            <label key={g.id} className="flex min-h-11 items-center gap-2 rounded border border-edge px-3">
              <input
                type="checkbox"
                checked={came.includes(g.id)}
                onChange={(e) => setCame(e.target.checked ? [...came, g.id] : came.filter((x) => x !== g.id))}
                className="size-5 accent-(--violet-text)"
              />
              {g.name}
            </label>
          ))}
        </div>
      </fieldset>
      {used.length === 0 ? (
        <p className="text-[13.5px] text-ink-2">{t('class.hold.none')}</p>
      ) : (
        <div className="grid gap-3 sm:grid-cols-2">
          {used.map((u, k) => (
            <QuantityField
              key={`${u.what} ${u.name}`}
              label={`${t('class.hold.used')}: ${stuffName(u.name, words)}`}
              dimension="mass"
              value={u.massMg}
              onChange={(massMg) => setUsed(used.map((x, i) => (i === k ? { ...x, massMg } : x)))}
              min={1}
              max={u.onHandMg ?? undefined}
              hint={u.onHandMg === null ? undefined : t('class.needs.here', { mass: words.mass(u.onHandMg) })}
              optional
            />
          ))}
        </div>
      )}
      <TextArea label={t('class.note')} value={note} onChange={(e) => setNote(e.target.value)} />
    </FormDialog>
  );
}
