import { Link } from 'react-router';
import type { ForecastBook } from '@wunsch/contract';
import { coverageOf, FORECASTS_NEEDED } from '@wunsch/core/calibration';
import { useRead } from '../../shell/door.tsx';
import { EmptyState, Panel } from '../../ui/Panel.tsx';
import { useWords, type Words } from '../../words/words.tsx';
import { Surprises } from './Surprises.tsx';
import { Warnings } from './Warnings.tsx';
import { useRoastsForetold } from './useRoastsForetold.ts';

/** How good the forecasts have been in this workshop: each made again from what was known before, and held against what came. */
export default function ForecastsPage() {
  const words = useWords();
  const { t } = words;
  const { data } = useRead<ForecastBook>('/api/forecasts');
  const roasts = useRoastsForetold();
  if (!data) return <p className="p-4 text-ink-3">{t('loading')}</p>;
  const kinds = roasts.kind ? [...data, roasts.kind] : data;
  return (
    <div className="mx-auto grid max-w-5xl gap-2 p-3 sm:px-4">
      <p>
        <Link
          to="/ledger?sheet=yields"
          className="inline-flex min-h-11 items-center underline underline-offset-4"
        >
          {t('yields')}
        </Link>
      </p>
      <h1 className="text-[26px]">{t('forecasts')}</h1>
      {kinds.length === 0 && roasts.left === 0 ? (
        <EmptyState title={t('forecasts.none')}>{t('forecasts.none.text')}</EmptyState>
      ) : (
        <>
          <p className="mb-1 max-w-[76ch] text-[13.5px] text-ink-2">{t('forecasts.text')}</p>
          {kinds.map((kind) => (
            <Kind key={`${kind.kind} ${kind.station}`} kind={kind} />
          ))}
          {roasts.left > 0 && (
            <p className="text-[13.5px] text-ink-3" role="status">
              {t('forecasts.roast.left', { n: roasts.left })}
            </p>
          )}
        </>
      )}
      <Warnings />
    </div>
  );
}

/** The size of a miss in the unit of its kind. */
function sizeOf(kind: ForecastBook[number]['kind'], value: number, words: Words): string {
  const { t } = words;
  switch (kind) {
    case 'yield':
      return t('forecasts.points', { n: words.number(100 * value, 1) });
    case 'drying':
      return t('forecasts.points', { n: words.number(value, 1) });
    case 'grit':
      return `${words.number(value, 1)} µm`;
    case 'sourness':
      return t('forecasts.score', { n: words.number(value, 1) });
    case 'roast':
      return `${words.number(words.kelvin(value), 1)} ${words.temperatureUnit}`;
  }
}

function Kind({ kind }: { kind: ForecastBook[number] }) {
  const words = useWords();
  const { t } = words;
  const coverage = coverageOf(kind.forecasts);
  if (!coverage) return null;
  const name = t(`forecasts.${kind.kind}`, { station: t(`station.${kind.station}`) });
  const percent = (share: number) => words.number(100 * share, 0);
  const size = (value: number) => sizeOf(kind.kind, value, words);
  const middle = size(Math.abs(coverage.bias));
  // What rounds to nothing has no sign.
  const bias = middle === size(0) ? middle : `${coverage.bias < 0 ? '−' : '+'}${middle}`;
  return (
    <Panel title={name} aside={t('forecasts.n', { n: coverage.n })}>
      <div className="grid items-center gap-x-6 gap-y-2 lg:grid-cols-[1fr_1.3fr]">
        <div>
          <p className="text-[16px] font-semibold">
            {t(`forecasts.word.${coverage.word}`, { n: FORECASTS_NEEDED })}
          </p>
          <p className="mt-1 text-[13.5px]">
            {t('forecasts.held', { held: coverage.held, n: coverage.n, percent: percent(coverage.share) })}
          </p>
          <p className="text-[13px] text-ink-3">
            {t('forecasts.sure', { low: percent(coverage.low), high: percent(coverage.high) })}
          </p>
          <p className="mt-1 text-[13px] text-ink-2">
            {t('forecasts.off', { off: size(coverage.off), bias })}
          </p>
        </div>
        <Surprises
          forecasts={kind.forecasts}
          label={t('forecasts.alt', { name, held: coverage.held, n: coverage.n })}
        />
      </div>
    </Panel>
  );
}
