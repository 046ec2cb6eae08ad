import { useEffect, useMemo, useRef, useState } from 'react';
import type { LiveReadings, SeriesRecord } from '@wunsch/contract';
import { useDoor } from '../shell/door.tsx';

/** One probe's series on a step: epoch ms and °C in order of time. */
export interface ProbeSeries {
  place: SeriesRecord['place'];
  probe: string;
  at: number[];
  celsius: number[];
}

/** The page draws at most this often, ms, however fast readings come. */
const DRAW_EVERY = 250;

const keyOf = (s: { place: string; probe: string }) => `${s.place}\n${s.probe}`;

/**
 * All probes of a step, live: read once, then followed through the stream, and read afresh when the stream has been
 * away, so that a reload or a server's restart leaves no gap.
 */
export function useLiveSeries(stepId: string | undefined): ProbeSeries[] {
  const held = useRef(new Map<string, ProbeSeries>());
  const [version, setVersion] = useState(0);
  const { read, moments } = useDoor();
  useEffect(() => {
    if (!stepId) return;
    const series = held.current;
    series.clear();
    let gone = false;
    let drawing: ReturnType<typeof setTimeout> | null = null;
    const draw = () => {
      drawing ??= setTimeout(() => {
        drawing = null;
        setVersion((v) => v + 1);
      }, DRAW_EVERY);
    };
    const add = (live: Pick<LiveReadings, 'place' | 'probe' | 'at' | 'celsius'>) => {
      const key = keyOf(live);
      const mine = series.get(key) ?? { place: live.place, probe: live.probe, at: [], celsius: [] };
      live.at.forEach((at, i) => insert(mine, at, live.celsius[i]!));
      series.set(key, mine);
    };
    const fetchAll = async () => {
      const all = await read<SeriesRecord[]>(`/api/steps/${stepId}/series?width=1500`).catch(() => null);
      if (!all || gone) return;
      for (const s of all) {
        const start = Date.parse(s.startedAt);
        add({
          place: s.place,
          probe: s.probe,
          at: s.points.map(([t]) => start + t * 1000),
          celsius: s.points.map(([, c]) => c),
        });
      }
      setVersion((v) => v + 1);
    };
    const stop = [
      moments.on('readings', (all) => {
        const mine = all.filter((l) => l.stepId === stepId);
        mine.forEach(add);
        if (mine.length > 0) draw();
      }),
      moments.on('back', () => void fetchAll()),
    ];
    void fetchAll();
    return () => {
      gone = true;
      if (drawing) clearTimeout(drawing);
      stop.forEach((s) => s());
    };
  }, [stepId, read, moments]);
  return useMemo(
    () => [...held.current.values()].map((s) => ({ ...s })).sort((a, b) => b.at.length - a.at.length),
    // The map is changed in place; the version says when.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [version],
  );
}

/** Puts a reading in its place in time; the same instant is written over. */
function insert(series: ProbeSeries, at: number, celsius: number): void {
  const { at: times } = series;
  let i = times.length;
  while (i > 0 && times[i - 1]! > at) i -= 1;
  if (i > 0 && times[i - 1] === at) series.celsius[i - 1] = celsius;
  else {
    times.splice(i, 0, at);
    series.celsius.splice(i, 0, celsius);
  }
}
