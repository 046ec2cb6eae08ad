import type { AssessorUse } from '@wunsch/core/taste';
import { useWords } from '../../../words/words.tsx';

/** How each used the scale: the range, and how alike two cards of the same bar were. Told kindly. */
export function ScaleUse({ of }: { of: readonly AssessorUse[] }) {
  const words = useWords();
  const { t } = words;
  const percent = (score: number) => `${score * 10}%`;
  return (
    <>
      <ul>
        {of.map((a) => (
          <li
            key={a.assessor}
            className="grid grid-cols-[72px_1fr] items-center gap-x-3 border-b border-line py-1.5 text-[13px] sm:grid-cols-[72px_minmax(0,1fr)_minmax(0,1.1fr)]"
          >
            <span className="truncate font-semibold">{a.assessor}</span>
            <span
              className="relative block h-4"
              role="img"
              aria-label={`${words.number(a.low, 1)}–${words.number(a.high, 1)}`}
            >
              <span className="absolute inset-x-0 top-1.5 block h-px bg-line-2" />
              <span
                className="absolute top-0 block h-1.5 bg-(--violet-2)"
                style={{ left: percent(a.low), width: `max(3px, ${percent(a.high - a.low)})`, top: 3 }}
              />
              {a.repeat !== null && (
                <span
                  className="absolute block h-[3px] bg-ink-2"
                  style={{
                    left: percent(Math.max(0, (a.low + a.high) / 2 - a.repeat / 2)),
                    width: `max(2px, ${percent(Math.min(10, a.repeat))})`,
                    top: 12,
                  }}
                />
              )}
            </span>
            <span className="col-span-2 text-ink-2 sm:col-span-1">
              {t(`panel.use.${a.word}`)}
              {a.repeat !== null && (
                <span className="block text-[12px] text-ink-3">
                  {t('panel.use.again', { sd: words.number(a.repeat, 1) })}
                </span>
              )}
            </span>
          </li>
        ))}
      </ul>
      <p className="mt-2 text-[12.5px] text-ink-3">{t('panel.results.scale.note')}</p>
    </>
  );
}
