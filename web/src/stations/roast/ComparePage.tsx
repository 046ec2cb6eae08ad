import { useMemo, useState } from 'react';
import { useSearchParams } from 'react-router';
import type { RoastRecord } from '@wunsch/contract';
import { beansOwn, compareRoasts, roastDose, smoothedAt } from '@wunsch/core/roast';
import { useRead } from '../../shell/door.tsx';
import { LineSample } from '../../charts/LineSample.tsx';
import { SeriesChart, type Series } from '../../charts/SeriesChart.tsx';
import { Glyph } from '../../shell/glyphs.tsx';
import { TextField } from '../../ui/Field.tsx';
import { EmptyState, Panel } from '../../ui/Panel.tsx';
import { Table } from '../../ui/Table.tsx';
import { useWords } from '../../words/words.tsx';
import { seriesOf } from './model.ts';

/** Most roasts laid over each other at once. */
const MOST = 6;

/** Most roasts offered at once. */
const OFFERED = 40;

/** How the lines of roasts differ, by which of the chosen one is. */
const LINES: readonly Series['look'][] = ['measured', 'machine', 'forecast', 'planned', 'faint', 'dotted'];

/** Where the pace of roasts is compared, °C. */
const PACE_AT = 90;

/** Roasts laid over each other at beans-in: their lines, the difference from the first, and what became of them. */
export default function ComparePage() {
  const words = useWords();
  const { t } = words;
  const [search, setSearch] = useSearchParams();
  const chosen = useMemo(() => (search.get('ids') ?? '').split(',').filter(Boolean).slice(0, MOST), [search]);
  const { data: picked } = useRead<RoastRecord[]>(
    chosen.length > 0 ? `/api/roasts?ids=${chosen.join(',')}&limit=${MOST}&width=240` : null,
    { keepPreviousData: true },
  );
  const [text, setText] = useState('');
  const find = text.trim() === '' ? '' : `find=${encodeURIComponent(text.trim())}&`;
  const { data: recent } = useRead<RoastRecord[]>(`/api/roasts?${find}limit=${OFFERED}&width=10`, {
    keepPreviousData: true,
  });
  const roasts = useMemo(
    () => chosen.flatMap((id) => picked?.find((r) => r.step.id === id) ?? []),
    [chosen, picked],
  );
  // From where each probe tells of the beans: a spark, or a hot drum, would make the curves small.
  // An older one that was chosen elsewhere can be let go here.
  const offered = [
    ...(recent ?? []).filter((r) => r.series.some((s) => s.place === 'bean')),
    ...roasts.filter((r) => recent !== undefined && !recent.some((n) => n.step.id === r.step.id)),
  ];
  const own = useMemo(() => roasts.map((r) => beansOwn(seriesOf(r, 'bean'))), [roasts]);
  const compared = useMemo(() => compareRoasts(own.map((o) => o.readings)), [own]);
  const ownOf = (r: RoastRecord) => own[roasts.indexOf(r)]!;
  const name = (r: RoastRecord) => t('compare.name', { code: r.batchCode, n: r.step.details.load ?? 1 });
  const { kelvin, kelvinUnit } = words;
  const shown = words.degrees;
  const series: Series[] = useMemo(
    () => [
      ...own.map((o, i): Series => ({
        name: name(roasts[i]!),
        points: o.readings.map((p): [number, number] => [p.seconds / 60, shown(p.celsius)]),
        look: LINES[i]!,
      })),
    ],
    // The words change with the language, which makes the page anew.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [own, roasts],
  );
  const differences: Series[] = useMemo(
    () =>
      roasts.slice(1).map((r, i): Series => ({
        name: t('compare.less', { a: name(r), b: name(roasts[0]!) }),
        points: compared.rows.flatMap((row): [number, number][] =>
          row.differences[i + 1] == null ? [] : [[row.seconds / 60, kelvin(row.differences[i + 1]!)]],
        ),
        look: LINES[i + 1]!,
      })),
    // As above.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [compared, roasts],
  );
  const toggle = (id: string) => {
    const next = chosen.includes(id) ? chosen.filter((c) => c !== id) : [...chosen, id].slice(-MOST);
    setSearch({ ids: next.join(',') }, { replace: true });
  };
  const pace = (r: RoastRecord) => {
    const bean = ownOf(r).readings;
    const at = bean.find((b) => b.celsius >= PACE_AT);
    return at ? smoothedAt(bean, at.seconds)?.pace : undefined;
  };
  return (
    <div className="grid gap-2 p-3 sm:px-4">
      <h1 className="flex items-center gap-2 text-[26px]">
        <Glyph station="roast" size={26} />
        {t('compare.title')}
      </h1>
      {roasts.length === 0 ? (
        <EmptyState title={t('compare.empty.title')}>{t('compare.empty.text')}</EmptyState>
      ) : (
        <>
          <Panel title={t('compare.lines')}>
            <SeriesChart
              label={t('compare.lines')}
              series={series}
              xTitle={t('minutes')}
              yTitle={words.temperatureUnit}
              xFormat={(x) => words.number(x)}
              yFormat={(y) => words.number(y)}
              height={300}
            />
          </Panel>
          {differences.length > 0 && (
            <Panel title={t('compare.difference')}>
              <SeriesChart
                label={t('compare.difference')}
                series={differences}
                xTitle={t('minutes')}
                yTitle={kelvinUnit}
                xFormat={(x) => words.number(x)}
                yFormat={(y) => words.number(y, 1)}
                height={190}
                aim={{ y: 0, name: name(roasts[0]!) }}
              />
            </Panel>
          )}
          <Panel title={t('compare.figures')}>
            <Table
              caption={t('compare.figures')}
              rows={roasts}
              keyOf={(r) => r.step.id}
              columns={[
                {
                  id: 'name',
                  title: t('compare.roast'),
                  cell: (r) => (
                    <>
                      <LineSample look={LINES[roasts.indexOf(r)]!} />
                      <strong>{name(r)}</strong>
                    </>
                  ),
                },
                { id: 'lot', title: t('lot'), cell: (r) => r.lot.name },
                { id: 'day', title: t('when'), cell: (r) => words.day(r.step.startedAt) },
                { id: 'in', title: t('roast.massIn'), numeric: true, cell: (r) => words.mass(r.inMg) },
                {
                  id: 'lost',
                  title: t('roast.lost'),
                  numeric: true,
                  cell: (r) => (r.inMg > 0 && r.outMg > 0 ? words.percent(1 - r.outMg / r.inMg) : '—'),
                },
                {
                  id: 'dose',
                  title: t('roast.dose'),
                  numeric: true,
                  cell: (r) => {
                    const bean = ownOf(r).readings;
                    return bean.length > 1 ? `${words.number(roastDose(bean), 1)} ${t('unit.min')}` : '—';
                  },
                },
                ...(own.some((o) => o.turning)
                  ? [
                      {
                        id: 'turning',
                        title: t('compare.turning'),
                        numeric: true,
                        cell: (r: RoastRecord) => {
                          const { turning } = ownOf(r);
                          return turning
                            ? `${words.temperature(turning.celsius, 0)}, ${t('compare.at', { minutes: words.number(turning.seconds / 60, 1) })}`
                            : '—';
                        },
                      },
                    ]
                  : []),
                {
                  id: 'pace',
                  title: t('compare.pace', { temperature: words.temperature(PACE_AT, 0) }),
                  numeric: true,
                  cell: (r) => {
                    const p = pace(r);
                    return p === undefined
                      ? '—'
                      : `${words.number(kelvin(p), 1)} ${words.temperatureUnit}/min`;
                  },
                },
                {
                  id: 'apart',
                  title: t('compare.apart'),
                  numeric: true,
                  cell: (r) => {
                    const l = compared.largest[roasts.indexOf(r)];
                    return l
                      ? `${l.kelvin >= 0 ? '+' : '−'}${words.number(kelvin(Math.abs(l.kelvin)), 1)} ${kelvinUnit}, ${t('compare.at', { minutes: words.number(l.seconds / 60) })}`
                      : '—';
                  },
                },
                {
                  id: 'liking',
                  title: t('liking'),
                  numeric: true,
                  cell: (r) => (r.liking === null ? '—' : `${words.number(r.liking, 1)} (${r.tastings})`),
                },
                {
                  id: 'sour',
                  title: t('basic.sour'),
                  numeric: true,
                  cell: (r) => (r.sourness === null ? '—' : words.number(r.sourness, 1)),
                },
              ]}
            />
          </Panel>
        </>
      )}
      <Panel title={t('compare.choose')}>
        <div className="mb-3 max-w-xs">
          <TextField
            label={t('compare.find')}
            type="search"
            maxLength={80}
            value={text}
            onChange={(e) => setText(e.target.value)}
            hint={(recent?.length ?? 0) >= OFFERED ? t('compare.newest', { n: OFFERED }) : undefined}
          />
        </div>
        {recent?.length === 0 && text.trim() !== '' && (
          <p className="mb-3 text-[13.5px] text-ink-3">{t('compare.none')}</p>
        )}
        <div className="flex flex-wrap gap-2">
          {offered.map((r) => (
            <button
              key={r.step.id}
              type="button"
              aria-pressed={chosen.includes(r.step.id)}
              onClick={() => toggle(r.step.id)}
              className={`min-h-11 rounded border px-3 text-left text-[13px] ${chosen.includes(r.step.id) ? 'border-violet bg-violet text-white' : 'border-edge bg-panel hover:bg-panel-2'}`}
            >
              <span className="num">{name(r)}</span>{' '}
              <span className="opacity-80">{words.day(r.step.startedAt)}</span>
            </button>
          ))}
        </div>
      </Panel>
    </div>
  );
}
