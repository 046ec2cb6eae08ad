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
import { places } from './en/places.ts';
import { plan } from './en/plan.ts';
import { stock } from './en/stock.ts';
import { faults } from './en/faults.ts';
import { practice } from './en/practice.ts';
import { skills } from './en/skills.ts';
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
import { problems } from './en/problems.ts';
import { refused } from './en/refused.ts';

/** Words of the rooms behind the Bench in English, room by room: they come with the first of them. */
export const enRooms = {
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
} as const;
