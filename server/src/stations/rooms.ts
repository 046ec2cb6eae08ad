import type { StationRoom } from './room.ts';
import { beansRoom } from './beans/index.ts';
import { concheRoom } from './conche/index.ts';
import { fermentRoom } from './ferment/index.ts';
import { grindRoom } from './grind/index.ts';
import { holdRoom } from './hold/index.ts';
import { mouldRoom } from './mould/index.ts';
import { recipeRoom } from './recipe/index.ts';
import { restRoom } from './rest/index.ts';
import { roastRoom } from './roast/index.ts';
import { sortRoom } from './sort/index.ts';
import { tasteRoom } from './taste/index.ts';
import { temperRoom } from './temper/index.ts';
import { winnowRoom } from './winnow/index.ts';

/** Every room of the line; each brings its entries and routes along. */
export const stationRooms: readonly StationRoom[] = [
  beansRoom,
  fermentRoom,
  holdRoom,
  sortRoom,
  roastRoom,
  winnowRoom,
  recipeRoom,
  grindRoom,
  concheRoom,
  restRoom,
  temperRoom,
  mouldRoom,
  tasteRoom,
];
