import { sharesInSteps } from '@wunsch/core/numerics';
import type { FollowedBowl, TemperVerdict, TriedFuture } from '@wunsch/core/temper';
import { Panel } from '../../ui/Panel.tsx';
import { useWords } from '../../words/words.tsx';

const VERDICTS: readonly TemperVerdict[] = ['good', 'under', 'lost', 'unstable', 'thick'];

/** Odds are said in steps of this; those below it are not worth a word. */
const STEP = 0.05;

/** How the crystals stand, what pouring now would give, and futures to try; everything estimated. */
export function CrystalPanel({
  followed,
  tried,
  onTry,
}: {
  followed: FollowedBowl;
  tried: TriedFuture['name'] | null;
  onTry: (name: TriedFuture['name'] | null) => void;
}) {
  const words = useWords();
  const { t } = words;
  const percent = (share: number) => words.number(share * 100, share < 0.001 ? 2 : 1);
  const range = (r: { low: number; high: number }) =>
    r.high < 5e-4 ? '0 %' : `${percent(r.low)}–${percent(r.high)} %`;
  const odds = VERDICTS.map((v) => ({ v, share: followed.pourNow[v] }))
    .filter((o) => o.share >= STEP)
    .sort((a, b) => b.share - a.share);
  const steps = sharesInSteps(
    odds.map((o) => o.share),
    STEP,
  );
  // A model of a bowl is never certain.
  const oddsText = (share: number, of: number) =>
    share > 1 - STEP
      ? t('crystals.over', { percent: words.percent(1 - STEP, 0) })
      : words.percent(of * STEP, 0);
  const clock = (seconds: number) =>
    words.duration(Math.max(60, Math.round((seconds - followed.at) / 60) * 60));
  return (
    <Panel title={t('crystals')} aside={t('estimated')}>
      <dl className="grid grid-cols-2 gap-x-4 gap-y-1 text-[13.5px]">
        <dt className="text-ink-2">{t('crystals.stable')}</dt>
        <dd className="num text-right">{range(followed.stableNow)}</dd>
        <dt className="text-ink-2">{t('crystals.unstable')}</dt>
        <dd className="num text-right">{range(followed.unstableNow)}</dd>
        {followed.enoughAt && (
          <>
            <dt className="text-ink-2">{t('crystals.enough')}</dt>
            <dd className="num text-right">{t('crystals.in', { time: clock(followed.enoughAt.middle) })}</dd>
          </>
        )}
        {followed.thickAt && followed.word !== 'not-yet' && (
          <>
            <dt className="text-ink-2">{t('crystals.thick')}</dt>
            <dd className="num text-right">
              {t('crystals.between', {
                low: clock(followed.thickAt.low),
                high: clock(followed.thickAt.high),
              })}
            </dd>
          </>
        )}
      </dl>
      {followed.phase !== 'melting' && (
        <>
          <h3 className="mt-3 text-[13px] text-ink-3">{t('crystals.pour-now')}</h3>
          <div className="mt-1 flex h-3 overflow-hidden rounded-[2px]" aria-hidden="true">
            {odds.map(({ v, share }) => (
              <span
                key={v}
                style={{
                  flexGrow: share,
                  background: v === 'good' ? 'var(--ok)' : v === 'thick' ? 'var(--slate)' : 'var(--bad)',
                }}
                className="border-r border-panel"
              />
            ))}
          </div>
          <p className="mt-1 text-[13.5px]">
            {odds.map(({ v, share }, i) => `${t(`verdict.${v}`)} ${oddsText(share, steps[i]!)}`).join(', ')}
          </p>
        </>
      )}
      {followed.futures.length > 0 && (
        <>
          <h3 className="mt-3 text-[13px] text-ink-3">{t('futures')}</h3>
          <div className="mt-1 grid gap-1">
            {followed.futures.map((f) => (
              <button
                key={f.name}
                type="button"
                aria-pressed={tried === f.name}
                onClick={() => onTry(tried === f.name ? null : f.name)}
                className={`flex min-h-11 items-center justify-between gap-3 rounded border px-3 text-left text-[13.5px] ${tried === f.name ? 'border-violet bg-violet-tint' : 'border-edge bg-panel hover:bg-panel-2'}`}
              >
                <span>{t(`future.${f.name}`)}</span>
                <span className={`font-semibold ${f.verdict === 'good' ? 'text-ok' : 'text-bad'}`}>
                  {t(`verdict.${f.verdict}`)}
                </span>
              </button>
            ))}
          </div>
        </>
      )}
    </Panel>
  );
}
