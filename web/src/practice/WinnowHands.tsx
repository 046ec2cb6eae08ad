import { useState } from 'react';
import type { PracticeHand, PracticeSaid } from '@wunsch/contract';
import { AIR } from '@wunsch/core/trainer';
import { Button } from '../ui/Button.tsx';
import { useWords } from '../words/words.tsx';
import { useHands } from './useHands.tsx';

/** The learner’s hands at the winnower: turning the air, running a portion, picking a sample, and what the scale says. */
export function WinnowHands({
  seen,
  onHand,
}: {
  seen: readonly PracticeSaid[];
  onHand: (hand: PracticeHand) => Promise<unknown>;
}) {
  const words = useWords();
  const { t } = words;
  const [air, setAir] = useState(5);
  const { lend, wrong } = useHands();
  const bins = seen.find((s) => s.what === 'bins');
  const picked = seen.find((s) => s.what === 'picked');
  const hand = (what: PracticeHand) => lend(onHand(what));
  const left = bins?.left ?? null;
  return (
    <div className="grid gap-2 border-b border-line bg-panel px-4 py-2">
      <div className="flex flex-wrap items-center gap-3">
        <label className="flex min-h-11 items-center gap-3 text-[13.5px]">
          {t('practice.air')}
          <input
            type="range"
            min={AIR.least}
            max={AIR.most}
            step={0.5}
            value={air}
            onChange={(e) => setAir(Number(e.target.value))}
            className="h-11 w-44 accent-(--violet-text)"
          />
          <output className="num w-8">{words.number(air, air % 1 ? 1 : 0)}</output>
        </label>
        <Button look="main" disabled={left === 0} onClick={() => hand({ act: 'run', air })}>
          {t('practice.run')}
        </Button>
        <Button disabled={!bins} onClick={() => hand({ act: 'pick', of: 'husk' })}>
          {t('practice.pick.husk')}
        </Button>
        <Button disabled={!bins} onClick={() => hand({ act: 'pick', of: 'nib' })}>
          {t('practice.pick.nib')}
        </Button>
      </div>
      <p role="status" className="min-h-5 text-[13.5px]">
        {bins &&
          t(left === 0 ? 'practice.bins.done' : 'practice.bins', {
            left: left ?? 0,
            nibs: words.mass(bins.nibsMg),
            husk: words.mass(bins.huskMg),
          })}{' '}
        {picked &&
          t(`practice.picked.${picked.of}`, {
            sample: words.mass(picked.sampleMg),
            found: `${words.number(picked.foundMg / 1000, 2)} g`,
            pieces: picked.pieces,
          })}
      </p>
      {wrong}
    </div>
  );
}
