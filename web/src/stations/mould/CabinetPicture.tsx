import { useWords } from '../../words/words.tsx';

/** Most places drawn one by one; larger cabinets are drawn by the shelf. */
const MOST = 400;

const GAP = 3;
const SIDE = { width: 20, height: 16 };

/** The cabinet place by place: set ones filled and with their sheen, setting ones hatched, free ones empty. */
export function CabinetPicture({
  places,
  standing,
  now,
}: {
  places: number;
  /** What stands in it, in order of going in: places taken, and when it should be set, epoch ms. */
  standing: readonly { places: number; dueAt: number }[];
  /** Epoch ms. */
  now: number;
}) {
  const { t, number } = useWords();
  const each = Math.ceil(places / MOST);
  const drawn = Math.ceil(places / each);
  const columns = Math.min(24, Math.max(8, Math.ceil(Math.sqrt(drawn * 2.6))));
  const rows = Math.ceil(drawn / columns);
  // In order of going in: the first rounds stand at the top.
  const states: ('set' | 'setting' | 'free')[] = standing
    .flatMap((r) =>
      Array.from({ length: Math.ceil(r.places / each) }, () =>
        r.dueAt <= now ? ('set' as const) : ('setting' as const),
      ),
    )
    .slice(0, drawn);
  while (states.length < drawn) states.push('free');
  const count = (state: string) => states.filter((s) => s === state).length * each;
  const width = columns * (SIDE.width + GAP) - GAP;
  const height = rows * (SIDE.height + GAP + 3) - GAP;
  const label = t('cabinet.drawn', {
    set: number(count('set')),
    setting: number(count('setting')),
    free: number(Math.max(0, places - count('set') - count('setting'))),
  });
  return (
    <figure>
      <svg viewBox={`0 0 ${width} ${height}`} className="w-full" role="img" aria-label={label}>
        <defs>
          <pattern
            id="setting"
            width="4"
            height="4"
            patternUnits="userSpaceOnUse"
            patternTransform="rotate(45)"
          >
            <rect width="4" height="4" fill="var(--panel-2)" />
            <rect width="1.6" height="4" fill="var(--ink-3)" />
          </pattern>
        </defs>
        {Array.from({ length: rows }, (_, r) => (
          <line
            key={r}
            x1={0}
            x2={width}
            y1={(r + 1) * (SIDE.height + GAP + 3) - GAP - 1}
            y2={(r + 1) * (SIDE.height + GAP + 3) - GAP - 1}
            stroke="var(--line)"
          />
        ))}
        {states.map((state, i) => {
          const x = (i % columns) * (SIDE.width + GAP);
          const y = Math.floor(i / columns) * (SIDE.height + GAP + 3);
          return (
            <g key={i}>
              <rect
                x={x + 0.6}
                y={y + 0.6}
                width={SIDE.width - 1.2}
                height={SIDE.height - 1.2}
                rx={2}
                fill={state === 'set' ? 'var(--stage-mould)' : state === 'setting' ? 'url(#setting)' : 'none'}
                stroke={state === 'free' ? 'var(--line-2)' : state === 'set' ? 'var(--edge)' : 'var(--ink-3)'}
                strokeWidth={1}
              />
              {state === 'set' && (
                <line
                  x1={x + 4}
                  x2={x + SIDE.width - 5}
                  y1={y + 4}
                  y2={y + 4}
                  stroke="#A795A3"
                  strokeWidth={1}
                />
              )}
            </g>
          );
        })}
      </svg>
      <figcaption className="mt-1 text-[12px] text-ink-3">{label}</figcaption>
    </figure>
  );
}
