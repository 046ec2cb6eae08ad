import { useState } from 'react';
import type { BatchView, CabinetRound, StepRecord } from '@wunsch/contract';
import { dewPoint } from '@wunsch/core/mould';
import { useDoor } from '../../shell/door.tsx';
import { newId } from '../../shell/entry.ts';
import { useNow } from '../../shell/now.ts';
import { useEntryHere } from '../../shell/useEntryHere.ts';
import { Button } from '../../ui/Button.tsx';
import { Panel } from '../../ui/Panel.tsx';
import { QuantityField } from '../../ui/QuantityField.tsx';
import { useWords } from '../../words/words.tsx';
import { useWork } from '../work.ts';
import { CabinetPicture } from './CabinetPicture.tsx';
import { useRoom, type RoundNow } from './useMoulding.ts';

/** Above this, %, moist air is named: bars may take it up. */
const MOIST = 60;

/** A room changes slowly: said longer ago than this it is told as of then, ms. */
const ROOM_HOLDS = 3_600_000;

/** Minutes a round that sticks is given more. */
const MORE_MINUTES = 5;

/** The cabinet as it stands: rounds going in, setting, and out again, each with one tap. */
export function Cabinet({
  view,
  step,
  rounds,
  others = [],
  places,
  placesPerMould,
  cavities,
  next,
  setMinutes,
}: {
  view: BatchView;
  step: StepRecord;
  rounds: readonly RoundNow[];
  /** What of other batches stands in the cabinet. */
  others?: readonly CabinetRound[];
  /** Of the cabinet; null where the workshop has none. */
  places: number | null;
  placesPerMould: number;
  cavities: number | null;
  /** Moulds and bars of the round to come. */
  next: { moulds: number; bars: number } | null;
  setMinutes: number;
}) {
  const words = useWords();
  const { t } = words;
  const work = useWork(view);
  const send = useEntryHere();
  const { now: clock } = useDoor();
  const now = useNow(5000);
  const room = useRoom();
  const [moulds, setMoulds] = useState<number | null>(null);
  const filled = moulds ?? next?.moulds ?? null;
  const inside = rounds.filter((r) => r.outAt === null);
  const standing = [
    ...inside.map((r) => ({ places: r.moulds * placesPerMould, dueAt: r.dueAt })),
    ...others.map((r) => ({ places: r.places, dueAt: Date.parse(r.dueAt) })),
  ];
  const taken = standing.reduce((sum, r) => sum + r.places, 0);
  const number = rounds.length + 1;
  const bars = !filled || !next ? null : filled === next.moulds ? next.bars : filled * (cavities ?? 1);
  const roundIn = async () => {
    if (!filled || !bars) return;
    await work.observe(
      step.id,
      {
        kind: 'round',
        moulds: filled,
        bars,
        label: t('round.ring', { n: number, code: view.batch.code }),
        dueAt: new Date(clock() + setMinutes * 60_000).toISOString(),
      },
      t('round.in.done', { n: number, bars }),
    );
    setMoulds(null);
  };
  const longer = (r: RoundNow) =>
    void send({
      path: `/api/observations/${newId()}`,
      body: {
        stepId: step.id,
        at: r.record.at,
        data: { ...r.record.data, dueAt: new Date(clock() + MORE_MINUTES * 60_000).toISOString() },
        replaces: r.id,
      },
      label: t('round.longer.done', { n: r.number }),
      batchId: view.batch.id,
      undo: true,
    }).catch(() => undefined);
  return (
    <Panel
      title={t('cabinet')}
      aside={
        room
          ? t('cabinet.room', {
              celsius: words.temperature(room.celsius),
              humidity: words.number(room.humidity),
              dew: words.temperature(dewPoint(room.celsius, room.humidity)),
            }) +
            (now - Date.parse(room.at) > ROOM_HOLDS
              ? ` (${t('cold.sensed', { time: words.when(room.at) })})`
              : '')
          : t('cabinet.no-room')
      }
    >
      {room && room.humidity > MOIST && (
        <p className="mb-2 text-[13px] font-semibold text-bad">
          ▲ {t('cabinet.moist', { humidity: words.number(room.humidity) })}
        </p>
      )}
      {places !== null && (
        <>
          <p className="mb-2 text-right text-[13px] font-semibold">
            {t('cabinet.places', { n: words.number(Math.min(places, taken)), of: words.number(places) })}
          </p>
          <CabinetPicture places={places} standing={standing} now={now} />
          {others.length > 0 && (
            <p className="mt-1 text-[12.5px] text-ink-2">
              {t('cabinet.others', {
                which: others
                  .map((r) => `${r.batchCode} ${t('round.until', { time: words.when(r.dueAt) })}`)
                  .join('; '),
              })}
            </p>
          )}
        </>
      )}
      <ul className="mt-2 grid gap-1">
        {inside.map((r) => {
          const due = r.dueAt <= now;
          return (
            <li key={r.id} className="flex flex-wrap items-center gap-2 border-t border-line pt-2">
              <span className="num w-20 text-[16px]">{t('round.n', { n: r.number })}</span>
              <span className="grow text-[13.5px] text-ink-2">
                {t('round.bars', { n: r.bars })} ·{' '}
                {due
                  ? t('round.try')
                  : t('round.until', { time: words.when(new Date(r.dueAt).toISOString()) })}
              </span>
              <Button
                look={due ? 'signal' : 'plain'}
                onClick={() =>
                  void work
                    .observe(
                      step.id,
                      { kind: 'roundOut', roundId: r.id },
                      t('round.out.done', { n: r.number }),
                    )
                    .catch(() => undefined)
                }
              >
                {t('round.out', { n: r.number })}
              </Button>
              {due && <Button onClick={() => longer(r)}>{t('round.longer', { n: MORE_MINUTES })}</Button>}
            </li>
          );
        })}
      </ul>
      {next && (
        <div className="mt-3 flex flex-wrap items-end gap-2 border-t border-line pt-3">
          <QuantityField
            key={`m${next.moulds}-${number}`}
            label={t('round.moulds', { n: number })}
            dimension="count"
            value={filled}
            onChange={setMoulds}
            min={1}
            max={2000}
            className="w-44"
          />
          <Button look="main" onClick={() => void roundIn().catch(() => undefined)} disabled={!bars}>
            {t('round.in', { n: number, bars: bars ?? 0 })}
          </Button>
        </div>
      )}
    </Panel>
  );
}
