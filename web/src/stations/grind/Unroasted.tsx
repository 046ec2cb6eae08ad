import { useMemo } from 'react';
import type { BatchView, StepRecord } from '@wunsch/contract';
import { GRINDER_BOUNDS, UNROASTED_CEILING_C } from '@wunsch/core/grind';
import { believable } from '@wunsch/core/readings';
import { Chip, Panel } from '../../ui/Panel.tsx';
import { useWords } from '../../words/words.tsx';
import { TakeTemperature } from '../TakeTemperature.tsx';
import { useLiveSeries } from '../useLiveSeries.ts';

/** For beans that were never roasted: the temperature ceiling is watched, by probe and by hand, and the missing kill step stated. */
export function Unroasted({ view, step }: { view: BatchView; step: StepRecord }) {
  const words = useWords();
  const { t } = words;
  const live = useLiveSeries(step.id);
  const probes = useMemo(
    () =>
      live
        .filter((s) => s.place === 'grinder')
        .map((s) =>
          believable(
            s.at.map((at, i) => ({ seconds: at / 1000, celsius: s.celsius[i]! })),
            GRINDER_BOUNDS,
          ),
        )
        .filter((readings) => readings.length > 0),
    [live],
  );
  const roast = view.flow.stations.find((s) => s.station === 'roast');
  const raw = roast?.state === 'skipped' && ['dry beans', 'wet beans', 'pods'].includes(view.lot.material);
  if (!raw) return null;
  const byHand = view.observations.flatMap((o) =>
    o.stepId === step.id && o.data.kind === 'temperature' && o.data.place === 'grinder'
      ? [o.data.celsius]
      : [],
  );
  const hottest = Math.max(...byHand, ...probes.flatMap((p) => p.map((r) => r.celsius)));
  // Of several probes the warmest place counts.
  const now = Math.max(...probes.map((p) => p.at(-1)!.celsius));
  const ceiling = words.temperature(UNROASTED_CEILING_C, 0);
  return (
    <Panel title={t('raw.title')}>
      <p className="mb-2">{t('raw.text', { ceiling })}</p>
      {probes.length > 0 && (
        <p className="num mb-2 text-[20px]">
          {words.temperature(now)}{' '}
          <span className="text-[13px] text-ink-3">
            {t('raw.hottest', { celsius: words.temperature(hottest) })}
          </span>
        </p>
      )}
      {hottest > UNROASTED_CEILING_C && (
        <p role="alert">
          <Chip tone="bad">{t('raw.over', { celsius: words.temperature(hottest), ceiling })}</Chip>
        </p>
      )}
      <TakeTemperature
        view={view}
        step={step}
        place="grinder"
        label={t('raw.mass')}
        min={5}
        max={120}
        className="mt-2"
      />
    </Panel>
  );
}
