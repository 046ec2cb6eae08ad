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
import { plan } from './de/plan.ts';
import { steps } from './de/steps.ts';
import { stock } from './de/stock.ts';
import type { en } from './en.ts';

/** Words of the frame, the Bench and the line in German, room by room. */
export const de: Record<keyof typeof en, string> = {
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
  ...next,
  ...plan,
  ...steps,
  ...stock,
};
