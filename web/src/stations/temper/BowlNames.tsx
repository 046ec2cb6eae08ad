import { useWords } from '../../words/words.tsx';
import type { BowlChartProps } from './BowlChart.tsx';
import { MARGIN, type BowlScale } from './bowlScale.ts';

/** Text with a rim in the ground's colour, kept inside the plot. */
export function Name({ x, y, width, children }: { x: number; y: number; width: number; children: string }) {
  const room = children.length * 6.6;
  return (
    <text
      x={Math.max(MARGIN.left + 2, Math.min(x, width - MARGIN.right - room))}
      y={y}
      fontSize="12.5"
      fill="var(--ink-2)"
      stroke="var(--panel)"
      strokeWidth="4"
      strokeLinejoin="round"
      style={{ paintOrder: 'stroke' }}
    >
      {children}
    </text>
  );
}

/** Names beside the lines instead of a legend. */
export function LineNames({
  readings,
  plan,
  earlier,
  nth,
  followed,
  path,
  windowed,
  scale,
}: BowlChartProps & { scale: BowlScale }) {
  const { t } = useWords();
  const { x, upper, lower, width, inner } = scale;
  const melted = plan[1];
  const half = (path.meltC + path.coolC) / 2;
  const rising = readings.find((r) => r.celsius >= half) ?? readings[0];
  const k = followed ? followed.crystals.minutes.findIndex((m) => m * 60 >= followed.at) : -1;
  const unstable = followed && k >= 0 ? followed.crystals.unstable.middle.slice(0, k + 1) : null;
  const most = unstable ? unstable.indexOf(Math.max(...unstable)) : -1;
  return (
    <g>
      {rising && readings.length > 2 ? (
        <Name x={x(rising.seconds / 60) + 12} y={upper(rising.celsius) + 4} width={width}>
          {t('temper.bowl.line')}
        </Name>
      ) : (
        melted && (
          <Name x={x(melted.minutes) + 8} y={upper(melted.celsius) - 8} width={width}>
            {t('temper.plan')}
          </Name>
        )
      )}
      {earlier.map((e, i) => {
        const later = e.slice(Math.floor(e.length / 2));
        const coldest = later.reduce((c, r) => (r.celsius < c.celsius ? r : c), e.at(-1)!);
        return (
          <Name key={i} x={x(coldest.seconds / 60) - 20} y={upper(coldest.celsius) + 15} width={width}>
            {t('temper.earlier', { n: nth - earlier.length + i })}
          </Name>
        );
      })}
      {windowed && (
        <Name
          x={MARGIN.left + inner.w - t('window').length * 7}
          y={upper(path.windowHighC) - 4}
          width={width}
        >
          {t('window')}
        </Name>
      )}
      {followed && k > 3 && (
        <Name x={x(followed.at / 60) - 52} y={lower(followed.stableNow.high * 100) - 8} width={width}>
          {t('crystals.stable')}
        </Name>
      )}
      {followed && unstable && most > 0 && unstable[most]! > 0.004 && (
        <Name
          x={x(followed.crystals.minutes[most]!) - 40}
          y={Math.max(scale.lowerTop + 10, lower(unstable[most]! * 100) - 6)}
          width={width}
        >
          {t('crystals.unstable')}
        </Name>
      )}
    </g>
  );
}
