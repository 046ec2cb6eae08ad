import { useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { leadingNotes, STRIP_SECONDS, SWALLOW_SECONDS, type Stroke } from '@wunsch/core/taste';
import { useWidth } from '../../charts/useWidth.ts';
import { useWords } from '../../words/words.tsx';

const LANE = 26;

/** A stroke in hand. */
interface Held {
  index: number;
  grip: 'from' | 'middle' | 'to';
  /** Where it was taken, and where it lay then, s. */
  start: number;
  from: number;
  to: number;
}

/** Shortest stroke, s. */
const SHORTEST = 2;

/** The part of a stroke that is taken at a moment: its ends are wide enough for a finger, its middle never vanishes. */
function gripAt({ from, to }: Stroke, at: number): Held['grip'] {
  const end = Math.min(6, (to - from) / 3);
  return at < from + end ? 'from' : at > to - end ? 'to' : 'middle';
}

/** Where a stroke lies that was taken at `start` and is now held at `at`; it stays on the strip. */
function movedTo({ grip, start, from, to }: Held, at: number): [from: number, to: number] {
  const by = at - start;
  if (grip === 'from') return [Math.max(0, Math.min(to - SHORTEST, from + by)), to];
  if (grip === 'to') return [from, Math.min(STRIP_SECONDS, Math.max(from + SHORTEST, to + by))];
  const moved = Math.max(-from, Math.min(STRIP_SECONDS - to, by));
  return [from + moved, to + moved];
}

/**
 * The tasting strip: a time line from the first melt to a minute after swallowing. Notes lie on it as
 * strokes, thicker where stronger; the foot shows which one leads. With `onDraw` a stroke is laid by dragging over empty ground, with
 * `onMove` one that lies there is moved and stretched.
 */
export function TastingStrip({
  strokes,
  note = null,
  onDraw,
  onMove,
}: {
  strokes: readonly Stroke[];
  note?: string | null;
  onDraw?: (from: number, to: number) => void;
  /** A stroke taken by its middle moves, by an end stretches; arrow keys do the same, with Shift at its end. */
  onMove?: (index: number, from: number, to: number) => void;
}) {
  const words = useWords();
  const { t } = words;
  const svg = useRef<SVGSVGElement>(null);
  const { ref, width } = useWidth<HTMLDivElement>(720);
  const x = (seconds: number) => (seconds / STRIP_SECONDS) * width;
  const ticks = width < 480 ? [0, 60, 120] : [0, 20, 40, 60, 80, 100, 120];
  const [drag, setDrag] = useState<{ from: number; to: number } | null>(null);
  const [held, setHeld] = useState<Held | null>(null);
  const lanes = Math.max(3, strokes.length + (onDraw ? 1 : 0));
  const height = lanes * LANE + 46;
  const at = (event: PointerEvent) => {
    const box = svg.current!.getBoundingClientRect();
    return Math.max(
      0,
      Math.min(STRIP_SECONDS, Math.round(((event.clientX - box.left) / box.width) * STRIP_SECONDS)),
    );
  };
  const leads = leadingNotes(strokes);
  const shades = [
    'var(--stage-taste)',
    'var(--stage-winnow)',
    'var(--stage-sort)',
    'var(--stage-roast)',
    'var(--stage-recipe)',
    'var(--slate)',
  ];
  const shade = (n: string | null) =>
    shades[Math.max(0, [...new Set(strokes.map((s) => s.note))].indexOf(n ?? '')) % shades.length]!;
  return (
    <div ref={ref} className="min-w-0 overflow-hidden">
      <svg
        ref={svg}
        width={width}
        height={height}
        className={`${onDraw && note ? 'cursor-crosshair touch-none' : ''}`}
        role={onMove ? 'group' : 'img'}
        aria-label={t('strip.text', {
          notes:
            strokes.map((s) => `${words.word('note', s.note)} ${s.from}–${s.to} s`).join(', ') ||
            t('strip.empty'),
        })}
        onPointerDown={(e) => {
          if (!onDraw || !note) return;
          e.currentTarget.setPointerCapture(e.pointerId);
          setDrag({ from: at(e), to: at(e) });
        }}
        onPointerMove={(e) => {
          if (held && onMove) onMove(held.index, ...movedTo(held, at(e)));
          else if (drag) setDrag({ ...drag, to: at(e) });
        }}
        onPointerUp={() => {
          if (drag && onDraw && Math.abs(drag.to - drag.from) >= 2)
            onDraw(Math.min(drag.from, drag.to), Math.max(drag.from, drag.to));
          setDrag(null);
          setHeld(null);
        }}
        onPointerCancel={() => {
          setDrag(null);
          setHeld(null);
        }}
      >
        <rect
          x={0}
          y={0}
          width={x(SWALLOW_SECONDS)}
          height={lanes * LANE}
          fill="var(--panel)"
          stroke="var(--line)"
        />
        <rect
          x={x(SWALLOW_SECONDS)}
          y={0}
          width={width - x(SWALLOW_SECONDS)}
          height={lanes * LANE}
          fill="var(--panel-2)"
          stroke="var(--line)"
        />
        {ticks.map((s) => (
          <g key={s}>
            <path d={`M${x(s)} 0V${lanes * LANE}`} stroke="var(--line)" strokeDasharray="1 3" />
            <text
              x={Math.min(width - 4, x(s) + 3)}
              y={height - 4}
              fontSize="12"
              fill="var(--ink-3)"
              textAnchor={s === STRIP_SECONDS ? 'end' : 'start'}
            >
              {s === 0 ? t('strip.melt') : s === SWALLOW_SECONDS ? t('strip.swallow') : `${s} s`}
            </text>
          </g>
        ))}
        <path d={`M${x(SWALLOW_SECONDS)} 0V${lanes * LANE}`} stroke="var(--violet-text)" strokeWidth={2} />
        {strokes.map((s, i) => {
          const thick = 4 + s.strength * 3.4;
          const mid = i * LANE + LANE / 2;
          const [a, b] = [x(s.from), x(s.to)];
          const swell = Math.min(18, (b - a) / 2);
          return (
            <g
              key={i}
              {...(onMove && {
                role: 'slider',
                tabIndex: 0,
                'aria-label': t('strip.stroke', { note: words.word('note', s.note) }),
                'aria-valuemin': 0,
                'aria-valuemax': STRIP_SECONDS,
                'aria-valuenow': s.from,
                'aria-valuetext': `${s.from}–${s.to} s`,
                className: 'cursor-grab touch-none',
                onPointerDown: (e: PointerEvent) => {
                  e.stopPropagation();
                  svg.current!.setPointerCapture(e.pointerId);
                  const grip = gripAt(s, at(e));
                  setHeld({ index: i, grip, start: at(e), from: s.from, to: s.to });
                },
                onKeyDown: (e: KeyboardEvent) => {
                  const by = { ArrowLeft: -2, ArrowRight: 2 }[e.key];
                  if (by === undefined) return;
                  e.preventDefault();
                  e.stopPropagation();
                  const grip = e.shiftKey ? 'to' : 'middle';
                  onMove(i, ...movedTo({ index: i, grip, start: 0, from: s.from, to: s.to }, by));
                },
              })}
            >
              {onMove && <rect x={a - 8} y={i * LANE} width={b - a + 16} height={LANE} fill="transparent" />}
              <path
                d={`M${a} ${mid}q${swell / 2} ${-thick / 2} ${swell} ${-thick / 2}H${b - swell}q${swell / 2} 0 ${swell} ${thick / 2}q${-swell / 2} ${thick / 2} ${-swell} ${thick / 2}H${a + swell}q${-swell / 2} 0 ${-swell} ${-thick / 2}`}
                fill={shade(s.note)}
                opacity={0.85}
              />
              <text
                x={b + 5 > width - 70 ? a - 5 : b + 5}
                y={mid + 4}
                fontSize="12.5"
                fontWeight={600}
                fill="var(--ink)"
                textAnchor={b + 5 > width - 70 ? 'end' : 'start'}
              >
                {words.word('note', s.note)}
              </text>
            </g>
          );
        })}
        {drag && (
          <rect
            x={x(Math.min(drag.from, drag.to))}
            y={strokes.length * LANE + 6}
            width={Math.abs(x(drag.to) - x(drag.from))}
            height={LANE - 12}
            fill="var(--violet-tint)"
            stroke="var(--violet-text)"
            strokeDasharray="4 3"
          />
        )}
        {leads.map(
          (l) =>
            l.note && (
              <rect
                key={l.from}
                x={x(l.from)}
                y={lanes * LANE + 6}
                width={x(l.to) - x(l.from)}
                height={12}
                fill={shade(l.note)}
                stroke="var(--panel)"
              />
            ),
        )}
      </svg>
    </div>
  );
}
