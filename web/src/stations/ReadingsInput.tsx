import { Upload } from 'lucide-react';
import { useState, type DragEvent } from 'react';
import type { BatchView, Place, StepRecord } from '@wunsch/contract';
import { FileButton, TABLES } from '../ui/FileButton.tsx';
import { useWords } from '../words/words.tsx';
import { CsvDialog } from './CsvDialog.tsx';
import { TakeTemperature } from './TakeTemperature.tsx';
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
  const [text, setText] = useState<string | null>(null);
  const [over, setOver] = useState(false);
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
          onFile={(file) => void openFile(file)}
        />
      </TakeTemperature>
      <p className="mt-1 text-[12px] text-ink-3">{t('csv.hint')}</p>
      {text !== null && (
        <CsvDialog
          text={text}
          onClose={() => setText(null)}
          onto={{ place, startedAt: step.startedAt, endedAt: step.endedAt }}
          onTake={(file, startedAt) =>
            work.readings(step.id, place, startedAt ?? step.startedAt, file.readings)
          }
        />
      )}
    </div>
  );
}
