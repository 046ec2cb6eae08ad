import { useState } from 'react';
import { Link, useParams } from 'react-router';
import type { MachineView } from '@wunsch/contract';
import {
  leftBehind,
  plainToStrong,
  SET_UP_MINUTES,
  setUpBetween,
  WEAR_RUNS_NEEDED,
  wearTrend,
  type Ran,
} from '@wunsch/core/grind';
import { writeOffPerKg } from '@wunsch/core/cost';
import { isInstrument } from '@wunsch/core/ledger';
import { NotFound } from '../../shell/NotFound.tsx';
import { isMissing } from '../../shell/api.ts';
import { useRead } from '../../shell/door.tsx';
import { SeriesChart } from '../../charts/SeriesChart.tsx';
import { newId } from '../../shell/entry.ts';
import { useMayMake } from '../../shell/session.tsx';
import { useEntryHere } from '../../shell/useEntryHere.ts';
import { Button } from '../../ui/Button.tsx';
import { TextField } from '../../ui/Field.tsx';
import { FormDialog } from '../../ui/FormDialog.tsx';
import { Chip, Figure, Panel } from '../../ui/Panel.tsx';
import { Table } from '../../ui/Table.tsx';
import { useWords } from '../../words/words.tsx';
import { chargeRange } from './chargeRange.ts';

const EVENTS = ['cleaned', 'serviced', 'rebuilt'] as const;

/** One machine: hours and charges, cleaning and service; for what grinds or conches its runs instead, what its stones have taught, and what goes through it next. */
export default function MachinePage() {
  const words = useWords();
  const { t } = words;
  const { machineId } = useParams();
  const { data, error } = useRead<MachineView>(`/api/machines/${machineId}`);
  const mayMake = useMayMake();
  const [noting, setNoting] = useState<(typeof EVENTS)[number] | null>(null);
  if (isMissing(error)) return <NotFound />;
  if (!data) return <p className="p-6 text-ink-3">{t('loading')}</p>;
  const { machine, runs, events, totals } = data;
  const range = chargeRange(machine, words);
  const isMill = machine.station === 'grind';
  return (
    <div className="grid gap-2 p-3 sm:px-4">
      <header className="flex flex-wrap items-center gap-3">
        <div className="grow">
          <h1 className="text-[28px] leading-tight">{machine.name}</h1>
          <p className="text-ink-3">
            {[words.word('machine-kind', machine.kind), machine.active ? '' : t('machine.retired'), range]
              .filter(Boolean)
              .join(' · ')}
          </p>
        </div>
        {mayMake &&
          EVENTS.filter((e) => isMill || e !== 'rebuilt').map((e) => (
            <Button key={e} onClick={() => setNoting(e)}>
              {t(`machine.${e}`)}
            </Button>
          ))}
      </header>
      <div className={`grid items-start gap-2 ${isMill ? 'lg:grid-cols-2' : ''}`}>
        {!isInstrument(machine) && (
          <Panel title={t('machine.use')}>
            <div className="flex flex-wrap gap-6">
              <Figure
                name={t('machine.hours')}
                note={machine.loud ? t('machine.loud') : undefined}
              >{`${words.number(totals.hours)} h`}</Figure>
              <Figure name={t('machine.charges')}>{words.number(totals.runs)}</Figure>
              <Figure name={t('machine.made')}>{words.mass(Math.round(totals.kg * 1e6))}</Figure>
              <Service view={data} />
              <WriteOff view={data} />
            </div>
          </Panel>
        )}
        {isMill && <Next view={data} />}
      </div>
      {isMill && <Learned view={data} />}
      {isMill && (
        <Panel title={t('machine.runs')}>
          <Table
            caption={t('machine.runs')}
            rows={runs}
            keyOf={(r) => r.stepId}
            empty={t('machine.none')}
            columns={[
              {
                id: 'batch',
                title: t('batch'),
                cell: (r) => (
                  <Link
                    to={`/batch/${r.batchId}`}
                    className="num whitespace-nowrap underline underline-offset-4"
                  >
                    {r.batchCode}
                  </Link>
                ),
              },
              { id: 'when', title: t('begun'), cell: (r) => words.day(r.startedAt) },
              { id: 'work', title: t('what'), cell: (r) => t(`work.${r.work}`) },
              {
                id: 'hours',
                title: t('machine.hours'),
                numeric: true,
                cell: (r) => `${words.number(r.hours, 1)} h`,
              },
              { id: 'charge', title: t('grind.charge'), numeric: true, cell: (r) => words.mass(r.chargeMg) },
              {
                id: 'rate',
                title: t('machine.rate'),
                numeric: true,
                cell: (r) => (r.rate === null ? '—' : `${words.number(r.rate, 3)} /h`),
              },
              {
                id: 'finest',
                title: t('machine.finest'),
                numeric: true,
                cell: (r) => (r.finest === null ? '—' : `${words.number(r.finest, 1)} µm`),
              },
              {
                id: 'allergens',
                title: t('machine.allergens'),
                cell: (r) => r.allergens.map((a) => words.word('allergen', a)).join(', '),
              },
            ]}
          />
        </Panel>
      )}
      {!isMill && !isInstrument(machine) && <Charges charges={data.charges} />}
      <Panel title={t('machine.events')}>
        <Table
          caption={t('machine.events')}
          rows={events}
          keyOf={(e) => e.id}
          empty={t('machine.events.none')}
          columns={[
            { id: 'at', title: t('when'), cell: (e) => words.day(e.at) },
            { id: 'kind', title: t('what'), cell: (e) => t(`machine.done.${e.kind}`) },
            { id: 'note', title: t('detail'), cell: (e) => e.note },
            { id: 'by', title: t('who'), cell: (e) => e.by },
          ]}
        />
      </Panel>
      {noting && <NoteEvent machineId={machine.id} kind={noting} onClose={() => setNoting(null)} />}
    </div>
  );
}

/** What went through it last: a roast, a pass of the winnower, a bowl. */
function Charges({ charges }: Pick<MachineView, 'charges'>) {
  const words = useWords();
  const { t } = words;
  return (
    <Panel title={t('machine.charges')} aside={t('machine.charges.hint', { n: charges.length })}>
      <Table
        caption={t('machine.charges')}
        rows={charges}
        keyOf={(c) => c.stepId}
        empty={t('machine.charges.none')}
        columns={[
          {
            id: 'batch',
            title: t('batch'),
            cell: ({ batchId, batchCode }) =>
              batchId && (
                <Link to={`/batch/${batchId}`} className="num whitespace-nowrap underline underline-offset-4">
                  {batchCode}
                </Link>
              ),
          },
          { id: 'when', title: t('begun'), cell: (c) => words.day(c.startedAt) },
          {
            id: 'hours',
            title: t('machine.ran'),
            numeric: true,
            cell: (c) => words.duration(c.hours * 3600),
          },
          { id: 'in', title: t('machine.in'), numeric: true, cell: (c) => words.mass(c.inMg) },
          { id: 'out', title: t('machine.out'), numeric: true, cell: (c) => words.mass(c.outMg) },
        ]}
      />
    </Panel>
  );
}

/** Runs since the last rebuild. */
const sinceRebuild = ({ runs, events }: MachineView) => {
  const rebuilt = events.find((e) => e.kind === 'rebuilt')?.at ?? '';
  return runs.filter((r) => r.startedAt >= rebuilt);
};

function Learned({ view }: { view: MachineView }) {
  const words = useWords();
  const { t } = words;
  const learned = sinceRebuild(view)
    .filter((r) => r.rate !== null)
    .toReversed();
  const trend = wearTrend(learned.map((r) => ({ at: Date.parse(r.startedAt), rate: r.rate! })));
  return (
    <Panel title={t('machine.learned')} aside={t('machine.learned.hint', { n: learned.length })}>
      {learned.length < 2 ? (
        <p className="text-ink-3">{t('machine.learned.few')}</p>
      ) : (
        <SeriesChart
          label={t('machine.learned')}
          height={220}
          xTitle={t('machine.run')}
          yTitle="1/h"
          xFormat={(x) => learned[Math.round(x) - 1]?.batchCode ?? ''}
          yFormat={(y) => words.number(y, 2)}
          yMin={0}
          counted
          series={[
            {
              name: t('machine.rate'),
              look: 'points',
              points: learned.map((r, i): [number, number] => [i + 1, r.rate!]),
            },
          ]}
        />
      )}
      <p className="mt-2">
        {trend ? (
          <>
            {trend.wears && <Chip tone="bad">{t('machine.wears')}</Chip>}{' '}
            {t('machine.trend', {
              change: words.percent(trend.perYear, 0),
              low: words.percent(trend.low, 0),
              high: words.percent(trend.high, 0),
            })}
          </>
        ) : (
          <span className="text-ink-3">
            {t('machine.trend.needs', { n: Math.max(0, WEAR_RUNS_NEEDED - learned.length) })}
          </span>
        )}
      </p>
    </Panel>
  );
}

function Service({ view }: { view: MachineView }) {
  const words = useWords();
  const { t } = words;
  const { serviceHours } = view.machine;
  if (!serviceHours) return null;
  const left = serviceHours - view.totals.sinceServiceHours;
  return (
    <Figure
      name={t('machine.service')}
      note={left <= 0 ? <Chip tone="due">{t('machine.service.due')}</Chip> : undefined}
    >
      {t(left > 0 ? 'machine.service.in' : 'machine.service.over', { hours: words.number(Math.abs(left)) })}
    </Figure>
  );
}

function WriteOff({ view }: { view: MachineView }) {
  const words = useWords();
  const { t } = words;
  const { price, resale, lifeKg } = view.machine;
  if (price === null || lifeKg === null) return null;
  return (
    <Figure name={t('machine.write-off')}>
      {words.priceByMass(writeOffPerKg({ price, resale: resale ?? 0, lifeKg }))}
    </Figure>
  );
}

/** What waits for a grinder, plain before strong, and what has to be cleaned in between. */
function Next({ view }: { view: MachineView }) {
  const words = useWords();
  const { t } = words;
  const newest = view.runs[0];
  const cleaned = view.events.find((e) => e.kind === 'cleaned')?.at ?? '';
  let last: Ran | null = newest && newest.endedAt > cleaned ? newest : null;
  const rows = plainToStrong(view.waiting).map((next) => {
    const kind = last && setUpBetween(last, next);
    const left = last && leftBehind(last, next);
    last = next;
    return { next, kind, left };
  });
  const names = (of: 'allergen' | 'ingredient', list: readonly string[] = []) =>
    list.map((name) => words.word(of, name)).join(', ');
  return (
    <Panel title={t('machine.next')} aside={t('machine.next.hint')}>
      {rows.length === 0 && <p className="text-ink-3">{t('machine.next.none')}</p>}
      <ol className="grid gap-1.5">
        {rows.map(({ next, kind, left }) => (
          <li key={next.batchId} className="border-b border-line py-1.5">
            {kind && (
              <span className="block text-[12.5px]">
                {kind === 'clean' ? (
                  <Chip tone="bad">
                    {t('machine.clean-first', {
                      list: names('allergen', left?.allergens),
                      minutes: SET_UP_MINUTES.clean,
                    })}
                  </Chip>
                ) : kind === 'flush' ? (
                  t('machine.purge', {
                    list: names('ingredient', left?.strong),
                    minutes: SET_UP_MINUTES.flush,
                  })
                ) : (
                  t('machine.wipe', { minutes: SET_UP_MINUTES.wipe })
                )}
              </span>
            )}
            <span className="num">{next.batchCode}</span>{' '}
            <span className="text-ink-3">
              {[names('allergen', next.allergens), names('ingredient', next.strong)]
                .filter(Boolean)
                .join(', ')}
            </span>
          </li>
        ))}
      </ol>
    </Panel>
  );
}

function NoteEvent({
  machineId,
  kind,
  onClose,
}: {
  machineId: string;
  kind: (typeof EVENTS)[number];
  onClose: () => void;
}) {
  const { t } = useWords();
  const send = useEntryHere();
  const [id] = useState(newId);
  const [note, setNote] = useState('');
  const save = () =>
    send({
      path: `/api/machine-events/${id}`,
      body: { machineId, kind, note },
      label: t(`machine.done.${kind}`),
      undo: true,
    });
  return (
    <FormDialog
      title={t(`machine.${kind}`)}
      description={kind === 'rebuilt' ? t('machine.rebuilt.hint') : undefined}
      submit={t(`machine.${kind}`)}
      onSubmit={save}
      onClose={onClose}
    >
      <TextField
        label={t('machine.note')}
        value={note}
        onChange={(e) => setNote(e.target.value)}
        maxLength={400}
        autoFocus
      />
    </FormDialog>
  );
}
