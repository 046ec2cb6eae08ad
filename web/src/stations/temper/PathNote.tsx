import { useWords } from '../../words/words.tsx';
import type { PathHere } from './usePath.ts';

/** Where a bowl's path comes from, and whether the lot's own drifts. */
export function PathNote({ from, own }: PathHere) {
  const words = useWords();
  const { t } = words;
  return (
    <p className="mt-1 text-[12.5px] text-ink-3" data-testid="path-note">
      {from === 'own' ? t('path.own', { n: own!.bowls }) : t(`path.${from}`)}
      {own?.driftC != null && (
        <strong className="ml-1 text-bad">
          ▲{' '}
          {t(own.driftC > 0 ? 'path.drift.warmer' : 'path.drift.cooler', {
            by: words.number(words.kelvin(Math.abs(own.driftC)), 1),
            unit: words.temperatureUnit,
          })}
        </strong>
      )}
    </p>
  );
}
