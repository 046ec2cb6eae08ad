import { useState } from 'react';
import type { MovementRecord, StepRecord } from '@wunsch/contract';
import { useDoor } from '../shell/door.tsx';
import { useMayMake } from '../shell/session.tsx';
import { useEntryHere } from '../shell/useEntryHere.ts';
import { Button } from '../ui/Button.tsx';
import { Doubt } from '../ui/Doubt.tsx';
import { TextField } from '../ui/Field.tsx';
import { FormDialog } from '../ui/FormDialog.tsx';
import { instantAt, localTime } from '../ui/localTime.ts';
import { useWords } from '../words/words.tsx';
import type { Lined } from './work.ts';

/** Work whose times are only those of its weights. */
const BY_WEIGHTS: ReadonlySet<string> = new Set(['sort', 'winnow', 'recipe', 'grind', 'conche', 'mould']);

/** Work of which a temperature's clock says when it was, where one was read. */
const BY_READINGS: ReadonlySet<string> = new Set(['roast', 'temper']);

/** Whether a temperature of a step was read, by a probe or by hand. */
const isRead = ({ series = [], observations = [] }: Lined, { id }: StepRecord): boolean =>
  series.some((s) => s.stepId === id) ||
  observations.some((o) => o.stepId === id && o.data.kind === 'temperature');

/** A way to say when a step really was, for whoever enters it with clean hands, an hour or a night later. */
export function StepTimes({ step, view }: { step: StepRecord; view: Lined }) {
  const { t } = useWords();
  const mayMake = useMayMake();
  const { isPractice } = useDoor();
  const [asking, setAsking] = useState(false);
  const mayMove = BY_WEIGHTS.has(step.kind) || (BY_READINGS.has(step.kind) && !isRead(view, step));
  if (!mayMake || isPractice || !mayMove) return null;
  return (
    <>
      <Button look="quiet" className="mt-1 text-ink-3" onClick={() => setAsking(true)}>
        {t('times.change')}
      </Button>
      {asking && <TimesDialog step={step} movements={view.movements} onClose={() => setAsking(false)} />}
    </>
  );
}

const isSooner = (at: string | null, than: string | null): boolean =>
  at !== null && than !== null && at < than;

/** When the last of what a step began with came out of the step before it, by the books; null where nothing says. */
function loadMadeAt(step: StepRecord, movements: readonly MovementRecord[]): string | null {
  const began = new Set(
    movements.flatMap((m) =>
      m.stepId === step.id && m.inForce && m.direction === 'in' ? (m.parcelId ?? []) : [],
    ),
  );
  const made = movements.flatMap((m) =>
    m.stepId !== step.id && m.inForce && m.direction === 'out' && m.parcelId && began.has(m.parcelId)
      ? m.at
      : [],
  );
  return made.sort().at(-1) ?? null;
}

function TimesDialog({
  step,
  movements,
  onClose,
}: {
  step: StepRecord;
  movements: readonly MovementRecord[];
  onClose: () => void;
}) {
  const { t, when } = useWords();
  const { now } = useDoor();
  const send = useEntryHere();
  const was = { startedAt: step.startedAt, endedAt: step.endedAt };
  const shown = {
    from: localTime(new Date(was.startedAt)),
    to: was.endedAt ? localTime(new Date(was.endedAt)) : '',
  };
  const [from, setFrom] = useState(shown.from);
  const [to, setTo] = useState(shown.to);
  // Left as it stands a time keeps the seconds the field does not show.
  const startedAt = from === shown.from ? was.startedAt : instantAt(from);
  const endedAt = was.endedAt === null || to === shown.to ? was.endedAt : instantAt(to);
  const isLater = (at: string | null) => at !== null && Date.parse(at) > now();
  const isBackwards = startedAt !== null && endedAt !== null && endedAt < startedAt;
  const madeAt = loadMadeAt(step, movements);
  const isBeforeLoad = isSooner(startedAt, was.startedAt) && isSooner(startedAt, madeAt);
  const isChanged = startedAt !== was.startedAt || endedAt !== was.endedAt;
  const isReady =
    startedAt !== null &&
    (was.endedAt === null || endedAt !== null) &&
    isChanged &&
    !isBackwards &&
    !isLater(startedAt) &&
    !isLater(endedAt);
  return (
    <FormDialog
      title={t('times.title')}
      description={t('times.text')}
      submit={t('times.keep')}
      isReady={isReady}
      onSubmit={() =>
        send({
          path: `/api/steps/${step.id}/times`,
          body: { startedAt, endedAt, was, ...(step.kind === 'roast' && endedAt && { notesToo: true }) },
          label: t('times.done'),
          batchId: step.batchId,
          undo: true,
        })
      }
      onClose={onClose}
    >
      <div className="grid gap-3">
        <TextField
          label={t('times.from')}
          type="datetime-local"
          value={from}
          onChange={(e) => setFrom(e.target.value)}
          error={isLater(startedAt) ? t('times.future') : null}
        />
        {was.endedAt !== null && (
          <TextField
            label={t('times.to')}
            type="datetime-local"
            value={to}
            onChange={(e) => setTo(e.target.value)}
            error={isLater(endedAt) ? t('times.future') : isBackwards ? t('times.order') : null}
          />
        )}
        <Doubt>{isBeforeLoad ? t('times.before', { when: when(madeAt!) }) : null}</Doubt>
      </div>
    </FormDialog>
  );
}
