import { Upload } from 'lucide-react';
import { useMemo, useRef, useState, type DragEvent } from 'react';
import type { BatchView, Place, StepRecord } from '@wunsch/contract';
import { parseTemperatureFile, type TemperatureFile } from '@wunsch/core/readings';
import { Button } from '../ui/Button.tsx';
import { Choice, SelectField } from '../ui/Field.tsx';
import { QuantityField } from '../ui/QuantityField.tsx';
import { Dialog } from '../ui/Dialog.tsx';
import { useDraft } from '../shell/useDraft.ts';
import { useWords } from '../words/words.tsx';
import { useWork } from './work.ts';

/** Entering a temperature by hand, or dropping in a file of time and temperature. */
export function ReadingsInput({
  view,
  step,
  place,
  min,
  max,
}: {
  view: BatchView;
  step: StepRecord;
  place: Place;
  min: number;
  max: number;
}) {
  const words = useWords();
  const { t } = words;
  const work = useWork(view);
  const { draft, change, keep } = useDraft<{ celsius: number | null }>({ celsius: null });
  const [text, setText] = useState<string | null>(null);
  const [over, setOver] = useState(false);
  const input = useRef<HTMLInputElement>(null);
  const openFile = async (file: File | undefined) => {
    if (file) setText(await file.text());
  };
  const drop = (event: DragEvent) => {
    event.preventDefault();
    setOver(false);
    void openFile(event.dataTransfer.files[0]);
  };
  return (
    <div
      onDragOver={(e) => {
        e.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={drop}
      className={`rounded ${over ? 'outline-2 outline-dashed outline-violet-text' : ''}`}
    >
      <form
        className="flex flex-wrap items-end gap-2"
        onSubmit={(e) => {
          e.preventDefault();
          const { celsius } = draft;
          if (celsius === null) return;
          void keep(() =>
            work.observe(
              step.id,
              { kind: 'temperature', place, celsius },
              t('done.temperature', { temperature: words.temperature(celsius) }),
            ),
          );
        }}
      >
        <QuantityField
          label={t(`temperature.${place}`)}
          dimension="temperature"
          value={draft.celsius}
          onChange={(celsius) => change({ celsius })}
          min={min}
          max={max}
          optional
          className="w-44"
        />
        <Button type="submit" disabled={draft.celsius === null} data-key="r">
          {t('take-reading')}
        </Button>
        <Button icon={<Upload size={16} aria-hidden="true" />} onClick={() => input.current?.click()}>
          {t('csv.open')}
        </Button>
        <input
          ref={input}
          type="file"
          accept=".csv,.txt,.tsv,text/csv,text/plain"
          aria-label={t('csv.open')}
          className="sr-only"
          tabIndex={-1}
          onChange={(e) => {
            void openFile(e.target.files?.[0]);
            e.target.value = '';
          }}
        />
      </form>
      <p className="mt-1 text-[12px] text-ink-3">{t('csv.hint')}</p>
      {text !== null && (
        <CsvDialog
          text={text}
          onClose={() => setText(null)}
          onTake={(file) => work.readings(step.id, place, file.startedAt ?? step.startedAt, file.readings)}
        />
      )}
    </div>
  );
}

function CsvDialog({
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
