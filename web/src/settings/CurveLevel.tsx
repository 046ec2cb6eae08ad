import { useState } from 'react';
import type { WorkshopPut } from '@wunsch/contract';
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
  const { t, number } = useWords();
  const [texts, setTexts] = useState({
    fallingBelow: number(value.fallingBelow, 1),
    risingAbove: number(value.risingAbove, 1),
  });
  const low = numberOf(texts.fallingBelow);
  const high = numberOf(texts.risingAbove);
  const type = (limit: (typeof LIMITS)[number], text: string) => {
    const next = { ...texts, [limit]: text };
    setTexts(next);
    const level = { fallingBelow: numberOf(next.fallingBelow), risingAbove: numberOf(next.risingAbove) };
    if (level.fallingBelow < level.risingAbove) onChange(level);
  };
  return (
    <fieldset className="mt-4">
      <legend className="mb-1 text-[13px] text-ink-3">{t('settings.curve')}</legend>
      <div className="grid max-w-md grid-cols-2 gap-4">
        {LIMITS.map((limit) => (
          <TextField
            key={limit}
            label={t(limit === 'fallingBelow' ? 'settings.curve.low' : 'settings.curve.high')}
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
