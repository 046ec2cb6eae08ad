import type { WindowGuard } from '@wunsch/core/temper';
import { Chip } from '../../ui/Panel.tsx';
import { useWords } from '../../words/words.tsx';

/** The ruler of the working window with the bowl's pointer. */
export function WindowRuler({ guard }: { guard: WindowGuard }) {
  const words = useWords();
  const { t } = words;
  const low = guard.lowC - 2;
  const high = guard.highC + 2;
  const y = (c: number) => 150 - ((Math.min(high, Math.max(low, c)) - low) / (high - low)) * 140;
  const marks = Array.from({ length: Math.round((high - low) * 10) + 1 }, (_, i) => low + i / 10);
  const tone = guard.state === 'inside' ? 'ok' : guard.state === 'on-the-way' ? 'plain' : 'bad';
  return (
    <div>
      <div className="flex items-center gap-4">
        <svg
          width="110"
          height="160"
          role="img"
          aria-label={t('window.text', {
            celsius: words.temperature(guard.celsius),
            low: words.temperature(guard.lowC),
            high: words.temperature(guard.highC),
          })}
        >
          <rect
            x="40"
            y={y(guard.highC)}
            width="26"
            height={y(guard.lowC) - y(guard.highC)}
            fill="var(--ok-tint)"
            stroke="var(--ok)"
          />
          {marks.map((c, i) => (
            <path
              key={i}
              d={`M40 ${y(c)}h${i % 10 === 0 ? -10 : i % 5 === 0 ? -7 : -4}`}
              stroke="var(--ink-3)"
            />
          ))}
          {[guard.lowC, guard.highC].map((c) => (
            <text key={c} x="26" y={y(c) + 4} textAnchor="end" fontSize="12" fill="var(--ink)">
              {words.number(words.degrees(c), 1)}
            </text>
          ))}
          <path d={`M42 ${y(guard.celsius)}l12 -8h34v16h-34z`} fill="var(--violet-text)" />
        </svg>
        <div>
          <div className="num text-[34px] leading-none">{words.temperature(guard.celsius)}</div>
          <p className="mt-2">
            <Chip tone={tone}>{t(`window.${guard.state}`)}</Chip>
          </p>
          <p className="mt-1 text-[13px] text-ink-2">
            {t(`window.${guard.state}.do`, {
              // A difference, not a temperature.
              kelvin: words.temperatureUnit === '°F' ? '4 °F' : '2 °C',
            })}
          </p>
          {guard.secondsLeft !== null && (
            <p className="text-[13px]">{t('window.left', { time: words.duration(guard.secondsLeft) })}</p>
          )}
        </div>
      </div>
    </div>
  );
}
