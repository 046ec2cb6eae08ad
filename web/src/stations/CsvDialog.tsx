import { useMemo, useState } from 'react';
import type { Place } from '@wunsch/contract';
import { parseTemperatureFile, TIME_UNITS, type TemperatureFile, type TimeUnit } from '@wunsch/core/readings';
import { beansInAt } from '@wunsch/core/roast';
import { workshopClock } from '../shell/clock.ts';
import { Button } from '../ui/Button.tsx';
import { Dialog } from '../ui/Dialog.tsx';
import { Choice, SelectField } from '../ui/Field.tsx';
import { QuantityField } from '../ui/QuantityField.tsx';
import { useWords } from '../words/words.tsx';

/** The step a file's readings are of. */
export interface Onto {
  place: Place;
  /** ISO instants; null while it runs. */
  startedAt: string;
  endedAt: string | null;
}

/** A file that ends before the step began, or begins when it had ended, was kept by another clock. */
function fitsByClock(file: TemperatureFile, { startedAt, endedAt }: Onto): boolean {
  if (file.startedAt === null) return false;
  const from = Date.parse(file.startedAt);
  const to = from + 1000 * (file.readings.at(-1)?.seconds ?? 0);
  return to > Date.parse(startedAt) && from < (endedAt === null ? workshopClock.now() : Date.parse(endedAt));
}

/**
 * What a file of times and temperatures holds, with its unit and columns to be put right, before it is taken in. Onto a step it is laid by its own
 * clock where that fits, else on the step's beginning, from where in the file it began.
 */
export function CsvDialog({
  text,
  onto,
  onTake,
  onClose,
}: {
  text: string;
  onto?: Onto;
  /** `startedAt` is the instant of the file's second 0. */
  onTake: (file: TemperatureFile, startedAt: string | null) => Promise<unknown>;
  onClose: () => void;
}) {
  const words = useWords();
  const { t } = words;
  const [unit, setUnit] = useState<'°C' | '°F' | null>(null);
  const [timeUnit, setTimeUnit] = useState<TimeUnit | null>(null);
  const [columns, setColumns] = useState<{ timeColumn?: number; valueColumn?: number }>({});
  const near = onto?.startedAt;
  const file = useMemo(
    () =>
      parseTemperatureFile(text, {
        ...(unit && { unit }),
        ...(timeUnit && { timeUnit }),
        ...columns,
        // Times without a zone are those of the clock this page tells times by.
        timeZone: Intl.DateTimeFormat().resolvedOptions().timeZone,
        ...(near !== undefined && { near }),
      }),
    [text, unit, timeUnit, columns, near],
  );
  const [laid, setLaid] = useState<'clock' | 'beginning' | null>(null);
  const [beginsAt, setBeginsAt] = useState<number | null | 'found'>('found');
  const foundAt = useMemo(
    () => (onto?.place === 'bean' ? (beansInAt(file.readings) ?? 0) : 0) / 60,
    [onto?.place, file],
  );
  const begins = beginsAt === 'found' ? Math.round(10 * foundAt) / 10 : beginsAt;
  const byClock =
    onto !== undefined && (laid ?? (fitsByClock(file, onto) ? 'clock' : 'beginning')) === 'clock';
  const startedAt =
    onto === undefined || byClock
      ? file.startedAt
      : begins
        ? new Date(Date.parse(onto.startedAt) - 60_000 * begins).toISOString()
        : onto.startedAt;
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
        <div className="grid grid-cols-2 items-end gap-2">
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
            options={TIME_UNITS.map((value) => ({ value, label: t(`csv.time.${value}`) }))}
            onChange={setTimeUnit}
          />
        )}
        {onto && file.startedAt !== null && (
          <div>
            <Choice
              label={t('csv.laid')}
              value={byClock ? 'clock' : 'beginning'}
              options={[
                { value: 'clock', label: t('csv.laid.clock') },
                { value: 'beginning', label: t('csv.laid.beginning') },
              ]}
              onChange={setLaid}
            />
            <p className="mt-1 text-[12.5px] text-ink-3">
              {t('csv.clocks', { file: words.when(file.startedAt), step: words.when(onto.startedAt) })}
            </p>
          </div>
        )}
        {onto && !byClock && (
          <QuantityField
            label={t(onto.place === 'bean' ? 'csv.begins.bean' : 'csv.begins')}
            dimension="number"
            value={begins}
            onChange={setBeginsAt}
            min={0}
            max={Math.max(0, (file.readings.at(-1)?.seconds ?? 0) / 60)}
            hint={foundAt > 0 ? t('csv.begins.found', { minutes: words.number(foundAt, 1) }) : undefined}
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
          disabled={file.readings.length === 0 || (onto !== undefined && !byClock && begins === null)}
          onClick={() =>
            void onTake(file, startedAt).then(onClose, (e: unknown) => setError(words.explain(e)))
          }
        >
          {t('csv.take')}
        </Button>
      </div>
    </Dialog>
  );
}
