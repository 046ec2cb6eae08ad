import { useState } from 'react';
import type { BatchView, StepRecord } from '@wunsch/contract';
import type { Material } from '@wunsch/core/ledger';
import { Button } from '../ui/Button.tsx';
import { WeightPad } from '../ui/WeightPad.tsx';
import { useMayMake } from '../shell/session.tsx';
import { useWords } from '../words/words.tsx';
import { balanceOf, linesOf, useWork } from './work.ts';

/** Weighing out one material of an open step; further weighings go into the same parcel. */
export function WeighOut({
  view,
  step,
  material,
  label,
  main = false,
}: {
  view: BatchView;
  step: StepRecord;
  material: Material;
  label: string;
  main?: boolean;
}) {
  const words = useWords();
  const work = useWork(view);
  const mayMake = useMayMake();
  const [open, setOpen] = useState(false);
  const { inMg, differenceMg } = balanceOf(view, step.id);
  const before = linesOf(view, step.id).filter((m) => m.direction === 'out' && m.material === material);
  const sum = before.reduce((total, m) => total + m.massMg, 0);
  if (!mayMake) return null;
  return (
    <>
      <Button
        look={main ? 'main' : 'plain'}
        big
        onClick={() => setOpen(true)}
        disabled={inMg === 0}
        {...(main && { 'data-key': 'w' })}
      >
        {label}
        {sum > 0 && <span className="font-normal">{words.mass(sum)}</span>}
      </Button>
      {open && (
        <WeightPad
          title={label}
          description={words.t('weigh.out.hint', {
            in: words.mass(inMg),
            rest: words.mass(Math.max(0, differenceMg)),
          })}
          action={label}
          max={Math.max(1, Math.round(inMg * 1.02))}
          bulk={inMg}
          onWeight={(mg) =>
            work.make(step.id, material, mg, before[0]?.parcelId ? { parcelId: before[0].parcelId } : {})
          }
          onClose={() => setOpen(false)}
        />
      )}
    </>
  );
}

/** Weighing a loss or reject of an open step under its name. */
export function WeighLoss({
  view,
  step,
  reason,
  big = false,
}: {
  view: BatchView;
  step: StepRecord;
  reason: string;
  big?: boolean;
}) {
  const words = useWords();
  const work = useWork(view);
  const mayMake = useMayMake();
  const [open, setOpen] = useState(false);
  const { inMg } = balanceOf(view, step.id);
  const sum = linesOf(view, step.id)
    .filter((m) => m.direction === 'loss' && m.reason === reason)
    .reduce((total, m) => total + m.massMg, 0);
  const name = words.word('loss', reason);
  return (
    <>
      <button
        type="button"
        disabled={!mayMake}
        onClick={() => setOpen(true)}
        className={`rounded border border-edge bg-panel px-3 text-left hover:bg-panel-2 ${big ? 'min-h-[72px]' : 'min-h-12'}`}
      >
        <span className="block text-[14px] font-semibold">{name}</span>
        <span className={sum > 0 ? 'num text-[16px]' : 'text-[12px] text-ink-3'}>
          {sum > 0
            ? `${words.mass(sum)}${inMg > 0 ? `  ${words.percent(sum / inMg)}` : ''}`
            : words.t('weigh')}
        </span>
      </button>
      {open && (
        <WeightPad
          title={name}
          action={words.t('weigh.this', { what: name })}
          max={Math.max(1, inMg)}
          onWeight={(mg) => work.lose(step.id, reason, mg)}
          onClose={() => setOpen(false)}
        />
      )}
    </>
  );
}
