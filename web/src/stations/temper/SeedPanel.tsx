import { useState } from 'react';
import { roundTemperature } from '@wunsch/core/quantity';
import { seedMass, type TemperPath } from '@wunsch/core/temper';
import { Panel } from '../../ui/Panel.tsx';
import { QuantityField } from '../../ui/QuantityField.tsx';
import { useWords } from '../../words/words.tsx';

/** Just below the ceiling of the window, as far as a thermometer in this unit tells. */
const usualAim = ({ windowHighC }: TemperPath, unit: '°C' | '°F') =>
  unit === '°C' ? Math.round((windowHighC - 0.2) * 10) / 10 : roundTemperature(windowHighC - 0.2, unit);

/** How much solid seed cools the bowl to where it should be. */
export function SeedPanel({
  massMg,
  bowlC,
  path,
  fatShare,
}: {
  massMg: number;
  /** What the bowl was last read at, °C; null where it is not known, or has been seeded. */
  bowlC: number | null;
  path: TemperPath;
  fatShare: number;
}) {
  const words = useWords();
  const { t } = words;
  // What goes into the bowl later is in the sum too, until somebody writes another mass.
  const [typed, setBowl] = useState<number | null | undefined>(undefined);
  const bowl = typed === undefined ? (massMg > 0 ? massMg : null) : typed;
  const [typedFrom, setFrom] = useState<number | null | undefined>(undefined);
  const from =
    typedFrom === undefined
      ? bowlC !== null && bowlC > path.windowHighC
        ? bowlC
        : roundTemperature(path.meltC - 4.5, words.temperatureUnit)
      : typedFrom;
  const [to, setTo] = useState<number | null>(() => usualAim(path, words.temperatureUnit));
  const [seed, setSeed] = useState<number | null>(20);
  const [typedFat, setFat] = useState<number | null | undefined>(undefined);
  const fat = typedFat === undefined ? Math.round(fatShare * 1000) / 10 : typedFat;
  let answer: string;
  try {
    const mg =
      bowl && from !== null && to !== null && seed !== null && fat !== null
        ? seedMass({ mass: bowl, fromC: from, toC: to, seedC: seed, fat: fat / 100 })
        : null;
    answer = mg === null ? '—' : words.mass(Math.round(mg));
  } catch {
    answer = from !== null && to !== null && from <= to ? t('seed.warm-enough') : t('seed.cold-target');
  }
  return (
    <Panel title={t('seed')}>
      <div className="grid grid-cols-2 items-end gap-3 sm:grid-cols-3">
        <QuantityField label={t('seed.bowl')} dimension="mass" value={bowl} onChange={setBowl} min={1000} />
        <QuantityField
          label={t('seed.from')}
          dimension="temperature"
          value={from}
          onChange={setFrom}
          min={15}
          max={70}
        />
        <QuantityField
          label={t('seed.to')}
          dimension="temperature"
          value={to}
          onChange={setTo}
          min={15}
          max={50}
        />
        <QuantityField
          label={t('seed.at')}
          dimension="temperature"
          value={seed}
          onChange={setSeed}
          min={-30}
          max={35}
        />
        <QuantityField
          label={t('seed.fat')}
          dimension="percent"
          value={fat}
          onChange={setFat}
          min={0}
          max={100}
        />
      </div>
      <p className="mt-3 text-[14px]">
        {t('seed.answer')}{' '}
        <span className="num text-[24px]" data-testid="seed-mass">
          {answer}
        </span>
      </p>
    </Panel>
  );
}
