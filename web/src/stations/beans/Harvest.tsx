import { useMemo, useState } from 'react';
import type { PickingRecord } from '@wunsch/contract';
import { harvestAhead, harvestYear, type PlotYear } from '@wunsch/core/beans';
import { useRead } from '../../shell/door.tsx';
import { SelectField } from '../../ui/Field.tsx';
import { EmptyState, Panel } from '../../ui/Panel.tsx';
import { useWords } from '../../words/words.tsx';
import { today } from '../today.ts';
import { HarvestBranch } from './HarvestPicture.tsx';
import { NotePicking } from './NotePicking.tsx';
import { Pickings } from './Pickings.tsx';

/** Months that are looked ahead. */
const MONTHS_AHEAD = 12;

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
