import { area as makeArea, line as makeLine } from 'd3-shape';
import { VERDICT_LIMITS, type FollowedBowl, type TriedFuture } from '@wunsch/core/temper';
import { useWords } from '../../words/words.tsx';
import { MARGIN, type BowlScale } from './bowlScale.ts';

/** The crystals of the bowl: stable ones as a filled range, unstable ones hatched on their own line, against the band a bowl is ready in. */
export function Crystals({
  scale,
  followed,
  future,
  now,
}: {
  scale: BowlScale;
  followed: FollowedBowl | null;
  future: TriedFuture | null;
  now: number | null;
}) {
  const { t } = useWords();
  const { x, lower, inner, lowerTop, lowerBottom } = scale;
  const right = MARGIN.left + inner.w;
  const [from, to] = (followed?.readyBetween ?? [VERDICT_LIMITS.ready, VERDICT_LIMITS.full]).map(
    (s) => s * 100,
  ) as [number, number];
  const crystals = followed?.crystals;
  const first = crystals ? firstMelted(crystals) : 0;
  const at = crystals ? [...crystals.minutes].map((m, k) => ({ m, k })).slice(first) : [];
  const band = (of: { low: Float64Array; high: Float64Array }) =>
    makeArea<{ m: number; k: number }>()
      .x((p) => x(p.m))
      .y0((p) => lower(of.low[p.k]! * 100))
      .y1((p) => lower(of.high[p.k]! * 100))(at) ?? '';
  const middle = (of: { middle: Float64Array }) =>
    makeLine<{ m: number; k: number }>(
      (p) => x(p.m),
      (p) => lower(of.middle[p.k]! * 100),
    )(at) ?? '';
  return (
    <g>
      <defs>
        <pattern
          id="unstable-hatch"
          width="5"
          height="5"
          patternUnits="userSpaceOnUse"
          patternTransform="rotate(45)"
        >
          <path d="M0 0V5" stroke="var(--bad)" strokeWidth="1.6" />
        </pattern>
        <clipPath id="bowl-lower">
          <rect x={MARGIN.left} y={lowerTop} width={inner.w} height={lowerBottom - lowerTop} />
        </clipPath>
      </defs>
      <rect
        x={MARGIN.left}
        y={lower(to)}
        width={inner.w}
        height={lower(from) - lower(to)}
        fill="var(--ok-tint)"
      />
      <text x={right - 4} y={lower(to) - 4} textAnchor="end" fontSize="12" fill="var(--ok)">
        {t('crystals.ready-band')}
      </text>
      {crystals && (
        <g clipPath="url(#bowl-lower)">
          {at.some(({ k }) => crystals.unstable.high[k]! > 0.001) && (
            <>
              <path d={band(crystals.unstable)} fill="url(#unstable-hatch)" fillOpacity="0.7" />
              <path d={middle(crystals.unstable)} fill="none" stroke="var(--bad)" strokeWidth="1.4" />
            </>
          )}
          <path d={band(crystals.stable)} fill="var(--violet-text)" fillOpacity="0.26" />
          <path d={middle(crystals.stable)} fill="none" stroke="var(--violet-text)" strokeWidth="2.2" />
          {future && (
            <path
              d={
                makeLine<number>(
                  (i) => x(future.seconds[i]! / 60),
                  (i) => lower(future.stable[i]! * 100),
                )(future.seconds.map((_, i) => i)) ?? ''
              }
              fill="none"
              stroke="var(--ink)"
              strokeWidth="1.4"
              strokeDasharray="2 3"
            />
          )}
        </g>
      )}
      {!crystals && now === null && (
        <text
          x={MARGIN.left + inner.w / 2}
          y={lowerTop + 26}
          textAnchor="middle"
          fontSize="12.5"
          fill="var(--ink-3)"
        >
          {t('crystals.none')}
        </text>
      )}
    </g>
  );
}

/** Where a bowl that came in solid has melted: its old crystals are no temper, and are not drawn. */
function firstMelted({ stable }: FollowedBowl['crystals']): number {
  if (stable.middle[0]! < 0.1) return 0;
  const at = stable.high.findIndex((s) => s < 0.002);
  return at < 0 ? stable.middle.length : at;
}
