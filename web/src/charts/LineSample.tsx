import { LOOKS } from './looks.ts';
import type { Series } from './SeriesChart.tsx';

/** A short piece of a line as a chart draws it, to stand beside its name in a table where lines run close together. */
export function LineSample({ look }: { look: Series['look'] }) {
  const { colour, width, dash } = LOOKS[look];
  return (
    <svg width="30" height="10" aria-hidden="true" className="mr-2 inline-block align-middle">
      <line
        x1="1"
        x2="29"
        y1="5"
        y2="5"
        stroke={`var(${colour})`}
        strokeWidth={width}
        strokeDasharray={dash || undefined}
      />
    </svg>
  );
}
