import { NavLink } from 'react-router';
import { useEffect, useRef } from 'react';
import { STATIONS, type Station } from '@wunsch/core/ledger';
import type { BenchView } from '@wunsch/contract';
import { useWords } from '../words/words.tsx';
import { Glyph, STAGE, Wordmark } from './glyphs.tsx';

/** What is at a station now, in a few characters. A chip beats a count. */
function StationState({ station, line }: { station: Station; line: BenchView['line'][number] | undefined }) {
  const { t } = useWords();
  if (!line) return <span className="text-ink-3">…</span>;
  if (line.due)
    return (
      <span className="rounded-[3px] bg-signal px-1.5 font-semibold text-on-signal">{t('line.due')}</span>
    );
  if (line.running > 0) {
    return (
      <span className="font-semibold text-ink">
        <span
          aria-hidden="true"
          className="mr-1 inline-block size-[7px] rounded-full bg-violet-text align-middle"
        />
        {t('line.running', { n: line.running })}
      </span>
    );
  }
  if (line.onHold > 0) return <span className="text-ink-2">{t('line.on-hold', { n: line.onHold })}</span>;
  if (line.waiting > 0)
    return (
      <span className="text-ink-2">
        {t(station === 'beans' ? 'line.lots' : 'line.waiting', { n: line.waiting })}
      </span>
    );
  return <span className="text-ink-3">—</span>;
}

/** The line: the stations in the order of the work. It is the way around and the state of the workshop in one. */
export function Line({ bench, children }: { bench: BenchView | undefined; children: React.ReactNode }) {
  const { t, language } = useWords();
  // German names are long: in the narrow columns of a wide screen they have a row of their own.
  const isLong = language === 'de';
  const strip = useRef<HTMLElement>(null);
  useEffect(() => {
    strip.current
      ?.querySelector('[aria-current="page"]')
      ?.scrollIntoView({ block: 'nearest', inline: 'center' });
  });
  return (
    <header className="border-b border-line-2 bg-panel xl:line-grid">
      <div className="flex items-center justify-between xl:contents">
        <NavLink
          to="/"
          end
          className={({ isActive }) =>
            `flex h-[56px] items-center border-b-[6px] px-4 xl:h-[72px] ${isActive ? 'border-violet-text' : 'border-transparent'}`
          }
          aria-label={t('bench')}
        >
          <Wordmark />
        </NavLink>
        <div className="flex items-center xl:hidden">{children}</div>
      </div>
      <nav
        ref={strip}
        aria-label={t('line')}
        className="flex overflow-x-auto border-t border-line xl:col-span-9 xl:grid xl:grid-cols-subgrid xl:border-0"
      >
        {STATIONS.map((station, i) => (
          <NavLink
            key={station}
            to={`/${station}`}
            aria-keyshortcuts={String(i + 1)}
            className={({ isActive }) =>
              `relative flex h-[64px] shrink-0 flex-col justify-center border-l border-line px-2 xl:h-[72px] xl:min-w-0 ${isLong ? 'min-w-[118px] xl:px-1.5' : 'min-w-[96px]'} ${isActive ? 'bg-paper shadow-[inset_0_3px_0_var(--violet-text)]' : 'hover:bg-panel-2'}`
            }
          >
            {({ isActive }) => (
              <>
                <span className="flex items-center gap-1 font-head text-[13px] font-bold tracking-tight">
                  <span className={isLong ? 'xl:hidden' : ''}>
                    <Glyph station={station} size={19} />
                  </span>
                  <span className="truncate">{t(`station.${station}`)}</span>
                </span>
                <span className="mt-0.5 flex items-center gap-1 text-[12px]">
                  <span className={isLong ? 'hidden xl:block' : 'hidden'}>
                    <Glyph station={station} size={16} />
                  </span>
                  <span className="truncate">
                    <StationState station={station} line={bench?.line.find((l) => l.station === station)} />
                  </span>
                </span>
                <span
                  aria-hidden="true"
                  className="absolute inset-x-0 bottom-0"
                  style={{ height: isActive ? 10 : 6, background: STAGE[station].fill }}
                />
              </>
            )}
          </NavLink>
        ))}
      </nav>
      <div className="hidden items-center justify-end border-l border-line pr-2 xl:flex">{children}</div>
    </header>
  );
}
