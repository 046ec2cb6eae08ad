import { shell } from './en/shell.ts';
import { units } from './en/units.ts';
import { ledger } from './en/ledger.ts';
import { settings } from './en/settings.ts';
import { beans } from './en/beans.ts';
import { sort } from './en/sort.ts';
import { roast } from './en/roast.ts';
import { winnow } from './en/winnow.ts';
import { recipe } from './en/recipe.ts';
import { grind } from './en/grind.ts';
import { temper } from './en/temper.ts';
import { mould } from './en/mould.ts';
import { packing } from './en/packing.ts';
import { next } from './en/next.ts';
import { panel } from './en/panel.ts';
import { plan } from './en/plan.ts';
import { cost } from './en/cost.ts';
import { cases } from './en/cases.ts';
import { faults } from './en/faults.ts';
import { files } from './en/files.ts';
import { classes } from './en/classes.ts';
import { months } from './en/months.ts';
import { forecasts } from './en/forecasts.ts';
import { steps } from './en/steps.ts';
import { practice } from './en/practice.ts';
import { imports } from './en/imports.ts';
import { stock } from './en/stock.ts';
import { trace } from './en/trace.ts';
import { yields } from './en/yields.ts';
import { taste } from './en/taste.ts';

/** All words of the interface in English, room by room. A name in braces is filled in. */
export const en = {
  ...shell,
  ...units,
  ...ledger,
  ...settings,
  ...beans,
  ...sort,
  ...roast,
  ...winnow,
  ...recipe,
  ...grind,
  ...temper,
  ...mould,
  ...packing,
  ...taste,
  ...next,
  ...panel,
  ...plan,
  ...cost,
  ...cases,
  ...classes,
  ...faults,
  ...files,
  ...months,
  ...forecasts,
  ...steps,
  ...practice,
  ...imports,
  ...stock,
  ...trace,
  ...yields,
} as const;

/** A key of the catalogue. */
export type WordKey = keyof typeof en;
