import { shell } from './de/shell.ts';
import { units } from './de/units.ts';
import { bench } from './de/bench.ts';
import { next } from './de/next.ts';
import { steps } from './de/steps.ts';
import type { en } from './en.ts';

/** Words of the frame, the Bench and the line in German. */
export const de: Record<keyof typeof en, string> = {
  ...shell,
  ...units,
  ...bench,
  ...next,
  ...steps,
};
