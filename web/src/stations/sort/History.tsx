import type { Lot, SortRecord } from '@wunsch/contract';
import { sortPace } from '@wunsch/core/sort';
import { useRead } from '../../shell/door.tsx';
import { useSession } from '../../shell/session.tsx';
import { Panel } from '../../ui/Panel.tsx';
import { Table } from '../../ui/Table.tsx';
import { useWords } from '../../words/words.tsx';

interface LotSum {
  lotId: string;
  lotCode: string;
  sessions: number;
  inMg: number;
  rejectMg: number;
  minutes: number;
  /** Mass of the sessions whose time is known, for the pace. */
  timedMg: number;
  reasons: Map<string, number>;
}

/** Finished sortings added up by lot. */
function byLot(records: readonly SortRecord[]): LotSum[] {
  const lots = new Map<string, LotSum>();
  for (const r of records) {
    const sum = lots.get(r.lotId) ?? {
      lotId: r.lotId,
      lotCode: r.lotCode,
      sessions: 0,
      inMg: 0,
      rejectMg: 0,
      minutes: 0,
      timedMg: 0,
      reasons: new Map<string, number>(),
    };
    sum.sessions += 1;
    sum.inMg += r.inMg;
    for (const { reason, massMg } of r.rejects) {
      sum.rejectMg += massMg;
      sum.reasons.set(reason, (sum.reasons.get(reason) ?? 0) + massMg);
    }
    if (r.minutes) {
      sum.minutes += r.minutes;
      sum.timedMg += r.inMg;
    }
    lots.set(r.lotId, sum);
  }
  return [...lots.values()].sort((a, b) => a.lotCode.localeCompare(b.lotCode));
}

/** Rejects by reason across lots, drawn to one scale, with pace and what the rejects cost. */
export function SortHistory() {
  const words = useWords();
  const { t } = words;
  const { workshop } = useSession();
  const { data } = useRead<SortRecord[]>('/api/sortings');
  const { data: lots } = useRead<Lot[]>('/api/lots');
  const sums = byLot(data ?? []).filter((s) => s.inMg > 0);
  const widest = Math.max(0.01, ...sums.map((s) => s.rejectMg / s.inMg));
  const priceOf = (lotId: string) => lots?.find((l) => l.id === lotId)?.pricePerKg ?? 0;
  const pace = (s: LotSum) =>
    sortPace({
      inMg: s.timedMg,
      rejectMg: s.inMg > 0 ? (s.rejectMg * s.timedMg) / s.inMg : 0,
      minutes: s.minutes,
      pricePerKg: priceOf(s.lotId),
      labourRate: workshop.labourRate,
    });
  return (
    <Panel title={t('sort.history')}>
      <Table
        caption={t('sort.history')}
        rows={data && sums}
        keyOf={(s) => s.lotId}
        empty={t('sort.history.none')}
        columns={[
          { id: 'lot', title: t('lot'), cell: (s) => <span className="num">{s.lotCode}</span> },
          { id: 'n', title: t('sort.sessions'), numeric: true, cell: (s) => s.sessions },
          {
            id: 'reasons',
            title: t('sort.share'),
            cell: (s) => {
              const parts = [...s.reasons].sort((a, b) => b[1] - a[1]);
              return (
                <div className="min-w-56">
                  <div
                    className="flex h-4"
                    style={{ width: `${((s.rejectMg / s.inMg) * 100) / widest}%` }}
                    aria-hidden="true"
                  >
                    {parts.map(([reason, mg], i) => (
                      <span
                        key={reason}
                        className="border-r border-panel bg-violet"
                        style={{ width: `${(100 * mg) / s.rejectMg}%`, opacity: 1 - 0.13 * Math.min(i, 5) }}
                      />
                    ))}
                  </div>
                  <span className="text-[12.5px] text-ink-2">
                    <strong>{words.percent(s.rejectMg / s.inMg, 2)}</strong>
                    {parts.length > 0 && ': '}
                    {parts
                      .map(([reason, mg]) => `${words.word('loss', reason)} ${words.percent(mg / s.inMg, 2)}`)
                      .join(', ')}
                  </span>
                </div>
              );
            },
          },
          {
            id: 'pace',
            title: t('sort.pace'),
            numeric: true,
            cell: (s) => (pace(s) ? `${words.mass(Math.round(pace(s)!.kgPerHour * 1e6))}/h` : '—'),
          },
          {
            id: 'cost',
            title: t('sort.cost'),
            numeric: true,
            cell: (s) => (priceOf(s.lotId) > 0 ? words.money((s.rejectMg / 1e6) * priceOf(s.lotId)) : '—'),
          },
          {
            id: 'labour',
            title: t('sort.labour'),
            numeric: true,
            cell: (s) => (pace(s) ? words.priceByMass(pace(s)!.labourPerKg) : '—'),
          },
        ]}
      />
    </Panel>
  );
}
