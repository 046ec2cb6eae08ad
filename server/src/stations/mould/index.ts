import { fillingRoutes } from './fillingRoutes.ts';
import { fillingMake } from './fillings.ts';
import { mouldDone } from './handlers.ts';
import { labelRoutes } from './labels.ts';
import { mouldingRoutes } from './mouldings.ts';
import { labelDesignPut, mouldPut, mouldRoutes } from './moulds.ts';
import { barsWrapped } from './wrap.ts';
import type { StationRoom } from '../room.ts';

export { AskedDesign, designOf, saying } from './labels.ts';
export { press } from './press.ts';

/** See {@link StationRoom}. */
export const mouldRoom: StationRoom = {
  name: 'mould',
  handlers: [mouldDone, fillingMake, mouldPut, labelDesignPut, barsWrapped],
  routes: (app) => {
    mouldRoutes(app);
    labelRoutes(app);
    mouldingRoutes(app);
    fillingRoutes(app);
  },
};
