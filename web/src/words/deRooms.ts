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
import { places } from './de/places.ts';
import { plan } from './de/plan.ts';
import { stock } from './de/stock.ts';
import { faults } from './de/faults.ts';
import { practice } from './de/practice.ts';
import { skills } from './de/skills.ts';
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
import { problems } from './de/problems.ts';
import { refused } from './de/refused.ts';
import type { enRooms } from './enRooms.ts';

/** Words of the rooms behind the Bench in German, room by room. */
export const deRooms: Record<keyof typeof enRooms, string> = {
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
  ...places,
  ...plan,
  ...stock,
  ...faults,
  ...practice,
  ...skills,
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
  ...problems,
  ...refused,
};
