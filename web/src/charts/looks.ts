import type { Series } from './SeriesChart.tsx';

/** How each kind of line is drawn: its colour by the page's own names, width and dashes in px. */
export const LOOKS: Readonly<Record<Series['look'], { colour: string; width: number; dash: number }>> = {
  measured: { colour: '--violet-text', width: 2.6, dash: 0 },
  forecast: { colour: '--violet-text', width: 2, dash: 5 },
  points: { colour: '--violet-text', width: 0, dash: 0 },
  planned: { colour: '--slate', width: 1.6, dash: 5 },
  machine: { colour: '--slate', width: 1.6, dash: 0 },
  faint: { colour: '--ink-3', width: 1.2, dash: 0 },
  dotted: { colour: '--ink-3', width: 1.6, dash: 2 },
};
