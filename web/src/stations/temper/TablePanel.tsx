import { useState } from 'react';
import { hotFor, tabledFor, tabledMix, type TemperPath } from '@wunsch/core/temper';
import { Figure, Panel } from '../../ui/Panel.tsx';
import { QuantityField } from '../../ui/QuantityField.tsx';
import { useWords } from '../../words/words.tsx';

/** Part of the bowl that is left hot where nothing tells how much, %; what is proposed is no more than the most. */
const USUAL_HOT = 33;
const MOST_HOT = 50;
const LEAST_HOT = 5;

/** Tabling: how much to leave hot, when to bring the tabled part back, and what both come to; any split. */
export function TablePanel({
  massMg,
  bowlC,
  path,
}: {
  massMg: number;
  /** What the bowl was last read at, °C; null where it is not known. */
  bowlC: number | null;
  path: TemperPath;
}) {
  const words = useWords();
  const { t } = words;
  const [typedHot, setHot] = useState<number | null | undefined>(undefined);
  const hotC =
    typedHot === undefined ? (bowlC !== null && bowlC > path.windowHighC ? bowlC : path.meltC) : typedHot;
  // So much that the table need be no colder than the path goes.
  const fits = hotC === null ? null : hotFor({ hotC, tabledC: path.coolC, toC: path.workC });
  const [typedPercent, setPercent] = useState<number | null | undefined>(undefined);
  const percent =
    typedPercent === undefined
      ? fits === null
        ? USUAL_HOT
        : Math.max(LEAST_HOT, Math.min(MOST_HOT, Math.floor(fits * 100)))
      : typedPercent;
  const [tabledC, setTabled] = useState<number | null>(null);
  const hot = percent === null ? null : percent / 100;
  const back =
    hot !== null && hotC !== null && hotC > path.workC
      ? tabledFor({ hot, tabled: 1 - hot, hotC, toC: path.workC })
      : null;
  const mixed =
    hot !== null && hotC !== null && tabledC !== null
      ? tabledMix({ hot, tabled: 1 - hot, hotC, tabledC })
      : null;
  const cold = back !== null && back < path.coolC - 2;
  return (
    <Panel title={t('tabling')} aside={t('tabling.hint')}>
      <div className="grid grid-cols-2 items-end gap-3 sm:grid-cols-3">
        <QuantityField
          label={t('tabling.hot')}
          dimension="percent"
          value={percent}
          onChange={setPercent}
          min={LEAST_HOT}
          max={80}
        />
        <QuantityField
          label={t('tabling.hot-at')}
          dimension="temperature"
          value={hotC}
          onChange={setHot}
          min={28}
          max={70}
        />
        <QuantityField
          label={t('tabling.tabled-at')}
          dimension="temperature"
          value={tabledC}
          onChange={setTabled}
          min={10}
          max={50}
          optional
        />
      </div>
      <div className="mt-3 flex flex-wrap gap-x-8 gap-y-2">
        <Figure name={t('tabling.leave')}>{hot === null ? '—' : words.mass(Math.round(massMg * hot))}</Figure>
        <Figure name={t('tabling.back')}>
          <span data-testid="bring-back">{back === null ? '—' : words.temperature(back)}</span>
        </Figure>
        <Figure name={t('tabling.mixed')}>
          <span data-testid="mixed">{mixed === null ? '—' : words.temperature(mixed)}</span>
        </Figure>
      </div>
      {(cold || back === null) && hot !== null && (
        <p className="mt-2 text-[13px] text-bad">▲ {t('tabling.too-much')}</p>
      )}
    </Panel>
  );
}
