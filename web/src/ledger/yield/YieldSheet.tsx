import { useMemo, useState } from 'react';
import { Link } from 'react-router';
import type { YieldBook } from '@wunsch/contract';
import { yieldChart, YIELDS_NEEDED, type Station } from '@wunsch/core/ledger';
import { quantileOfSorted } from '@wunsch/core/numerics';
import { useRead } from '../../shell/door.tsx';
import { Choice, SelectField } from '../../ui/Field.tsx';
import { Chip, Panel } from '../../ui/Panel.tsx';
import { useWords } from '../../words/words.tsx';
import { YearFlow } from './YearFlow.tsx';

/** How yields may be looked at apart. */
const BY = ['lotName', 'machine', 'by'] as const;
type By = (typeof BY)[number];

/** Yields of a year: what stands out against the usual, and where the mass went. */
export function YieldSheet() {
  const words = useWords();
  const { t } = words;
  const [year, setYear] = useState<number | null>(null);
  const { data } = useRead<YieldBook>(`/api/yields${year === null ? '' : `?year=${year}`}`, {
    keepPreviousData: true,
  });
  const [station, setStation] = useState<Station | null>(null);
  const [by, setBy] = useState<By>('lotName');
  const [only, setOnly] = useState('');
  if (!data) return <p className="text-ink-3">{t('loading')}</p>;
  if (data.years.length === 0)
    return (
      <Panel title={t('yields')}>
        <p className="text-[14px] text-ink-2">{t('yields.none')}</p>
      </Panel>
    );
  const stations = data.flow.map((f) => f.station).filter((s) => data.yields.some((y) => y.station === s));
  const shown =
    station && stations.includes(station) ? station : (stations.find((s) => s === 'winnow') ?? stations[0]);
  const here = data.yields.filter((y) => y.station === shown);
  const groups = [...new Set(here.flatMap((y) => y[by] ?? []))].sort();
  const kept = only === '' ? here : here.filter((y) => y[by] === only);
  return (
    <div className="grid gap-2">
      <Panel
        title={t('yields.where', { year: data.year })}
        aside={
          data.years.length > 1 && (
            <SelectField
              label={t('yields.year')}
              value={data.year}
              onChange={(e) => setYear(Number(e.target.value))}
            >
              {data.years.map((y) => (
                <option key={y} value={y}>
                  {y}
                </option>
              ))}
            </SelectField>
          )
        }
      >
        <YearFlow flow={data.flow} />
        <Link
          to={`/ledger/letter?year=${data.year}`}
          className="mt-3 inline-flex min-h-11 items-center rounded border border-edge bg-panel px-4 text-[13.5px] font-semibold hover:bg-panel-2"
        >
          {t('letter.open')}
        </Link>
        <Link
          to="/ledger/forecasts"
          className="ml-2 mt-3 inline-flex min-h-11 items-center rounded border border-edge bg-panel px-4 text-[13.5px] font-semibold hover:bg-panel-2"
        >
          {t('forecasts')}
        </Link>
      </Panel>
      <Panel title={t('yields.chart')}>
        <div className="grid gap-3">
          <Choice
            label={t('yields.station')}
            value={shown ?? null}
            onChange={(next) => {
              setStation(next);
              setOnly('');
            }}
            options={stations.map((s) => ({ value: s, label: t(`station.${s}`) }))}
          />
          <div className="grid gap-3 sm:grid-cols-2">
            <SelectField
              label={t('yields.by')}
              value={by}
              onChange={(e) => {
                setBy(e.target.value as By);
                setOnly('');
              }}
            >
              {BY.map((b) => (
                <option key={b} value={b}>
                  {t(`yields.by.${b}`)}
                </option>
              ))}
            </SelectField>
            <SelectField label={t(`yields.by.${by}`)} value={only} onChange={(e) => setOnly(e.target.value)}>
              <option value="">{t('yields.all')}</option>
              {groups.map((g) => (
                <option key={g} value={g}>
                  {g}
                </option>
              ))}
            </SelectField>
          </div>
        </div>
        <Chart yields={kept} />
        <Groups yields={here} by={by} groups={groups} />
      </Panel>
    </div>
  );
}

type Yields = YieldBook['yields'];

/** A control chart of single yields, with what stands out named below. */
function Chart({ yields }: { yields: Yields }) {
  const words = useWords();
  const { t } = words;
  const chart = useMemo(
    () => yieldChart(yields.map((y) => ({ id: y.batchId, at: y.at, value: y.outMg / y.inMg }))),
    [yields],
  );
  if (yields.length === 0) return <p className="mt-3 text-[13.5px] text-ink-3">{t('yields.no-batches')}</p>;
  const { limits, points } = chart;
  const values = [...points.map((p) => p.value), ...(limits ? [limits.lower, limits.upper] : [])];
  const [low, high] = [Math.min(...values), Math.max(...values)];
  const pad = Math.max(0.005, (high - low) * 0.12);
  const [width, height] = [860, 240];
  const [left, right] = [58, 12];
  const x = (k: number) => left + ((k + 0.5) * (width - left - right)) / points.length;
  const y = (v: number) => 14 + ((high + pad - v) / (high - low + 2 * pad)) * (height - 34);
  const codeOf = (id: string) => yields.find((b) => b.batchId === id)!.batchCode;
  const odd = points.filter((p) => p.signal !== null);
  const lines = limits
    ? ([
        ['upper', limits.upper],
        ['centre', limits.centre],
        ['lower', limits.lower],
      ] as const)
    : ([...new Set([high, low])].map((v) => ['seen', v]) as ['seen', number][]);
  const [first, last] = [points[0]!, points.at(-1)!].map((p) => words.day(p.at)) as [string, string];
  return (
    <>
      <div className="mt-3 overflow-x-auto" tabIndex={0} role="region" aria-label={t('yields.chart')}>
        <svg
          viewBox={`0 0 ${width} ${height}`}
          className="w-full min-w-[520px]"
          role="img"
          aria-label={t('yields.picture', { n: points.length, odd: odd.length })}
        >
          {limits && (
            <rect
              x={left}
              width={width - left - right}
              y={y(limits.upper)}
              height={Math.max(1, y(limits.lower) - y(limits.upper))}
              fill="var(--violet-tint)"
              opacity="0.6"
            />
          )}
          {lines.map(([name, v]) => (
            <g key={`${name}${v}`}>
              <line
                x1={left}
                x2={width - right}
                y1={y(v)}
                y2={y(v)}
                stroke={name === 'centre' ? 'var(--violet-text)' : 'var(--line-2)'}
                strokeDasharray={name === 'centre' ? undefined : '5 4'}
              />
              <text x={left - 6} y={y(v) + 4} textAnchor="end" fontSize="12" fill="var(--ink-2)">
                {words.percent(v, 1)}
              </text>
            </g>
          ))}
          <polyline
            points={points.map((p, k) => `${x(k)},${y(p.value)}`).join(' ')}
            fill="none"
            stroke="var(--line-2)"
          />
          {points.map((p, k) =>
            p.signal === null ? (
              <circle key={p.id} cx={x(k)} cy={y(p.value)} r="4" fill="var(--slate)" />
            ) : (
              <g key={p.id}>
                <path d={`M${x(k)} ${y(p.value) - 7}l7 12h-14Z`} fill="var(--bad)" />
                {p.signal === 'beyond' && (
                  <text x={x(k)} y={y(p.value) + 20} textAnchor="middle" fontSize="12" fill="var(--bad)">
                    {codeOf(p.id)}
                  </text>
                )}
              </g>
            ),
          )}
          <text x={left} y={height - 4} fontSize="12" fill="var(--ink-2)">
            {first}
          </text>
          {last !== first && (
            <text x={width - right} y={height - 4} textAnchor="end" fontSize="12" fill="var(--ink-2)">
              {last}
            </text>
          )}
        </svg>
      </div>
      <p className="text-[12.5px] text-ink-3">
        {limits ? t('yields.legend') : t('yields.few', { n: points.length, needs: YIELDS_NEEDED })}
      </p>
      {odd.length > 0 && (
        <ul className="mt-2 text-[13.5px]">
          {odd.slice(-12).map((p) => {
            const b = yields.find((v) => v.batchId === p.id)!;
            return (
              <li
                key={p.id}
                className="flex flex-wrap items-center gap-x-3 border-b border-line py-1 last:border-0"
              >
                <Link
                  to={`/batch/${p.id}`}
                  className="num inline-flex min-h-11 items-center text-[15px] underline underline-offset-4"
                >
                  {b.batchCode}
                </Link>
                <span>{words.percent(p.value, 1)}</span>
                <Chip tone="bad">{t(`yields.signal.${p.signal!}`)}</Chip>
                <span className="text-ink-3">
                  {[words.day(b.at), b.lotName, b.machine, b.by].filter(Boolean).join(', ')}
                </span>
              </li>
            );
          })}
        </ul>
      )}
    </>
  );
}

/** Yields by lot, machine or person: so many, their middle, lowest and highest. */
function Groups({ yields, by, groups }: { yields: Yields; by: By; groups: readonly string[] }) {
  const words = useWords();
  const { t } = words;
  if (groups.length < 2) return null;
  const rows = groups.map((name) => {
    const values = yields
      .filter((y) => y[by] === name)
      .map((y) => y.outMg / y.inMg)
      .sort((a, b) => a - b);
    return {
      name,
      n: values.length,
      low: values[0]!,
      middle: quantileOfSorted(values, 0.5),
      high: values.at(-1)!,
    };
  });
  return (
    <div className="mt-4 overflow-x-auto" tabIndex={0} role="region" aria-label={t(`yields.by.${by}`)}>
      <table className="w-full text-[13.5px]">
        <thead>
          <tr className="border-b border-line-2 text-left text-[12px] text-ink-3">
            <th scope="col" className="py-2 font-medium">
              {t(`yields.by.${by}`)}
            </th>
            {(['batches', 'lowest', 'middle', 'highest'] as const).map((c) => (
              <th key={c} scope="col" className="px-2 text-right font-medium">
                {t(`yields.column.${c}`)}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((r) => (
            <tr key={r.name} className="border-b border-line last:border-0">
              <th scope="row" className="py-2 text-left font-semibold">
                {r.name}
              </th>
              <td className="num px-2 text-right">{words.number(r.n)}</td>
              <td className="num px-2 text-right">{words.percent(r.low, 1)}</td>
              <td className="num px-2 text-right font-semibold">{words.percent(r.middle, 1)}</td>
              <td className="num px-2 text-right">{words.percent(r.high, 1)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
