import { useState } from 'react';
import { dewPoint, minutesToWarm } from '@wunsch/core/mould';
import { Panel } from '../../ui/Panel.tsx';
import { QuantityField } from '../../ui/QuantityField.tsx';
import { useWords } from '../../words/words.tsx';
import { useRoom } from './useMoulding.ts';

/** Wait this much longer than the reckoning: bars lie close, and no two rooms are still alike. */
const CAUTION = 1.5;

/** Bars out of the cold sweat below the room's dew point: how long to wait before they are opened. */
export function OutOfTheCold({ barMg }: { barMg: number }) {
  const words = useWords();
  const { t } = words;
  const sensed = useRoom();
  const [bar, setBar] = useState<number | null>(12);
  const [typedC, setTypedC] = useState<number | null>(null);
  const [typedH, setTypedH] = useState<number | null>(null);
  const roomC = typedC ?? sensed?.celsius ?? 20;
  const humidity = typedH ?? sensed?.humidity ?? 55;
  const dew = dewPoint(roomC, humidity);
  const minutes = bar === null ? null : minutesToWarm({ massMg: barMg, fromC: bar, roomC, untilC: dew });
  return (
    <Panel title={t('cold')} aside={sensed ? t('cold.sensed', { time: words.when(sensed.at) }) : undefined}>
      <div className="grid grid-cols-3 items-end gap-2">
        <QuantityField
          label={t('cold.bar')}
          dimension="temperature"
          value={bar}
          onChange={setBar}
          min={-20}
          max={30}
        />
        <QuantityField
          label={t('cold.room')}
          dimension="temperature"
          value={roomC}
          onChange={setTypedC}
          min={0}
          max={45}
        />
        <QuantityField
          label={t('cold.humidity')}
          dimension="humidity"
          value={humidity}
          onChange={setTypedH}
          min={1}
          max={100}
        />
      </div>
      <p className="mt-3 text-[14px]" data-testid="dew">
        {bar === null
          ? ''
          : minutes === 0
            ? t('cold.open', { dew: words.temperature(dew) })
            : minutes === null
              ? t('cold.never', { dew: words.temperature(dew) })
              : t('cold.wait', {
                  dew: words.temperature(dew),
                  minutes: words.number(Math.ceil(minutes * CAUTION)),
                })}
      </p>
      <p className="mt-1 text-[12px] text-ink-3">{t('cold.hint')}</p>
    </Panel>
  );
}
