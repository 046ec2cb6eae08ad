import type { ReactNode } from 'react';
import { beanExpectedAt, smoothedAt, type BeanReading, type RoastForecast } from '@wunsch/core/roast';
import { UNREAD } from '../../shell/unread.ts';
import { Chip } from '../../ui/Panel.tsx';
import { useWords } from '../../words/words.tsx';

/** Older than this a reading says when it was read, s. */
const OLD = 120;
const GONE = UNREAD / 1000;

/** Bean and oven now, pace, and when the beans should come out. */
export function Readouts({
  bean,
  isHot,
  oven,
  now,
  setC,
  stageName,
  corridor,
  forecast,
  end,
  startedAt,
}: {
  bean: readonly BeanReading[];
  /** The probe is hot from the oven and still comes down to the beans. */
  isHot: boolean;
  oven: readonly BeanReading[];
  now: number;
  setC: number | null;
  stageName: string | null;
  corridor: RoastForecast | null;
  forecast: RoastForecast | null;
  end: number | null;
  startedAt: number;
}) {
  const words = useWords();
  const { t } = words;
  const last = bean.at(-1);
  const smooth = last ? smoothedAt(bean.slice(-240), last.seconds) : null;
  // Measured alone it jumps with the probe's noise and with each stir.
  const pace = forecast && forecast.readings > 3 ? forecast.paceNow : (smooth?.pace ?? null);
  const isOlderThan = (age: number, reading: BeanReading | undefined) =>
    reading !== undefined && now - reading.seconds > age;
  const readAt = (reading: BeanReading) => (
    <span className="text-ink-3">
      {t('roast.read-at', {
        at: words.when(new Date(startedAt + reading.seconds * 1000).toISOString()),
      })}
    </span>
  );
  const air = oven.at(-1);
  const inside = corridor && last && !isOlderThan(GONE, last) ? beanExpectedAt(corridor, last.seconds) : null;
  const left = end === null ? null : end - now;
  const Box = ({
    name,
    aside,
    children,
    main = false,
  }: {
    name: ReactNode;
    aside?: ReactNode;
    children: ReactNode;
    main?: boolean;
  }) => (
    <div className={`p-3 ${main ? 'bg-violet text-white' : 'bg-panel'}`}>
      <div className="flex flex-wrap items-center justify-between gap-x-2 text-[12.5px]">
        <span className={main ? '' : 'text-ink-2'}>{name}</span>
        {aside}
      </div>
      <div className="num text-[32px] leading-tight tracking-tight">{children}</div>
    </div>
  );
  const unit = words.temperatureUnit;
  // So narrow a range that both its ends read the same is none.
  const [low, high] = [forecast?.pace.low ?? 0, forecast?.pace.high ?? 0].map((c) =>
    words.number(words.kelvin(c), 1),
  ) as [string, string];
  return (
    <div className="panel grid grid-cols-2 gap-px overflow-hidden bg-line lg:grid-cols-[1.1fr_.9fr_1.1fr_1.25fr]">
      <Box
        name={t('roast.bean')}
        aside={
          isHot ? (
            <Chip>{t('roast.probe-hot')}</Chip>
          ) : (
            last && (
              <>
                {inside && (
                  <Chip tone={last.celsius >= inside.low && last.celsius <= inside.high ? 'ok' : 'bad'}>
                    {t(
                      last.celsius > inside.high
                        ? 'corridor.above'
                        : last.celsius < inside.low
                          ? 'corridor.below'
                          : 'corridor.inside',
                    )}
                  </Chip>
                )}
                {isOlderThan(OLD, last) && readAt(last)}
              </>
            )
          )
        }
      >
        <span className={isOlderThan(GONE, last) ? 'text-ink-3' : ''}>
          {last ? words.temperature(smooth && bean.length > 8 ? smooth.celsius : last.celsius) : '—'}
        </span>
      </Box>
      <Box
        name={stageName ?? t('roast.series.oven-short')}
        aside={
          air && isOlderThan(OLD, air)
            ? readAt(air)
            : setC !== null && (
                <span className="text-ink-3">
                  {t('roast.set-to', { temperature: words.temperature(setC, 0) })}
                </span>
              )
        }
      >
        <span className={isOlderThan(GONE, air) ? 'text-ink-3' : ''}>
          {air ? words.temperature(air.celsius, 0) : '—'}
        </span>
      </Box>
      <Box
        name={t('roast.pace')}
        aside={
          // Of a probe that has fallen silent there is no pace to expect.
          forecast &&
          forecast.pace.high > forecast.pace.low && (
            <span className="text-ink-3">
              {low === high
                ? t('roast.pace.about', { pace: low, unit })
                : t('roast.pace.expected', { low, high, unit })}
            </span>
          )
        }
      >
        {pace !== null && bean.length > 3 && !isOlderThan(GONE, last) ? (
          <>
            {Math.abs(words.kelvin(pace)) < 0.05 ? '' : pace > 0 ? '+' : '−'}
            {words.number(Math.abs(words.kelvin(pace)), 1)}
            <span className="text-[14px]"> {words.temperatureUnit}/min</span>
          </>
        ) : (
          '—'
        )}
      </Box>
      <Box
        main
        name={t(left === null ? 'roast.since' : left > 0 ? 'roast.out-in' : 'roast.over')}
        aside={
          end !== null && (
            <span>
              {words.time(new Date(startedAt + end * 1000).toISOString())}
              {forecast && forecast.end.high - forecast.end.low > 2
                ? ` ± ${words.duration(Math.round((forecast.end.high - forecast.end.low) / 2))}`
                : ''}
            </span>
          )
        }
      >
        {words.duration(Math.round(left === null ? now : Math.abs(left)))}
      </Box>
    </div>
  );
}
