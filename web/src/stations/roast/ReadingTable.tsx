import type { BeanReading, RoastForecast } from '@wunsch/core/roast';
import { useWords } from '../../words/words.tsx';

/** The same as numbers, minute by minute. */
export function ReadingTable({
  bean,
  oven,
  forecast,
  label,
}: {
  bean: readonly BeanReading[];
  oven: readonly BeanReading[];
  forecast: RoastForecast | null;
  label: string;
}) {
  const words = useWords();
  const { t } = words;
  const last = Math.max(
    bean.at(-1)?.seconds ?? 0,
    oven.at(-1)?.seconds ?? 0,
    forecast?.line.at(-1)?.seconds ?? 0,
  );
  const minutes = Array.from({ length: Math.min(240, Math.floor(last / 60) + 1) }, (_, i) => i);
  const near = (list: readonly BeanReading[], m: number) =>
    list.find((r) => r.seconds >= m * 60 - 30 && r.seconds < m * 60 + 30)?.celsius;
  const show = (v: number | undefined) => (v === undefined ? '' : words.temperature(v));
  return (
    <details className="text-[12.5px]">
      <summary className="min-h-8 cursor-pointer text-ink-3">{t('as-table')}</summary>
      <div className="max-h-64 overflow-auto" tabIndex={0} role="region" aria-label={label}>
        <table className="w-full text-left">
          <thead>
            <tr>
              <th scope="col">{t('minutes')}</th>
              <th scope="col">{t('roast.series.bean')}</th>
              <th scope="col">{t('roast.series.oven')}</th>
              <th scope="col">{t('roast.series.expected')}</th>
            </tr>
          </thead>
          <tbody>
            {minutes.map((m) => {
              const f = forecast?.line.find((p) => p.seconds >= m * 60 - 15);
              return (
                <tr key={m}>
                  <td>{m}</td>
                  <td>{show(near(bean, m))}</td>
                  <td>{show(near(oven, m))}</td>
                  <td>{f ? `${words.temperature(f.low, 0)} – ${words.temperature(f.high, 0)}` : ''}</td>
                </tr>
              );
            })}
          </tbody>
        </table>
      </div>
    </details>
  );
}
