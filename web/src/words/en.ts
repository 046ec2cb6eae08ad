import type { enRooms } from './enRooms.ts';
import { shell } from './en/shell.ts';
import { units } from './en/units.ts';
import { bench } from './en/bench.ts';
import { next } from './en/next.ts';
import { steps } from './en/steps.ts';

/** Words of the frame, the Bench and the line in English: there from the start. A name in braces is filled in. */
export const en = {
  ...shell,
  ...units,
  ...bench,
  ...next,
  ...steps,
} as const;

/** A key of the catalogue. */
export type WordKey = keyof typeof en | keyof typeof enRooms;
