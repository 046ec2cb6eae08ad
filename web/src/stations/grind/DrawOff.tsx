import { useState } from 'react';
import type { BatchView, StepRecord } from '@wunsch/contract';
import { Button } from '../../ui/Button.tsx';
import { Dialog } from '../../ui/Dialog.tsx';
import { Doubt } from '../../ui/Doubt.tsx';
import { Choice, TextField } from '../../ui/Field.tsx';
import { QuantityField } from '../../ui/QuantityField.tsx';
import { useWords } from '../../words/words.tsx';
import { useDoubt } from '../useDoubt.ts';
import { balanceOf, useWork } from '../work.ts';

/** What can be drawn off a grinder or conche. */
type Drawn = 'chocolate' | 'blocks' | 'liquor';

/** Drawing off: as chocolate to temper, cast as blocks to rest, or as plain liquor; what the sieve keeps is weighed too. */
export function DrawOff({
  view,
  step,
  handsOnMinutes,
  onClose,
}: {
  view: BatchView;
  step: StepRecord;
  handsOnMinutes: number;
  onClose: () => void;
}) {
  const words = useWords();
  const { t } = words;
  const work = useWork(view);
  const { inMg } = balanceOf(view, step.id);
  const [as, setAs] = useState<Drawn>('chocolate');
  const [massMg, setMass] = useState<number | null>(null);
  const [strainedMg, setStrained] = useState<number | null>(null);
  const [pieces, setPieces] = useState<number | null>(null);
  const [place, setPlace] = useState('');
  const [error, setError] = useState<string | null>(null);
  const doubt = useDoubt('grind');
  const doubted = massMg === null ? null : doubt(inMg, massMg + (strainedMg ?? 0));
  const draw = async () => {
    if (massMg === null) return;
    try {
      await work.finish(step, {
        made: [
          {
            material: as,
            massMg,
            ...(as === 'blocks' && pieces && { count: pieces }),
            ...(place.trim() && { place: place.trim() }),
          },
        ],
        lost: strainedMg ? [{ reason: 'strained', massMg: strainedMg }] : [],
        remainder: 'hold-up',
        handsOnMinutes,
      });
      onClose();
    } catch (failure) {
      setError(words.explain(failure));
    }
  };
  return (
    <Dialog
      open
      onClose={onClose}
      title={t('grind.draw-off')}
      description={t('grind.draw-off.hint', { mass: words.mass(inMg) })}
    >
      <form
        className="grid gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          void draw();
        }}
      >
        <Choice
          label={t('draw.as')}
          value={as}
          onChange={setAs}
          options={(['chocolate', 'blocks', 'liquor'] as const).map((k) => ({
            value: k,
            label: t(`draw.${k}`),
            note: t(`draw.${k}.note`),
          }))}
        />
        <QuantityField
          label={t('weight')}
          dimension="mass"
          value={massMg}
          onChange={setMass}
          min={1000}
          max={inMg}
          error={error}
          autoFocus
        />
        <QuantityField
          label={t('draw.strained')}
          dimension="mass"
          value={strainedMg}
          onChange={setStrained}
          min={0}
          max={inMg}
          optional
          hint={t('draw.strained.hint')}
        />
        {as === 'blocks' && (
          <div className="grid grid-cols-2 gap-2">
            <QuantityField
              label={t('draw.pieces')}
              dimension="count"
              value={pieces}
              onChange={setPieces}
              min={1}
              max={10_000}
              optional
            />
            <TextField
              label={t('lot.place')}
              value={place}
              onChange={(e) => setPlace(e.target.value)}
              maxLength={80}
              placeholder={t('rest.place.hint')}
            />
          </div>
        )}
        <Doubt>{doubted}</Doubt>
        <Button type="submit" look="main" big disabled={massMg === null}>
          {doubted && massMg !== null
            ? t('weight.doubt.sure', { mass: words.mass(massMg) })
            : t('grind.draw-off')}
        </Button>
      </form>
    </Dialog>
  );
}
