import { useState } from 'react';
import { Link } from 'react-router';
import type { PickingRecord } from '@wunsch/contract';
import { Button } from '../../ui/Button.tsx';
import { Panel } from '../../ui/Panel.tsx';
import { Table } from '../../ui/Table.tsx';
import { useWords } from '../../words/words.tsx';
import { TakeInDialog } from './TakeInDialog.tsx';

/** Pickings that are shown at first, and days within which pickings belong to one round. */
const SHOWN = 12;
const ROUND_DAYS = 7;

/** Pickings, newest first; those that wait are taken in as a lot. */
export function Pickings({ pickings, mayMake }: { pickings: readonly PickingRecord[]; mayMake: boolean }) {
  const words = useWords();
  const { t } = words;
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  // As they were chosen: once taken in they are no longer free.
  const [taking, setTaking] = useState<readonly PickingRecord[] | null>(null);
  const [all, setAll] = useState(false);
  const free = pickings.filter((p) => p.lotId === null);
  // Pods wait for days, not for months: what was picked about the same time goes into one lot.
  const newest = Math.max(...free.map((p) => Date.parse(p.on)));
  const round = free.filter((p) => newest - Date.parse(p.on) <= ROUND_DAYS * 86_400_000);
  const taken = free.filter((p) => chosen.has(p.id));
  const toggle = (id: string) => {
    const next = new Set(chosen);
    if (!next.delete(id)) next.add(id);
    setChosen(next);
  };
  return (
    <Panel
      title={t('harvest.pickings')}
      aside={
        mayMake &&
        free.length > 0 && (
          <Button
            look={taken.length > 0 ? 'main' : undefined}
            onClick={() => (taken.length > 0 ? setTaking(taken) : setChosen(new Set(round.map((p) => p.id))))}
          >
            {taken.length > 0
              ? t('harvest.take-in', { n: taken.length })
              : t('harvest.choose', { n: round.length })}
          </Button>
        )
      }
    >
      <Table
        caption={t('harvest.pickings')}
        rows={all ? pickings : pickings.slice(0, SHOWN)}
        keyOf={(p) => p.id}
        columns={[
          {
            id: 'plot',
            title: t('harvest.plot'),
            cell: (p) =>
              p.lotId === null && mayMake ? (
                <label className="-my-2 flex min-h-11 items-center gap-2">
                  <input
                    type="checkbox"
                    className="size-5 accent-(--violet-text)"
                    checked={chosen.has(p.id)}
                    onChange={() => toggle(p.id)}
                  />
                  {p.plot}
                </label>
              ) : (
                p.plot
              ),
          },
          { id: 'on', title: t('harvest.on'), cell: (p) => words.day(p.on) },
          { id: 'pods', title: t('harvest.count'), numeric: true, cell: (p) => words.number(p.pods) },
          {
            id: 'trees',
            title: t('harvest.trees'),
            numeric: true,
            cell: (p) => (p.trees === null ? '—' : words.number(p.trees)),
          },
          {
            id: 'wet',
            title: t('harvest.wet'),
            numeric: true,
            cell: (p) => (p.wetMg === null ? '—' : words.mass(p.wetMg)),
          },
          {
            id: 'paid',
            title: t('harvest.cost'),
            numeric: true,
            cell: (p) => (p.paid > 0 ? words.money(p.paid) : '—'),
          },
          {
            id: 'lot',
            title: t('harvest.lot'),
            cell: (p) =>
              p.lotId === null ? (
                <span className="text-ink-3">{t('harvest.waits')}</span>
              ) : (
                <Link to={`/beans/${p.lotId}`} className="underline underline-offset-4">
                  {p.lotCode}
                </Link>
              ),
          },
        ]}
      />
      {!all && pickings.length > SHOWN && (
        <Button className="mt-2" onClick={() => setAll(true)}>
          {t('table.all', { n: pickings.length })}
        </Button>
      )}
      {taking && (
        <TakeInDialog
          pickings={taking}
          onClose={() => setTaking(null)}
          onDone={() => {
            setTaking(null);
            setChosen(new Set());
          }}
        />
      )}
    </Panel>
  );
}
