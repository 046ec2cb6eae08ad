import { faults } from './en/faults.ts';
import { practice } from './en/practice.ts';
import { panel } from './en/panel.ts';
import { classes } from './en/classes.ts';
import { cases } from './en/cases.ts';
import { imports } from './en/imports.ts';
import { trace } from './en/trace.ts';
import { files } from './en/files.ts';
import { taste } from './en/taste.ts';
import { yields } from './en/yields.ts';
import { cost } from './en/cost.ts';
import { forecasts } from './en/forecasts.ts';
import { months } from './en/months.ts';

/** Words of the rooms behind the Bench in English: they come with the first of them. */
export const enRooms = {
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
} as const;
