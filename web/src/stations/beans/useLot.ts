import { useMemo } from 'react';
import type { Lot, LotView } from '@wunsch/contract';
import { newId } from '../../shell/entry.ts';
import { useEntryHere } from '../../shell/useEntryHere.ts';
import { useWords } from '../../words/words.tsx';

/** Observations of one kind on a lot, in order of time. */
export function notesOf<K extends LotView['observations'][number]['data']['kind']>(
  view: LotView,
  kind: K,
): {
  id: string;
  at: string;
  by: string;
  data: Extract<LotView['observations'][number]['data'], { kind: K }>;
}[] {
  return view.observations
    .filter((o) => o.data.kind === kind)
    .map((o) => ({ id: o.id, at: o.at, by: o.by, data: o.data as never }));
}

/** The facts of a lot that may be changed, as they stand. */
export function factsOf(lot: Lot) {
  const {
    id: _id,
    version: _v,
    arrivedMg: _a,
    remainingMg: _r,
    parcelId: _p,
    material: _m,
    receivedOn: _d,
    bags: _b,
    fromLotId: _f,
    ...facts
  } = lot;
  return facts;
}

/** The entries a lot's page makes; each resolves once accepted or waiting. */
export function useLotWork(lot: Lot) {
  const send = useEntryHere();
  const { t } = useWords();
  return useMemo(
    () => ({
      /** Notes something of the lot; `corrects` is what it stands instead of, at the time that was noted. */
      note: (data: object, label: string, corrects: { id: string; at: string } | null = null) =>
        send({
          path: `/api/observations/${newId()}`,
          body: { lotId: lot.id, data, replaces: corrects?.id ?? null, ...(corrects && { at: corrects.at }) },
          label,
          undo: true,
        }),
      change: (
        part: Partial<ReturnType<typeof factsOf>>,
        label = t('done.lot-changed', { code: lot.code }),
      ) =>
        send({
          path: `/api/lots/${lot.id}/facts`,
          body: { ...factsOf(lot), ...part },
          ifMatch: lot.version,
          label,
        }),
      send,
    }),
    [lot, send, t],
  );
}
