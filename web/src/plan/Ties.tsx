import { useWidth } from '../charts/useWidth.ts';
import type { Block } from './blocks.ts';
import type { Place } from './place.ts';

/** Waits of a batch as thin ties from one block to the next; what a dragged step would break in red. */
export function Ties({
  placed,
  columns,
  chosen,
  broken,
  height,
}: {
  placed: readonly { block: Block; place: Place }[];
  columns: number;
  chosen: string | null;
  broken: readonly string[];
  height: number;
}) {
  const { ref, width } = useWidth<HTMLDivElement>(900);
  const batches = new Map<string, { block: Block; place: Place }[]>();
  for (const p of placed) batches.set(p.block.batch, [...(batches.get(p.block.batch) ?? []), p]);
  const days = columns > 1 ? 148 : 92;
  const column = (width - days) / columns;
  const middle = ({ place }: { place: Place }) =>
    days + column * (place.column + place.left + place.width / 2);
  const ties = [...batches].flatMap(([batch, items]) => {
    const way = [...items].sort((a, b) => a.block.start - b.block.start);
    return way.slice(1).map((to, k) => {
      const from = way[k]!;
      const [x1, y1] = [middle(from), from.place.top + from.place.height];
      const [x2, y2] = [middle(to), to.place.top];
      const bend = Math.max(8, Math.min(46, Math.abs(y2 - y1) / 2));
      const isBroken = [from, to].some((p) => p.block.steps.some((s) => broken.includes(s.key)));
      return {
        key: `${from.block.key}>${to.block.key}`,
        d: `M${x1} ${y1}C${x1} ${y1 + bend} ${x2} ${y2 - bend} ${x2} ${y2}`,
        isChosen: chosen === batch,
        isBroken,
      };
    });
  });
  return (
    <div ref={ref} className="pointer-events-none absolute inset-0" aria-hidden="true">
      {columns > 1 && (
        <svg width={width} height={height}>
          {ties.map((tie) => (
            <path
              key={tie.key}
              d={tie.d}
              fill="none"
              stroke={tie.isBroken ? 'var(--bad)' : tie.isChosen ? 'var(--violet-text)' : 'var(--line-2)'}
              strokeWidth={tie.isBroken || tie.isChosen ? 2 : 1}
              strokeDasharray={tie.isChosen ? undefined : tie.isBroken ? '6 4' : '2 3'}
            />
          ))}
        </svg>
      )}
    </div>
  );
}
