import { useState } from 'react';
import type { CaseView } from '@wunsch/contract';
import { CAUSES, cluesOf, FAULT_TABLE, type CauseId, type Clue } from '@wunsch/core/faults';
import { newId } from '../shell/entry.ts';
import { useEntryHere } from '../shell/useEntryHere.ts';
import { FormDialog } from '../ui/FormDialog.tsx';
import { Choice, SelectField, TextArea } from '../ui/Field.tsx';
import { useWords } from '../words/words.tsx';
import { causeName } from './Causes.tsx';

/** Closing a case: what it was, what was done, and what the station is reminded of next time. */
export function CloseDialog({
  view,
  clues,
  onClose,
}: {
  view: CaseView;
  clues: Partial<Record<Clue, boolean>>;
  onClose: () => void;
}) {
  const { t } = useWords();
  const send = useEntryHere();
  const ranked = view.faults.ranked.flatMap((r) => r.cause ?? []);
  const likeliest = ranked[0] ?? null;
  const [cause, setCause] = useState<CauseId | ''>(likeliest ?? '');
  const [action, setAction] = useState('');
  const [typed, setTyped] = useState<string | null>(null);
  const [reminds, setReminds] = useState<'lot' | 'recipe' | 'all' | 'no'>(
    view.lotId ? 'lot' : view.recipeId ? 'recipe' : 'all',
  );
  const [id] = useState(newId);
  const station = cause === '' ? null : FAULT_TABLE.causes[cause].station;
  const text = typed ?? (cause === '' ? '' : t(`cause.${cause}.next`));
  const close = () =>
    send({
      path: `/api/cases/${view.id}/closing`,
      body: {
        cause: cause || null,
        action,
        clues: { ...cluesOf(view.faults.findings), ...clues },
        reminder:
          station && reminds !== 'no' && text.trim()
            ? {
                id,
                station,
                text: text.trim().slice(0, 400),
                lotId: reminds === 'lot' ? view.lotId : null,
                recipeId: reminds === 'recipe' ? view.recipeId : null,
              }
            : null,
      },
      label: t('done.case.closed'),
      batchId: view.batchId,
      undo: true,
    });
  return (
    <FormDialog
      title={t('case.close.title', { n: view.number })}
      submit={t('case.close.do')}
      onSubmit={close}
      onClose={onClose}
    >
      <SelectField
        label={t('case.close.cause')}
        value={cause}
        onChange={(e) => {
          setCause(e.target.value as CauseId | '');
          setTyped(null);
        }}
      >
        {[...ranked, ...CAUSES.filter((c) => !ranked.includes(c))].map((c) => (
          <option key={c} value={c}>
            {causeName(c, t)}
          </option>
        ))}
        <option value="">{t('case.close.unknown')}</option>
      </SelectField>
      <TextArea
        label={t('case.close.action')}
        value={action}
        onChange={(e) => setAction(e.target.value)}
        maxLength={2000}
      />
      {station && (
        <>
          <TextArea
            label={t('case.close.reminder', { station: t(`station.${station}`) })}
            value={text}
            onChange={(e) => setTyped(e.target.value)}
            maxLength={400}
          />
          <div>
            <p className="mb-1 text-[12.5px] font-medium text-ink-2">{t('case.close.for')}</p>
            <Choice
              label={t('case.close.for')}
              value={reminds}
              onChange={setReminds}
              options={[
                ...(view.lotId ? [{ value: 'lot' as const, label: t('case.close.for.lot') }] : []),
                ...(view.recipeId ? [{ value: 'recipe' as const, label: t('case.close.for.recipe') }] : []),
                { value: 'all', label: t('case.close.for.all') },
                { value: 'no', label: t('case.close.for.none') },
              ]}
            />
          </div>
        </>
      )}
    </FormDialog>
  );
}
