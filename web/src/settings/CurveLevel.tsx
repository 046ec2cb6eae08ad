import { useState } from 'react';
import type { WorkshopPut } from '@wunsch/contract';
import { kelvinOf } from '@wunsch/core/quantity';
import { TextField } from '../ui/Field.tsx';
import { useWords } from '../words/words.tsx';

type Level = (typeof WorkshopPut._output)['curveLevel'];

const LIMITS = ['fallingBelow', 'risingAbove'] as const;

/** A number as it is typed, with a comma or a point, and either sign for less than nothing; NaN where it is none. */
function numberOf(text: string): number {
  const plain = text.trim().replace('−', '-').replace(',', '.');
  return /^-?\d+(\.\d+)?$/.test(plain) ? Number(plain) : Number.NaN;
}

/** Between which slopes a sample's cooling curve counts as level: instruments and schools differ. */
export function CurveLevel({ value, onChange }: { value: Level; onChange: (level: Level) => void }) {
  const { t, number, kelvin, temperatureUnit } = useWords();
  const written = (limit: (typeof LIMITS)[number]) =>
    number(kelvin(value[limit]), temperatureUnit === '°F' ? 2 : 1);
  const [texts, setTexts] = useState({
    fallingBelow: written('fallingBelow'),
    risingAbove: written('risingAbove'),
  });
  const low = numberOf(texts.fallingBelow);
  const high = numberOf(texts.risingAbove);
  const type = (limit: (typeof LIMITS)[number], text: string) => {
    const next = { ...texts, [limit]: text };
    setTexts(next);
    // What stands as it was written is what it was, however it is rounded for the eye.
    const read = (of: (typeof LIMITS)[number]) => {
      const typed = numberOf(next[of]);
      if (next[of] === written(of)) return value[of];
      return Number.isNaN(typed) ? typed : kelvinOf(temperatureUnit, typed);
    };
    const level = { fallingBelow: read('fallingBelow'), risingAbove: read('risingAbove') };
    if (level.fallingBelow < level.risingAbove) onChange(level);
  };
  return (
    <fieldset className="mt-4">
      <legend className="mb-1 text-[13px] text-ink-3">{t('settings.curve')}</legend>
      <div className="grid max-w-md grid-cols-2 gap-4">
        {LIMITS.map((limit) => (
          <TextField
            key={limit}
            label={t(limit === 'fallingBelow' ? 'settings.curve.low' : 'settings.curve.high', {
              unit: temperatureUnit,
            })}
            value={texts[limit]}
            inputMode="decimal"
            onChange={(e) => type(limit, e.target.value)}
            maxLength={8}
            error={
              (limit === 'fallingBelow' ? Number.isNaN(low) : !(low < high)) ? t('settings.curve.bad') : null
            }
          />
        ))}
      </div>
    </fieldset>
  );
}
