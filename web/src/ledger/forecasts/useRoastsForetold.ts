import { useEffect, useState } from 'react';
import type { ForecastBook, Machine, RoastRecord } from '@wunsch/contract';
import { useRead } from '../../shell/door.tsx';
import { loggedRoast, usualOven } from '../../stations/roast/model.ts';
import { roastWork } from '../../workers/roast.ts';

/** Latest roasts that are looked back on. */
const ROASTS = 24;

/** The latest roasts, each foretold again in the worker ten minutes before its last reading; how many are still to be made. */
export function useRoastsForetold(): { kind: ForecastBook[number] | null; left: number } {
  const { data: roasts } = useRead<RoastRecord[]>(`/api/roasts?limit=${ROASTS}&width=120`, {
    revalidateOnFocus: false,
  });
  const { data: machines } = useRead<Machine[]>('/api/machines', { revalidateOnFocus: false });
  const [forecasts, setForecasts] = useState<ForecastBook[number]['forecasts']>([]);
  const [left, setLeft] = useState(0);
  const key = roasts && machines ? roasts.map((r) => r.step.id).join(' ') : null;
  useEffect(() => {
    if (key === null) return;
    let gone = false;
    const look = async () => {
      const done = roasts!.filter((r) => r.step.status === 'closed').reverse();
      const found: ForecastBook[number]['forecasts'] = [];
      for (const [i, record] of done.entries()) {
        if (gone) return;
        setLeft(done.length - i);
        const logged = loggedRoast(record);
        const oven = usualOven(machines!.find((m) => m.id === record.step.machineId));
        const said =
          logged && (await roastWork.ask((thread) => thread.lookBack(logged, oven)).catch(() => null));
        if (said)
          found.push({
            id: record.step.id,
            code: record.batchCode,
            at: record.step.endedAt ?? record.step.startedAt,
            ...said,
          });
      }
      if (gone) return;
      setForecasts(found);
      setLeft(0);
    };
    void look();
    return () => {
      gone = true;
    };
    // The key names the roasts.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [key]);
  return {
    kind: forecasts.length > 0 ? { kind: 'roast', station: 'roast', forecasts } : null,
    left,
  };
}
