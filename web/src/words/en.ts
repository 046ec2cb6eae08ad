import type { enRooms } from './enRooms.ts';
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
import { plan } from './en/plan.ts';
import { steps } from './en/steps.ts';
import { stock } from './en/stock.ts';

/** Words of the frame, the Bench and the line in English, room by room: there from the start. A name in braces is filled in. */
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
  ...next,
  ...plan,
  ...steps,
  ...stock,
} as const;

/** A key of the catalogue. */
export type WordKey = keyof typeof en | keyof typeof enRooms;
