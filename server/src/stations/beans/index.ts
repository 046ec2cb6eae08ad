import { lotReceive, lotUpdate } from './handlers.ts';
import { harvestPick, harvestRoutes, harvestTakeIn } from './harvest.ts';
import { beansRoutes } from './routes.ts';
import { samplePut, sampleRoutes } from './samples.ts';
import type { StationRoom } from '../room.ts';

export { carriedCost } from './carried.ts';
export { refuseTakenCode } from './handlers.ts';

/** See {@link StationRoom}. */
export const beansRoom: StationRoom = {
  name: 'beans',
  handlers: [lotReceive, lotUpdate, samplePut, harvestPick, harvestTakeIn],
  routes: (app) => {
    beansRoutes(app);
    sampleRoutes(app);
    harvestRoutes(app);
  },
};
