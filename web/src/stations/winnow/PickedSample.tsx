import { useState } from 'react';
import type { BatchView, StepRecord } from '@wunsch/contract';
import { judgeSample, HUSK_LIMIT, type CheckVerdict } from '@wunsch/core/winnow';
import { Button } from '../../ui/Button.tsx';
import { Choice } from '../../ui/Field.tsx';
import { Chip, Panel } from '../../ui/Panel.tsx';
import { QuantityField } from '../../ui/QuantityField.tsx';
import { useDraft } from '../../shell/useDraft.ts';
import { useWords, type Words } from '../../words/words.tsx';
import { useWork } from '../work.ts';

/** Nib in the husk that a maker usually accepts, share by mass. */
const NIB_LIMIT = 0.05;

const limitOf = (of: 'husk' | 'nib') => (of === 'husk' ? HUSK_LIMIT : NIB_LIMIT);

/** The verdict on a picked sample in words: share, interval, chance, and what would settle it. */
export function Verdict({ of, verdict }: { of: 'husk' | 'nib'; verdict: CheckVerdict }) {
  const words = useWords();
  const { t } = words;
  const percent = (x: number) => words.percent(x, 2);
  return (
    <div>
      <p className="num text-[18px]" role="status">
        {t(`picked.share.${of}`, { percent: percent(verdict.share) })}{' '}
        <span className="text-[14px]">
          [{percent(verdict.low)} – {percent(verdict.high)}]
        </span>
      </p>
      <p className="mt-1 flex flex-wrap items-center gap-2">
        <Chip tone={verdict.verdict === 'within' ? 'ok' : verdict.verdict === 'over' ? 'bad' : 'plain'}>
          {t(`picked.${verdict.verdict}`, { limit: percent(verdict.limit) })}
        </Chip>
        <span className="text-[12.5px] text-ink-2">
          {t('picked.chance', { percent: words.chance(verdict.chanceWithin) })}{' '}
          {verdict.verdict === 'open' && settle(verdict, words)}
        </span>
      </p>
    </div>
  );
}

const settle = (v: CheckVerdict, words: Words) =>
  v.sampleToSettleG === null
    ? words.t('picked.never')
    : words.t('picked.settle', { mass: words.mass(v.sampleToSettleG * 1000) });

/** Husk picked out of nibs, or nib out of husk, from a weighed sample; the verdict follows while typing. */
export function PickedSample({ view, step }: { view: BatchView; step: StepRecord }) {
  const words = useWords();
  const { t } = words;
  const work = useWork(view);
  const [of, setOf] = useState<'husk' | 'nib'>('husk');
  const { draft, change, keep } = useDraft<Record<'foundMg' | 'sampleMg' | 'pieces', number | null>>({
    foundMg: null,
    sampleMg: null,
    pieces: null,
  });
  const { foundMg, sampleMg, pieces } = draft;
  const usable = foundMg !== null && sampleMg !== null && sampleMg > 0 && foundMg <= sampleMg;
  const verdict = usable
    ? judgeSample({
        of,
        foundG: foundMg / 1000,
        sampleG: sampleMg / 1000,
        pieces: foundMg > 0 ? pieces : null,
        limit: limitOf(of),
      })
    : null;
  const earlier = view.observations.flatMap((o) =>
    o.stepId === step.id && o.data.kind === 'picked' ? [{ ...o, data: o.data }] : [],
  );
  return (
    <Panel title={t('picked.title')} aside={t('picked.hint')}>
      <form
        className="grid gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          if (!verdict) return;
          void keep(() =>
            work.observe(
              step.id,
              { kind: 'picked', of, foundMg, sampleMg, pieces: foundMg! > 0 ? pieces : null },
              t('done.picked', { what: t(`picked.of.${of}`), percent: words.percent(verdict.share, 2) }),
            ),
          );
        }}
      >
        <Choice
          label={t('picked.title')}
          value={of}
          onChange={setOf}
          options={(['husk', 'nib'] as const).map((k) => ({ value: k, label: t(`picked.of.${k}`) }))}
        />
        <div className="grid grid-cols-2 items-end gap-2 sm:grid-cols-4">
          <QuantityField
            label={t('picked.sample')}
            dimension="mass"
            unit={words.fineUnit}
            value={sampleMg}
            onChange={(next) => change({ sampleMg: next })}
            min={100}
            max={1e9}
            optional
          />
          <QuantityField
            label={t(`picked.found.${of}`)}
            dimension="mass"
            unit={words.fineUnit}
            value={foundMg}
            onChange={(next) => change({ foundMg: next })}
            min={0}
            max={1e9}
            optional
            error={foundMg !== null && sampleMg !== null && foundMg > sampleMg ? t('picked.more') : null}
          />
          <QuantityField
            label={t('picked.pieces')}
            dimension="count"
            value={pieces}
            onChange={(next) => change({ pieces: next })}
            min={1}
            max={100_000}
            optional
          />
          <Button type="submit" look="main" disabled={!verdict}>
            {t('picked.keep')}
          </Button>
        </div>
        {verdict && <Verdict of={of} verdict={verdict} />}
      </form>
      {earlier.length > 0 && (
        <ul className="mt-3 grid gap-2 border-t border-line pt-2">
          {earlier.map((o) => (
            <li key={o.id}>
              <span className="text-[12px] text-ink-3">
                {words.when(o.at)} {o.by} · {t(`picked.of.${o.data.of}`)}, {words.mass(o.data.sampleMg)}
              </span>
              <Verdict
                of={o.data.of}
                verdict={judgeSample({
                  of: o.data.of,
                  foundG: o.data.foundMg / 1000,
                  sampleG: o.data.sampleMg / 1000,
                  pieces: o.data.pieces,
                  limit: limitOf(o.data.of),
                })}
              />
            </li>
          ))}
        </ul>
      )}
    </Panel>
  );
}
