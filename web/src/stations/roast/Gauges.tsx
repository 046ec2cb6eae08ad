import type { RoastAimDetails } from '@wunsch/contract';
import type { Gauge, RoastForecast } from '@wunsch/core/roast';
import { useWords } from '../../words/words.tsx';

/** One slim gauge: filled to now, dotted to the predicted end and the band it lies in, a box where the aim lies. */
function OneGauge({
  name,
  value,
  gauge,
  scale,
  aim,
  advisory = false,
  write,
}: {
  name: string;
  value: string;
  gauge: Gauge;
  scale: readonly [number, number];
  aim: readonly [number | null, number | null] | null;
  advisory?: boolean;
  write: (v: number) => string;
}) {
  const { t } = useWords();
  const at = (v: number) => Math.min(100, Math.max(0, ((v - scale[0]) / (scale[1] - scale[0])) * 100));
  /** From one place on the gauge to another, whichever lies further left. */
  const span = (from: number, to: number) => ({
    left: `${Math.min(from, to)}%`,
    width: `${Math.abs(to - from)}%`,
  });
  const end = gauge.end;
  const low = aim?.[0] ?? null;
  const high = aim?.[1] ?? null;
  const inside = aim !== null && (low === null || end.median >= low) && (high === null || end.median <= high);
  const [a, b] = [low === null ? 0 : at(low), high === null ? 100 : at(high)];
  const now = at(gauge.now.median);
  const aimWords =
    low !== null && high !== null
      ? t('gauge.aim.between', { low: write(low), high: write(high) })
      : low !== null
        ? t('gauge.aim.least', { low: write(low) })
        : high !== null
          ? t('gauge.aim.most', { high: write(high) })
          : '';
  return (
    <div className="bg-panel p-3">
      <div className="flex items-baseline justify-between gap-2">
        <span className="text-[13px] font-medium">{name}</span>
        <span className="num text-[20px]">{value}</span>
      </div>
      <div className="relative my-2 h-2 bg-panel-2" aria-hidden="true">
        {aim && (
          <span
            className={`absolute -inset-y-1 border ${advisory ? 'border-dashed border-ink-3' : 'border-ok bg-ok-tint'}`}
            style={span(a, b)}
          />
        )}
        <span className="absolute inset-y-0 left-0 bg-violet-2" style={{ width: `${now}%` }} />
        <span
          className="absolute top-1/2 border-t-2 border-dotted border-violet-text"
          style={span(now, at(end.median))}
        />
        <span
          data-range
          className="absolute inset-y-0 bg-violet-text/35"
          style={span(at(end.low), at(end.high))}
        />
        <span className="absolute -inset-y-1 w-[2px] bg-violet-text" style={{ left: `${now}%` }} />
        <span
          className="absolute -top-0.5 size-3 -translate-x-1/2 rounded-full border-2 border-violet-text bg-panel"
          style={{ left: `${at(end.median)}%` }}
        />
      </div>
      <p className="text-[12.5px]">
        {aim && !advisory && (
          <span className={inside ? 'font-semibold text-ok' : 'font-semibold text-bad'}>
            {inside ? '✓ ' : '▲ '}
          </span>
        )}
        {advisory && <strong>{t('gauge.advisory')} </strong>}
        <span className={aim && !advisory ? (inside ? 'text-ok' : 'text-bad') : 'text-ink-2'}>
          {t('gauge.ends', { low: write(end.low), high: write(end.high) })}
        </span>
        {aimWords && <span className="text-ink-3">, {aimWords}</span>}
      </p>
    </div>
  );
}

/** The place of the gauges while the model still reckons: the buttons below must not move under a hand. */
export function GaugesToCome() {
  const { t } = useWords();
  return (
    <div
      className="panel grid gap-px overflow-hidden bg-line text-ink-3 sm:grid-cols-2 xl:grid-cols-4"
      aria-label={t('gauges')}
      aria-busy="true"
      role="group"
    >
      {(['gauge.moisture', 'gauge.acid', 'roast.dose', 'gauge.kill'] as const).map((name) => (
        <div key={name} className="bg-panel p-3">
          <div className="flex items-baseline justify-between gap-2">
            <span className="text-[13px] font-medium">{t(name)}</span>
            <span className="num text-[20px]">…</span>
          </div>
          <div className="my-2 h-2 bg-panel-2" />
          {/* As high as two lines of what will stand here. */}
          <p className="h-[38px] text-[12.5px]" />
        </div>
      ))}
    </div>
  );
}

/** What goes on inside the beans by the model: moisture, acid, dose and kill step, now and at the end. */
export function Gauges({ forecast, aim }: { forecast: RoastForecast; aim: RoastAimDetails | undefined }) {
  const words = useWords();
  const { t } = words;
  const { moisture, acid, dose, logReduction } = forecast;
  const gone: Gauge = {
    now: { median: 1 - acid.now.median, low: 1 - acid.now.high, high: 1 - acid.now.low },
    end: { median: 1 - acid.end.median, low: 1 - acid.end.high, high: 1 - acid.end.low },
  };
  const doseAim = aim?.doseMinutes ?? null;
  return (
    <div
      className="panel grid gap-px overflow-hidden bg-line sm:grid-cols-2 xl:grid-cols-4"
      aria-label={t('gauges')}
      role="group"
    >
      <OneGauge
        name={t('gauge.moisture')}
        value={`${words.number(moisture.now.median, 1)} %`}
        gauge={moisture}
        scale={[8, 0]}
        aim={
          aim && (aim.moistureLow !== null || aim.moistureHigh !== null)
            ? [aim.moistureLow, aim.moistureHigh]
            : null
        }
        write={(v) => words.number(v, 1)}
      />
      <OneGauge
        name={t('gauge.acid')}
        value={words.percent(gone.now.median, 0)}
        gauge={gone}
        scale={[0, 1]}
        aim={aim?.acidGone != null ? [aim.acidGone, null] : null}
        write={(v) => words.percent(v, 0)}
      />
      <OneGauge
        name={t('roast.dose')}
        value={`${words.number(dose.now.median, 1)} ${t('unit.min')}`}
        gauge={dose}
        scale={[0, Math.max(doseAim ? doseAim * 1.5 : 0, dose.end.high * 1.1, 5)]}
        aim={doseAim ? [doseAim * 0.9, doseAim * 1.1] : null}
        write={(v) => words.number(v, 1)}
      />
      <OneGauge
        name={t('gauge.kill')}
        value={`${words.number(logReduction.now.median, 1)} log`}
        gauge={logReduction}
        scale={[0, Math.max(8, logReduction.end.high)]}
        aim={aim?.logReductions != null ? [aim.logReductions, null] : null}
        advisory
        write={(v) => words.number(v, 1)}
      />
    </div>
  );
}
