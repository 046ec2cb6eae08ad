import { useState } from 'react';
import type { MonthBook, MonthFigures } from '@wunsch/contract';
import { dayOf } from '@wunsch/core/plan';
import { useDoor, useRead } from '../../shell/door.tsx';
import { newId } from '../../shell/entry.ts';
import { useSession } from '../../shell/session.tsx';
import { useEntryHere } from '../../shell/useEntryHere.ts';
import { Button } from '../../ui/Button.tsx';
import { Dialog } from '../../ui/Dialog.tsx';
import { TextField } from '../../ui/Field.tsx';
import { Panel } from '../../ui/Panel.tsx';
import { useWords, type Words } from '../../words/words.tsx';

type OfMonth = MonthBook[number];

const FIGURES = [
  'receivedMg',
  'receivedValue',
  'suppliesValue',
  'barsMade',
  'costOfBars',
  'barsOut',
  'fetched',
  'classIncome',
  'unexplainedMg',
] as const satisfies readonly (keyof MonthFigures)[];

/** A figure as the book writes it. */
function shown(id: keyof MonthFigures, value: number | null, words: Words): string {
  if (value === null) return '—';
  if (id.endsWith('Mg')) return words.mass(value);
  return id === 'barsMade' || id === 'barsOut' ? words.number(value) : words.money(value);
}

/** Figures that are not what they were when the month was signed. */
const changed = (m: OfMonth) =>
  m.signed ? FIGURES.filter((f) => m.signed!.figures[f] !== null && m.now[f] !== m.signed!.figures[f]) : [];

/** What each month came to; signed off, its figures are kept, and whatever changes them afterwards is said. */
export function MonthsPanel() {
  const words = useWords();
  const { t } = words;
  const me = useSession().person;
  const { now } = useDoor();
  const { data } = useRead<MonthBook>('/api/months');
  const [asking, setAsking] = useState<OfMonth | null>(null);
  if (!data || data.length === 0) return null;
  const nameOf = (month: string) =>
    new Intl.DateTimeFormat(words.language, { month: 'long', year: 'numeric', timeZone: 'UTC' }).format(
      new Date(`${month}-15T00:00:00Z`),
    );
  return (
    <Panel title={t('months')}>
      <p className="mb-3 max-w-[76ch] text-[13.5px] text-ink-2">{t('months.text')}</p>
      <div className="overflow-x-auto" tabIndex={0} role="region" aria-label={t('months')}>
        <table className="w-full text-[13.5px]">
          <thead>
            <tr className="border-b border-edge text-right text-[12.5px] text-ink-3">
              <th className="py-1 pr-3 text-left font-medium">{t('months.month')}</th>
              {FIGURES.map((f) => (
                <th key={f} className="py-1 pr-3 font-medium">
                  {t(`months.${f}`)}
                </th>
              ))}
              <th className="py-1 text-left font-medium">{t('months.state')}</th>
            </tr>
          </thead>
          <tbody>
            {data.map((m) => {
              const differs = changed(m);
              return (
                <tr key={m.month} className="border-b border-line align-top">
                  <th scope="row" className="whitespace-nowrap py-2 pr-3 text-left font-semibold">
                    {nameOf(m.month)}
                  </th>
                  {FIGURES.map((f) => (
                    <td key={f} className="num whitespace-nowrap py-2 pr-3 text-right">
                      {shown(f, m.now[f], words)}
                      {m.signed && differs.includes(f) && (
                        <span className="block text-[12px] text-bad">
                          {t('months.was', { value: shown(f, m.signed.figures[f], words) })}
                        </span>
                      )}
                    </td>
                  ))}
                  <td className="py-1">
                    {m.signed ? (
                      <span className="grid gap-0.5">
                        <span>{t('months.signed', { by: m.signed.by, when: words.day(m.signed.at) })}</span>
                        {differs.length > 0 && <span className="text-bad">{t('months.changed')}</span>}
                        {me.role === 'owner' && (
                          <Button look="quiet" onClick={() => setAsking(m)}>
                            {t('months.reopen')}
                          </Button>
                        )}
                      </span>
                    ) : m.month >= dayOf(now(), m.timeZone).slice(0, 7) ? (
                      <span className="text-ink-3">{t('months.running')}</span>
                    ) : me.role === 'owner' ? (
                      <Button className="whitespace-nowrap" onClick={() => setAsking(m)}>
                        {t('months.sign')}
                      </Button>
                    ) : (
                      <span className="text-ink-3">{t('months.open')}</span>
                    )}
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
      </div>
      {data.map(
        (m) => m.corrections.length > 0 && <Corrections key={m.month} of={m} name={nameOf(m.month)} />,
      )}
      {asking && <SignDialog of={asking} name={nameOf(asking.month)} onClose={() => setAsking(null)} />}
    </Panel>
  );
}

function Corrections({ of, name }: { of: OfMonth; name: string }) {
  const words = useWords();
  const { t } = words;
  const called = ({ batchCode, label, material, loss }: OfMonth['corrections'][number]) =>
    [
      batchCode,
      loss && words.word('loss', loss),
      // An ingredient is told by its name.
      material &&
        !(label && ['ingredient', 'packaging'].includes(material)) &&
        words.word('material', material),
      label && words.word('ingredient', label),
    ]
      .filter(Boolean)
      .join(' ');
  return (
    <div className="mt-3">
      <h3 className="text-[13.5px] font-semibold">{t('months.corrections', { month: name })}</h3>
      <ul className="text-[13px]">
        {of.corrections.map((c, i) => (
          <li key={i} className="border-b border-line py-1">
            <span className="num text-ink-3">{words.day(c.at)}</span> {c.by}: {called(c)}{' '}
            <span className="num">
              {words.mass(c.fromMg)} → {words.mass(c.toMg)}
            </span>
            {c.reason && `, ${words.word('correction', c.reason)}`}
          </li>
        ))}
      </ul>
    </div>
  );
}

/** Signs a month off, or opens it again with a reason. */
function SignDialog({ of, name, onClose }: { of: OfMonth; name: string; onClose: () => void }) {
  const { t, explain } = useWords();
  const send = useEntryHere();
  const [text, setText] = useState('');
  const [wrong, setWrong] = useState<string | null>(null);
  const { signed } = of;
  const act = () =>
    void send({
      path: signed ? `/api/month-signs/${signed.id}/reopening` : `/api/month-signs/${newId()}`,
      body: signed
        ? { reason: text }
        : { month: of.month, timeZone: of.timeZone, figures: of.now, note: text },
      label: t(signed ? 'months.done.reopened' : 'months.done.signed', { month: name }),
      undo: true,
    }).then(onClose, (error: unknown) => setWrong(explain(error)));
  return (
    <Dialog
      open
      onClose={onClose}
      title={t(signed ? 'months.reopen.of' : 'months.sign.of', { month: name })}
      description={t(signed ? 'months.reopen.text' : 'months.sign.text')}
    >
      <TextField
        label={t(signed ? 'months.reason' : 'months.note')}
        value={text}
        onChange={(e) => setText(e.target.value)}
        maxLength={400}
        error={wrong}
      />
      <Button look="main" className="mt-3" disabled={signed !== null && text.trim() === ''} onClick={act}>
        {t(signed ? 'months.reopen' : 'months.sign')}
      </Button>
    </Dialog>
  );
}
