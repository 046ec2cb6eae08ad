import { useMemo, useState } from 'react';
import { parseTemperatureFile, type TemperatureFile } from '@wunsch/core/readings';
import { Button } from '../ui/Button.tsx';
import { Dialog } from '../ui/Dialog.tsx';
import { Choice, SelectField } from '../ui/Field.tsx';
import { useWords } from '../words/words.tsx';

/** What a file of times and temperatures holds, with its unit and columns to be put right, before it is taken in. */
export function CsvDialog({
  text,
  onTake,
  onClose,
}: {
  text: string;
  onTake: (file: TemperatureFile) => Promise<unknown>;
  onClose: () => void;
}) {
  const words = useWords();
  const { t } = words;
  const [unit, setUnit] = useState<'°C' | '°F' | null>(null);
  const [timeUnit, setTimeUnit] = useState<'s' | 'min' | null>(null);
  const [columns, setColumns] = useState<{ timeColumn?: number; valueColumn?: number }>({});
  const file = useMemo(
    () => parseTemperatureFile(text, { ...(unit && { unit }), ...(timeUnit && { timeUnit }), ...columns }),
    [text, unit, timeUnit, columns],
  );
  const [error, setError] = useState<string | null>(null);
  const low = file.readings.reduce((m, r) => Math.min(m, r.celsius), Infinity);
  const high = file.readings.reduce((m, r) => Math.max(m, r.celsius), -Infinity);
  const column = (label: string, value: number, set: (column: number) => void) => (
    <SelectField label={label} value={value} onChange={(e) => set(Number(e.target.value))}>
      {file.columns.map((name, i) => (
        <option key={i} value={i}>
          {t('csv.column', { n: i + 1, name })}
        </option>
      ))}
    </SelectField>
  );
  return (
    <Dialog open onClose={onClose} title={t('csv.title')}>
      <div className="grid gap-3">
        <Choice
          label={t('csv.unit')}
          value={file.unit}
          options={[
            { value: '°C', label: '°C' },
            { value: '°F', label: '°F' },
          ]}
          onChange={setUnit}
        />
        <div className="grid grid-cols-2 gap-2">
          {column(t('csv.time-column'), file.timeColumn, (timeColumn) =>
            setColumns({ ...columns, timeColumn }),
          )}
          {column(t('csv.value-column'), file.valueColumn, (valueColumn) =>
            setColumns({ ...columns, valueColumn }),
          )}
        </div>
        {file.startedAt === null && (
          <Choice
            label={t('csv.time-unit')}
            value={file.timeUnit}
            options={[
              { value: 's', label: t('csv.seconds') },
              { value: 'min', label: t('csv.minutes') },
            ]}
            onChange={setTimeUnit}
          />
        )}
        {file.gaps > 0 && <p className="text-[12.5px] text-ink-3">{t('csv.gaps', { n: file.gaps })}</p>}
        {file.readings.length === 0 ? (
          <p className="text-bad">{t('csv.nothing')}</p>
        ) : (
          <p>
            {t('csv.found', {
              n: file.readings.length,
              minutes: words.duration(file.readings.at(-1)!.seconds),
              low: words.temperature(low),
              high: words.temperature(high),
            })}
          </p>
        )}
        {file.refused.length > 0 && (
          <details>
            <summary className="cursor-pointer font-semibold text-bad">
              {t('csv.refused', { n: file.refused.length })}
            </summary>
            <ul className="mt-1 max-h-40 overflow-auto text-[12.5px]">
              {file.refused.slice(0, 50).map((r) => (
                <li key={r.row}>{t('csv.row', { row: r.row, text: r.text })}</li>
              ))}
            </ul>
          </details>
        )}
        {file.duplicates + file.outOfOrder > 0 && (
          <p className="text-[12.5px] text-ink-3">
            {t('csv.order', { duplicates: file.duplicates, disorder: file.outOfOrder })}
          </p>
        )}
        {error && (
          <p role="alert" className="text-bad">
            {error}
          </p>
        )}
        <Button
          look="main"
          big
          disabled={file.readings.length === 0}
          onClick={() => void onTake(file).then(onClose, (e: unknown) => setError(words.explain(e)))}
        >
          {t('csv.take')}
        </Button>
      </div>
    </Dialog>
  );
}
