import { shell } from './de/shell.ts';
import { units } from './de/units.ts';
import { ledger } from './de/ledger.ts';
import { settings } from './de/settings.ts';
import { beans } from './de/beans.ts';
import { sort } from './de/sort.ts';
import { roast } from './de/roast.ts';
import { winnow } from './de/winnow.ts';
import { recipe } from './de/recipe.ts';
import { grind } from './de/grind.ts';
import { temper } from './de/temper.ts';
import { mould } from './de/mould.ts';
import { packing } from './de/packing.ts';
import { next } from './de/next.ts';
import { panel } from './de/panel.ts';
import { plan } from './de/plan.ts';
import { cost } from './de/cost.ts';
import { cases } from './de/cases.ts';
import { faults } from './de/faults.ts';
import { files } from './de/files.ts';
import { classes } from './de/classes.ts';
import { months } from './de/months.ts';
import { forecasts } from './de/forecasts.ts';
import { steps } from './de/steps.ts';
import { practice } from './de/practice.ts';
import { imports } from './de/imports.ts';
import { stock } from './de/stock.ts';
import { trace } from './de/trace.ts';
import { yields } from './de/yields.ts';
import { taste } from './de/taste.ts';
import type { WordKey } from './en.ts';

/** All words of the interface in German, room by room. */
export const de: Record<WordKey, string> = {
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
};
