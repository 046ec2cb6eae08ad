import { useEffect, useMemo, useState } from 'react';
import type { BatchView, StepRecord, WinnowRecord } from '@wunsch/contract';
import { YIELD_PRIORS } from '@wunsch/core/ledger';
import { mean } from '@wunsch/core/numerics';
import { HUSK_LIMIT, monthlyGains, type SettingChecks } from '@wunsch/core/winnow';
import { useDoor, useRead } from '../../shell/door.tsx';
import { SeriesChart } from '../../charts/SeriesChart.tsx';
import { useSession } from '../../shell/session.tsx';
import { Figure, Panel } from '../../ui/Panel.tsx';
import { QuantityField } from '../../ui/QuantityField.tsx';
import { Table } from '../../ui/Table.tsx';
import { useWords } from '../../words/words.tsx';
import { winnowWork } from '../../workers/winnow.ts';
import type { DrawnWinnower } from '../../workers/winnow.worker.ts';

const MONTH = 30 * 86_400_000;

/** Months looked back over for how much is winnowed. */
const LOOK_BACK = 3;

/** The checks made on a winnower, newest first, grouped by winnowing and setting. */
function checksOf(records: readonly WinnowRecord[], machineId: string | null): SettingChecks[] {
  return records
    .filter((r) => r.machineId === machineId || machineId === null)
    .flatMap((r) => {
      const bySetting = new Map<string, SettingChecks>();
      for (const p of r.picked) {
        if (p.setting === null) continue;
        const key = `${p.setting} ${p.passes}`;
        const check = bySetting.get(key) ?? { setting: p.setting, passes: p.passes };
        const found = { share: Math.min(0.999, p.foundMg / p.sampleMg), sampleG: p.sampleMg / 1000 };
        if (p.of === 'husk') check.huskInNibs = found;
        else check.nibInHusk = found;
        bySetting.set(key, check);
      }
      return [...bySetting.values()];
    })
    .slice(0, 12);
}

/** Nibs of a kilogram of beans: by what this lot’s batches have kept, or by what is usual. */
const nibShare = (view: BatchView): number =>
  (['sort', 'roast', 'winnow'] as const).reduce((share, station) => {
    const own = view.yields.filter((y) => y.station === station).map((y) => y.value);
    return share * (own.length > 0 ? mean(own) : YIELD_PRIORS[station].mean);
  }, 1);

/** Two losses against each other: husk left and nib lost over the air setting, the cheapest setting that meets the limit, and what other ways gain a month. */
export function Separation({ view, step }: { view: BatchView; step: StepRecord | undefined }) {
  const words = useWords();
  const { t } = words;
  const { now: clock } = useDoor();
  const { workshop } = useSession();
  const { data } = useRead<WinnowRecord[]>('/api/winnowings');
  const [limit, setLimit] = useState<number | null>(HUSK_LIMIT * 100);
  const machineId = step?.machineId ?? null;
  const checks = useMemo(() => checksOf(data ?? [], machineId), [data, machineId]);
  const share = (limit ?? HUSK_LIMIT * 100) / 100;
  const [drawn, setDrawn] = useState<DrawnWinnower | null>(null);
  useEffect(() => {
    let wanted = true;
    winnowWork
      .ask((thread) => thread.draw(checks, share))
      .then((made) => wanted && setDrawn(made))
      .catch(() => undefined);
    return () => {
      wanted = false;
    };
  }, [checks, share]);
  if (!drawn) return <Panel title={t('separation.title')}>{t('loading')}</Panel>;
  const now = clock();
  const recent = (data ?? []).filter((r) => Date.parse(r.startedAt) > now - LOOK_BACK * MONTH);
  // A workshop of four weeks has not winnowed for three months.
  const first = Math.min(now, ...(data ?? []).map((r) => Date.parse(r.startedAt)));
  const months = Math.min(LOOK_BACK, Math.max(1, (now - first) / MONTH));
  const monthMg = recent.reduce((s, r) => s + r.inMg, 0) / months;
  // Who has winnowed nothing yet is told of what lies before them.
  const here = view.flow.stations.find((s) => s.station === 'winnow')!;
  const crackedMg = monthMg > 0 ? monthMg : here.waitingMg + here.inProcessMg;
  const heading = t(monthMg > 0 ? 'separation.month' : 'separation.charge', {
    mass: words.mass(Math.round(crackedMg)),
  });
  const nibPricePerKg =
    (view.lot.pricePerKg + view.lot.freight / Math.max(1, view.lot.arrivedMg / 1e6)) / nibShare(view);
  const gains = monthlyGains(drawn.winnower, drawn.options, {
    crackedMg,
    nibPricePerKg,
    labourRate: workshop.labourRate,
  });
  const setting = (x: number) => words.number(x, x < 10 ? 2 : 1);
  return (
    <Panel
      title={t('separation.title')}
      aside={
        checks.length === 0 ? t('separation.usual') : t('separation.rests', { n: drawn.winnower.checks })
      }
    >
      <div className="mb-2 flex flex-wrap items-end gap-6">
        {drawn.best ? (
          <Figure
            name={t('separation.best')}
            note={t('separation.best.note', {
              lost: words.percent(drawn.best.nibLost, 2),
              husk: words.percent(drawn.best.huskInNibs, 2),
            })}
          >
            {setting(drawn.best.setting)}
          </Figure>
        ) : (
          <p className="text-bad">{t('separation.none')}</p>
        )}
        <QuantityField
          label={t('separation.limit')}
          dimension="percent"
          value={limit}
          onChange={setLimit}
          min={0.05}
          max={20}
          className="w-40"
        />
      </div>
      <SeriesChart
        label={t('separation.title')}
        height={230}
        xTitle={t('pass.setting')}
        yTitle="%"
        xFormat={(x) => words.number(x, x < 10 ? 1 : 0)}
        yFormat={(y) => words.number(y, 1)}
        yMin={0}
        yMax={Math.max(4, Math.min(20, share * 400))}
        aim={{ y: share * 100, name: t('separation.limit') }}
        now={drawn.best?.setting ?? null}
        series={[
          {
            name: t('separation.husk'),
            look: 'measured',
            points: drawn.curve.map((p): [number, number] => [p.setting, p.huskInNibs * 100]),
          },
          {
            name: t('separation.nib'),
            look: 'machine',
            points: drawn.curve.map((p): [number, number] => [p.setting, p.nibLost * 100]),
          },
          {
            name: t('separation.checked'),
            look: 'points',
            points: checks
              .filter((c) => c.huskInNibs && c.passes === 1)
              .map((c): [number, number] => [c.setting, c.huskInNibs!.share * 100])
              .sort((a, b) => a[0] - b[0]),
          },
        ]}
      />
      {checks.length === 0 && <p className="mt-2 text-[12.5px] text-ink-3">{t('separation.relative')}</p>}
      <h3 className="mb-1 mt-3 text-[15px]">{heading}</h3>
      <Table
        caption={heading}
        rows={drawn.options}
        keyOf={(o) => o.way}
        columns={[
          { id: 'way', title: t('separation.way'), cell: (o) => t(`separation.way.${o.way}`) },
          { id: 'set', title: t('pass.setting'), cell: (o) => o.settings.map(setting).join(' / ') },
          { id: 'lost', title: t('separation.nib'), numeric: true, cell: (o) => words.percent(o.nibLost, 2) },
          {
            id: 'nib',
            title: t('separation.gain'),
            numeric: true,
            cell: (o) => words.mass(Math.round(Math.max(0, gains.find((g) => g.way === o.way)?.nibMg ?? 0))),
          },
          {
            id: 'money',
            title: t('separation.money'),
            numeric: true,
            cell: (o) =>
              view.lot.pricePerKg > 0 ? words.money(gains.find((g) => g.way === o.way)?.money ?? 0) : '—',
          },
        ]}
      />
    </Panel>
  );
}
