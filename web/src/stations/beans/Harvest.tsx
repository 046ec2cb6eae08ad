import { useMemo, useState } from 'react';
import { Link } from 'react-router';
import type { PickingRecord } from '@wunsch/contract';
import { harvestAhead, harvestYear, type PlotYear } from '@wunsch/core/beans';
import { useRead } from '../../shell/door.tsx';
import { newId } from '../../shell/entry.ts';
import { useDraft } from '../../shell/useDraft.ts';
import { useEntryHere } from '../../shell/useEntryHere.ts';
import { Button } from '../../ui/Button.tsx';
import { SelectField, TextField } from '../../ui/Field.tsx';
import { EmptyState, Panel } from '../../ui/Panel.tsx';
import { MoneyField, QuantityField } from '../../ui/QuantityField.tsx';
import { Table } from '../../ui/Table.tsx';
import { useWords } from '../../words/words.tsx';
import { HarvestBranch } from './HarvestPicture.tsx';
import { TakeInDialog } from './TakeInDialog.tsx';

const today = () => {
  const now = new Date();
  return `${now.getFullYear()}-${String(now.getMonth() + 1).padStart(2, '0')}-${String(now.getDate()).padStart(2, '0')}`;
};

/** Months that are looked ahead, pickings that are shown at first, and days within which pickings belong to one round. */
const MONTHS_AHEAD = 12;
const SHOWN = 12;
const ROUND_DAYS = 7;

/** The harvest of those who pick: plots over the year, what the coming months should bring, and pickings on their way to a lot. */
export function Harvest({ mayMake }: { mayMake: boolean }) {
  const { t } = useWords();
  const { data } = useRead<PickingRecord[]>('/api/pickings');
  if (!data) return <p className="text-ink-3">{t('loading')}</p>;
  return (
    <div className="grid gap-2">
      {data.length === 0 ? (
        <EmptyState title={t('harvest.none')}>{t('harvest.none.text')}</EmptyState>
      ) : (
        <Calendar pickings={data} />
      )}
      {mayMake && <NotePicking pickings={data} />}
      {data.length > 0 && <Pickings pickings={data} mayMake={mayMake} />}
    </div>
  );
}

function Calendar({ pickings }: { pickings: readonly PickingRecord[] }) {
  const { t } = useWords();
  const years = useMemo(
    () =>
      [...new Set([Number(today().slice(0, 4)), ...pickings.map((p) => Number(p.on.slice(0, 4)))])].sort(
        (a, b) => b - a,
      ),
    [pickings],
  );
  const [year, setYear] = useState(years[0]!);
  const now = today().slice(0, 7);
  const plots = useMemo(() => {
    const here = harvestYear(pickings, year);
    // A plot that bears every year stands there before its first picking of this one.
    const known = [
      ...new Set(pickings.filter((p) => Number(p.on.slice(0, 4)) >= year - 1).map((p) => p.plot)),
    ];
    const empty = known
      .filter((plot) => !here.some((h) => h.plot === plot))
      .map((plot): PlotYear => ({
        plot,
        months: Array.from({ length: 12 }, () => 0),
        pods: 0,
        trees: null,
        podsPerTree: null,
        wetPerPodMg: null,
        paid: 0,
      }));
    return [...here, ...empty].map((of) => ({
      of,
      ahead: harvestAhead(
        pickings.filter((p) => p.plot === of.plot),
        now,
        MONTHS_AHEAD,
      ),
    }));
  }, [pickings, year, now]);
  const most = Math.max(
    1,
    ...plots.flatMap(({ of, ahead }) => [
      ...of.months,
      ...ahead.filter((a) => a.month.startsWith(String(year))).map((a) => a.high),
    ]),
  );
  return (
    <Panel
      title={t('harvest.year')}
      aside={
        <SelectField
          label={t('harvest.which')}
          value={String(year)}
          onChange={(e) => setYear(Number(e.target.value))}
        >
          {years.map((y) => (
            <option key={y}>{y}</option>
          ))}
        </SelectField>
      }
    >
      <ul className="grid gap-4">
        {plots.map(({ of, ahead }) => (
          <li
            key={of.plot}
            className="grid gap-x-6 gap-y-1 border-t border-line pt-3 first:border-t-0 first:pt-0 lg:grid-cols-[190px_1fr]"
          >
            <PlotFigures of={of} />
            <HarvestBranch of={of} ahead={ahead} year={year} most={most} />
          </li>
        ))}
      </ul>
      {plots.some(({ ahead }) => ahead.some((a) => a.month.startsWith(String(year)) && a.high >= 1)) && (
        <p className="mt-2 text-[12.5px] text-ink-3">{t('harvest.ahead')}</p>
      )}
    </Panel>
  );
}

function PlotFigures({ of }: { of: PlotYear }) {
  const words = useWords();
  const { t } = words;
  return (
    <div>
      <h3 className="text-[16px]">{of.plot}</h3>
      <p className="text-[13.5px]">{t('harvest.pods', { n: of.pods })}</p>
      {of.podsPerTree !== null && (
        <p className="text-[12.5px] text-ink-3">
          {t('harvest.per-tree', { n: words.number(of.podsPerTree, 1), trees: of.trees! })}
        </p>
      )}
      {of.wetPerPodMg !== null && (
        <p className="text-[12.5px] text-ink-3">
          {t('harvest.per-pod', { mass: words.mass(Math.round(of.wetPerPodMg)) })}
        </p>
      )}
      {of.paid > 0 && (
        <p className="text-[12.5px] text-ink-3">{t('harvest.paid', { money: words.money(of.paid) })}</p>
      )}
    </div>
  );
}

const EMPTY = {
  on: today(),
  plot: '',
  trees: null as number | null,
  pods: null as number | null,
  wetMg: null as number | null,
  paid: 0,
  from: '',
};

function NotePicking({ pickings }: { pickings: readonly PickingRecord[] }) {
  const words = useWords();
  const { t } = words;
  const send = useEntryHere();
  const { draft, change, keep } = useDraft(EMPTY);
  const isReady = draft.plot.trim() !== '' && draft.pods !== null && draft.on !== '';
  return (
    <Panel title={t('harvest.note')}>
      <form
        className="grid grid-cols-2 items-end gap-3 sm:grid-cols-3 lg:grid-cols-4"
        onSubmit={(e) => {
          e.preventDefault();
          if (!isReady) return;
          void keep((sent) =>
            send({
              path: `/api/pickings/${newId()}`,
              body: { ...sent, note: '' },
              label: t('done.picking', { n: sent.pods!, plot: sent.plot }),
              undo: true,
            }),
          );
        }}
      >
        <TextField
          type="date"
          label={t('harvest.on')}
          value={draft.on}
          onChange={(e) => change({ on: e.target.value })}
          required
        />
        <TextField
          label={t('harvest.plot')}
          value={draft.plot}
          onChange={(e) => change({ plot: e.target.value })}
          maxLength={80}
          list="harvest-plots"
          required
        />
        <datalist id="harvest-plots">
          {[...new Set(pickings.map((p) => p.plot))].map((plot) => (
            <option key={plot} value={plot} />
          ))}
        </datalist>
        <QuantityField
          label={t('harvest.count')}
          dimension="count"
          value={draft.pods}
          onChange={(pods) => change({ pods })}
          min={1}
          max={10_000_000}
        />
        <QuantityField
          label={t('harvest.trees')}
          dimension="count"
          value={draft.trees}
          onChange={(trees) => change({ trees })}
          min={1}
          max={1_000_000}
          optional
        />
        <QuantityField
          label={t('harvest.wet')}
          dimension="mass"
          unit={words.massUnit === 'lb' ? 'lb' : 'kg'}
          value={draft.wetMg}
          onChange={(wetMg) => change({ wetMg })}
          min={1000}
          max={1e11}
          optional
        />
        <MoneyField
          label={t('harvest.cost')}
          value={draft.paid}
          onChange={(paid) => change({ paid: paid ?? 0 })}
        />
        <TextField
          label={t('harvest.from')}
          value={draft.from}
          onChange={(e) => change({ from: e.target.value })}
          maxLength={120}
        />
        <Button type="submit" look="main" disabled={!isReady}>
          {t('harvest.keep')}
        </Button>
      </form>
    </Panel>
  );
}

function Pickings({ pickings, mayMake }: { pickings: readonly PickingRecord[]; mayMake: boolean }) {
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
          { id: 'on', title: t('harvest.on'), cell: (p) => words.day(`${p.on}T12:00:00Z`) },
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
          {t('harvest.all', { n: pickings.length })}
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
