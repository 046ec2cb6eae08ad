import { Upload } from 'lucide-react';
import { useState, type DragEvent } from 'react';
import type { BatchView, Place, StepRecord } from '@wunsch/contract';
import { FileButton, TABLES } from '../ui/FileButton.tsx';
import { useWords } from '../words/words.tsx';
import { CsvDialog } from './CsvDialog.tsx';
import { TakeTemperature } from './TakeTemperature.tsx';
import { useReadingsFile } from './useReadingsFile.ts';
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
  const { t } = useWords();
  const work = useWork(view);
  const { text, wrong, open, close } = useReadingsFile();
  const [over, setOver] = useState(false);
  const drop = (event: DragEvent) => {
    event.preventDefault();
    setOver(false);
    const [file] = event.dataTransfer.files;
    if (file) open(file);
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
      <TakeTemperature
        shortcut="r"
        view={view}
        step={step}
        place={place}
        label={t(`temperature.${place}`)}
        min={min}
        max={max}
      >
        <FileButton
          label={t('csv.open')}
          accept={TABLES}
          icon={<Upload size={16} aria-hidden="true" />}
          onFile={open}
        />
      </TakeTemperature>
      <p className="mt-1 text-[12px] text-ink-3">{t('csv.hint')}</p>
      {wrong && (
        <p role="alert" className="mt-1 text-[13.5px] text-bad">
          {wrong}
        </p>
      )}
      {text !== null && (
        <CsvDialog
          text={text}
          onClose={close}
          onto={{ place, startedAt: step.startedAt, endedAt: step.endedAt }}
          onTake={(file, startedAt) =>
            work.readings(step.id, place, startedAt ?? step.startedAt, file.readings)
          }
        />
      )}
    </div>
  );
}
