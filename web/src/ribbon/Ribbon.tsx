import { useId } from 'react';
import type { BatchFlow } from '@wunsch/core/ledger';
import { STAGE } from '../shell/glyphs.tsx';
import { useWords, type Words } from '../words/words.tsx';
import {
  layoutRibbon,
  LINE,
  raiseLabels,
  settleLabels,
  type Label,
  type Layout,
  type Strand,
} from './geometry.ts';

/** How a ribbon is drawn. */
export interface RibbonProps {
  flow: BatchFlow;
  /** Width of a column, px. */
  column: number;
  height: number;
  /** px per mg; one scale a page. */
  scale: number;
  /** Labels: none on a phone, words and shares on the Bench, grams too on a batch's page. */
  detail: 'none' | 'short' | 'full';
  /** The tag on the now mark. */
  tag?: { text: string; due: boolean } | null;
  barsPerLayer?: number;
}

/** In words: what the ribbon shows, for those who hear it. */
export function ribbonText(flow: BatchFlow, words: Words): string {
  const { t } = words;
  const losses = flow.stations.flatMap((s) =>
    s.losses
      .filter((l) => l.massMg > 0)
      .map((l) => `${words.word('loss', l.reason)} ${words.mass(l.massMg)}`),
  );
  const bars = flow.barsExpected
    ? t('bars.range', { low: flow.barsExpected.low, high: flow.barsExpected.high })
    : '';
  return t('ribbon.text', {
    start: words.mass(flow.startMg),
    here: t(`station.${flow.here}`),
    now: words.mass(flow.nowMg),
    losses: losses.join(', ') || t('ribbon.no-losses'),
    bars,
  });
}

/**
 * The yield ribbon: a band as tall as the mass that is left. Losses peel off below, additions join from
 * above, what is to come is pale and dashed, and it ends in bars.
 */
export function Ribbon({ flow, column, height, scale, detail, tag = null, barsPerLayer = 40 }: RibbonProps) {
  const words = useWords();
  const id = useId();
  const top = Math.max(26, (height - flow.startMg * scale) / 2 + 4);
  const layout = layoutRibbon(flow, { column, scale, top });
  const width = column * 9;
  const crest = Math.min(...layout.blocks.map((b) => b.top));
  // The now mark ends with the band, so that it crosses no name of a loss.
  const foot = Math.max(...layout.blocks.map((b) => b.top + b.height));
  return (
    <svg
      width={width}
      height={height}
      viewBox={`0 0 ${width} ${height}`}
      role="img"
      aria-labelledby={id}
      className="block overflow-visible"
    >
      <title id={id}>{ribbonText(flow, words)}</title>
      <g aria-hidden="true">
        <Strands
          layout={layout}
          detail={detail}
          words={words}
          column={column}
          height={height}
          bars={barsLabel(flow, layout, column, detail, words)}
        />
        {layout.blocks.map((b, i) => {
          const stage = STAGE[b.station];
          const next = layout.blocks[i + 1];
          const w = Math.max(0, b.width - (next && next.station !== b.station ? 1.5 : 0));
          const label = detail !== 'none' && b.known && b.visited && b.width > 42 && b.height > 13;
          return (
            <g key={`${b.station}${b.known}`}>
              {b.known ? (
                <rect
                  x={b.x}
                  y={b.top}
                  width={w}
                  height={b.height}
                  fill={stage.fill}
                  stroke={stage.edge}
                  strokeWidth={1}
                  // What it has not been through has no colour of its own.
                  opacity={b.visited ? 1 : 0.3}
                />
              ) : (
                <>
                  <rect x={b.x} y={b.top} width={w} height={b.height} fill={stage.fill} opacity={0.22} />
                  <path
                    d={`M${b.x} ${b.top}h${w}M${b.x} ${b.top + b.height}h${w}`}
                    stroke="var(--ink-3)"
                    strokeWidth={1}
                    strokeDasharray="4 3"
                  />
                </>
              )}
              {b.station === 'mould' && b.known && <path d={`M${b.x} ${b.top + 3}h${w}`} stroke="#A795A3" />}
              {label && (
                <text
                  x={b.x + 8}
                  y={b.top + b.height / 2}
                  dominantBaseline="central"
                  fill={stage.text}
                  className="num"
                  fontSize={detail === 'full' ? 17 : 13}
                >
                  {words.mass(b.massMg)}
                </text>
              )}
            </g>
          );
        })}
        <Bars
          flow={flow}
          layout={layout}
          column={column}
          words={words}
          detail={detail}
          barsPerLayer={barsPerLayer}
        />
        {layout.nowX !== null && (
          <>
            <path
              d={`M${layout.nowX} ${crest - 22}V${Math.min(height - 2, foot + 2)}`}
              stroke="var(--violet-text)"
              strokeWidth={2}
            />
            {tag && detail !== 'none' && (
              <Tag x={layout.nowX} y={crest - 26} width={width} text={tag.text} due={tag.due} />
            )}
          </>
        )}
      </g>
    </svg>
  );
}

function Tag({
  x,
  y,
  width,
  text,
  due,
}: {
  x: number;
  y: number;
  width: number;
  text: string;
  due: boolean;
}) {
  const w = text.length * 6.6 + 14;
  const left = Math.min(x, width - w);
  return (
    <g>
      <rect
        x={left}
        y={Math.max(0, y)}
        width={w}
        height={19}
        fill={due ? 'var(--signal)' : 'var(--violet)'}
      />
      <text
        x={left + 7}
        y={Math.max(0, y) + 13.5}
        fontSize={12}
        fontWeight={600}
        fill={due ? 'var(--on-signal)' : '#fff'}
      >
        {text}
      </text>
    </g>
  );
}

function Strands({
  layout,
  detail,
  words,
  column,
  height,
  bars,
}: {
  layout: Layout;
  detail: RibbonProps['detail'];
  words: Words;
  column: number;
  height: number;
  /** The name of the bars, which stays where it is. */
  bars: Label | null;
}) {
  const thick = (s: Strand) => Math.min(s.thickness, column * 0.3);
  const drops = layout.losses.map((s) => Math.min(24, Math.max(12, height - s.y - 16)));
  const bases = settleLabels(
    layout.losses.map((s, i) => ({
      x: s.x + thick(s) + 19,
      y: s.y + drops[i]!,
      width: widthOf(`${lossLabel(s, words)} ${words.percent(s.share, 1)}`),
      lines: detail === 'full' ? 2 : 1,
    })),
    bars ? [bars] : [],
    height - 3,
  );
  const reach = Math.min(34, column * 0.36);
  const crests = layout.joins.map((j) => j.y - Math.max(1, j.thickness));
  // A name that would reach beyond the now mark ends before its tag.
  const ends = layout.joins.map((j) => {
    const end = j.x - reach - 12;
    return layout.nowX !== null && layout.nowX < j.x ? Math.min(end, layout.nowX - 6) : end;
  });
  const named = layout.joins.map((j, i) => {
    const width = j.known ? widthOf(`${joinLabel(j, words)} ${words.percent(j.share, 0)}`) : 0;
    return { x: ends[i]! - width, y: Math.max(HIGHEST, crests[i]! - 6), width, lines: 1 };
  });
  const raised = raiseLabels(named, HIGHEST);
  return (
    <>
      {layout.joins.map((j, i) => {
        const t = Math.max(1, j.thickness);
        const up = crests[i]!;
        return (
          <g key={j.station}>
            <path
              d={`M${j.x - reach} ${up - 8}Q${j.x - 4} ${up - 6} ${j.x} ${up}L${j.x} ${up + t}Q${j.x - reach * 0.8} ${up + t * 0.4} ${j.x - reach - Math.min(t, 14)} ${up + 2}Z`}
              fill="var(--sugar)"
              stroke="var(--ink-3)"
              strokeWidth={1}
              strokeDasharray={j.known ? undefined : '4 3'}
            />
            {detail !== 'none' && j.known && (
              <text x={ends[i]} y={raised[i] ?? named[i]!.y} textAnchor="end" fontSize={12} fill="var(--ink)">
                {/* Where there is no room for its name, its share still has some. */}
                {raised[i] !== null && `${joinLabel(j, words)} `}
                <tspan fontWeight={700}>{words.percent(j.share, 0)}</tspan>
              </text>
            )}
          </g>
        );
      })}
      {layout.losses.map((s, i) => {
        const stage = STAGE[s.station];
        const t = thick(s);
        const drop = drops[i]!;
        const x = s.x + 6;
        const label = `${lossLabel(s, words)} `;
        return (
          <g key={s.station}>
            <path
              d={`M${x} ${s.y}h${t}Q${x + t + 7} ${s.y + 4} ${x + t + 9} ${s.y + drop}h${-Math.max(1, t)}Q${x + 6} ${s.y + 6} ${x} ${s.y}Z`}
              fill={s.known ? `color-mix(in srgb, ${stage.fill} 50%, var(--panel))` : 'none'}
              stroke={
                s.known ? (stage.edge === 'var(--stage-edge)' ? 'var(--ink-3)' : stage.edge) : 'var(--ink-3)'
              }
              strokeWidth={1}
              strokeDasharray={s.known ? undefined : '3 2'}
            />
            {detail !== 'none' && (
              <text x={x + t + 13} y={bases[i]} fontSize={12} fill={s.known ? 'var(--ink)' : 'var(--ink-3)'}>
                {label}
                <tspan fontWeight={700}>{words.percent(s.share, 1)}</tspan>
                {detail === 'full' && (
                  <tspan x={x + t + 13} dy={LINE} fill="var(--ink-3)">
                    {words.mass(s.massMg)}
                  </tspan>
                )}
              </text>
            )}
          </g>
        );
      })}
    </>
  );
}

/** Base line of the highest name above the ribbon, px. */
const HIGHEST = 11;

/** About how wide a name is drawn, px. */
const widthOf = (text: string) => text.length * 6.4;

function lossLabel(strand: Strand, words: Words): string {
  const largest = strand.reasons.reduce<Strand['reasons'][number] | null>(
    (b, r) => (!b || r.massMg > b.massMg ? r : b),
    null,
  );
  if (strand.station === 'sort') return words.t('loss.rejects');
  if (
    !largest ||
    largest.reason === 'hold-up' ||
    largest.reason === 'sweepings' ||
    largest.reason === 'unexplained'
  )
    return words.t(`loss.usual.${strand.station}` as 'loss.usual.roast');
  return words.word('loss', largest.reason);
}

/** What joins there most of, and how many others, however often each was weighed in. */
function joinLabel(strand: Strand, words: Words): string {
  if (strand.reasons.length === 0) return words.t('ribbon.additions');
  const masses = new Map<string, number>();
  for (const { reason, massMg } of strand.reasons) masses.set(reason, (masses.get(reason) ?? 0) + massMg);
  const [[most], ...others] = [...masses].sort((a, b) => b[1] - a[1]) as [[string, number]];
  const name = words.word('ingredient', most);
  return others.length > 0 ? `${name} +${others.length}` : name;
}

/** Where the number of bars stands, beside or below them. */
function barsAt(layout: Layout, column: number, detail: RibbonProps['detail']) {
  const x = 8 * column + 8;
  const bottom = layout.blocks.at(-1)!.top + layout.blocks.at(-1)!.height;
  return {
    x,
    bottom,
    textX: detail === 'full' ? x : x + 23,
    textY: detail === 'full' ? bottom + 16 : bottom - 10,
  };
}

/** The name of the bars as others have to make room for it; nothing where it is not written. */
function barsLabel(
  { barsExpected }: BatchFlow,
  layout: Layout,
  column: number,
  detail: RibbonProps['detail'],
  words: Words,
): Label | null {
  if (!barsExpected || detail === 'none') return null;
  const { textX, textY } = barsAt(layout, column, detail);
  return { x: textX, y: textY, width: widthOf(words.t('bars')), lines: 2 };
}

function Bars({
  flow,
  layout,
  column,
  words,
  detail,
  barsPerLayer,
}: {
  flow: BatchFlow;
  layout: Layout;
  column: number;
  words: Words;
  detail: RibbonProps['detail'];
  barsPerLayer: number;
}) {
  if (!flow.barsExpected) return null;
  const { low, high } = flow.barsExpected;
  const { x, bottom, textX, textY } = barsAt(layout, column, detail);
  const layers = Math.max(1, Math.min(14, Math.round(high / barsPerLayer)));
  const certain = Math.round(low / barsPerLayer);
  const h = 4.5;
  return (
    <g>
      {Array.from({ length: layers }, (_, i) => (
        <rect
          key={i}
          x={x}
          y={bottom - (i + 1) * h}
          width={18}
          height={h - 1}
          fill={i < certain ? 'var(--stage-taste)' : 'none'}
          stroke="#8A6E22"
          strokeWidth={0.8}
          strokeDasharray={i < certain ? undefined : '2 2'}
        />
      ))}
      {detail !== 'none' && (
        <text x={textX} y={textY} fontSize={12} fill="var(--ink)">
          <tspan className="num" fontSize={13}>
            {low === high ? words.number(low) : `${words.number(low)}–${words.number(high)}`}
          </tspan>
          <tspan x={textX} dy={LINE} fill="var(--ink-3)">
            {words.t('bars')}
          </tspan>
        </text>
      )}
    </g>
  );
}
