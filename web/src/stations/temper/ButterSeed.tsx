import { Timer } from 'lucide-react';
import { useState } from 'react';
import { newId } from '../../shell/entry.ts';
import { useEntryHere } from '../../shell/useEntryHere.ts';
import { Button } from '../../ui/Button.tsx';
import { QuantityField } from '../../ui/QuantityField.tsx';
import { useWords } from '../../words/words.tsx';

/** Hours cocoa butter is usually held until all of its crystals are stable ones. */
const USUAL_HOURS = 18;

/** Making stable-butter seed: melted, held warm for most of a day, stirred now and then until it is a cream; it rings when it should be ready. */
export function ButterSeed({ batchId }: { batchId: string }) {
  const words = useWords();
  const { t } = words;
  const send = useEntryHere();
  const [seconds, setSeconds] = useState<number | null>(USUAL_HOURS * 3600);
  return (
    <div className="mt-3 border-t border-line pt-3">
      <p className="text-[13px] text-ink-2">
        {t('butter-seed.how', { low: words.temperature(33, 0), high: words.temperature(34, 0) })}
      </p>
      <div className="mt-2 flex flex-wrap items-end gap-2">
        <QuantityField
          label={t('butter-seed.hold')}
          dimension="duration"
          unit="h"
          value={seconds}
          onChange={setSeconds}
          min={3600}
          max={72 * 3600}
          className="w-32"
        />
        <Button
          icon={<Timer size={17} aria-hidden="true" />}
          disabled={seconds === null}
          onClick={() =>
            void send({
              path: `/api/observations/${newId()}`,
              body: {
                batchId,
                data: {
                  kind: 'timer',
                  label: t('butter-seed.ready'),
                  dueAt: new Date(Date.now() + seconds! * 1000).toISOString(),
                },
              },
              label: t('done.timer'),
              batchId,
              undo: true,
            }).catch(() => undefined)
          }
        >
          {t('butter-seed.begin')}
        </Button>
      </div>
    </div>
  );
}
