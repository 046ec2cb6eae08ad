import { faults } from './de/faults.ts';
import { practice } from './de/practice.ts';
import { panel } from './de/panel.ts';
import { classes } from './de/classes.ts';
import { cases } from './de/cases.ts';
import { imports } from './de/imports.ts';
import { trace } from './de/trace.ts';
import { files } from './de/files.ts';
import { taste } from './de/taste.ts';
import { yields } from './de/yields.ts';
import { cost } from './de/cost.ts';
import { forecasts } from './de/forecasts.ts';
import { months } from './de/months.ts';
import type { enRooms } from './enRooms.ts';

/** Words of the rooms behind the Bench in German. */
export const deRooms: Record<keyof typeof enRooms, string> = {
  ...faults,
  ...practice,
  ...panel,
  ...classes,
  ...cases,
  ...imports,
  ...trace,
  ...files,
  ...taste,
  ...yields,
  ...cost,
  ...forecasts,
  ...months,
};
