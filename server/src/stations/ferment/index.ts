import { lotDried } from './handlers.ts';
import { juiceDrain } from './juice.ts';
import type { StationRoom } from '../room.ts';

/** See {@link StationRoom}. */
export const fermentRoom: StationRoom = {
  name: 'ferment',
  handlers: [lotDried, juiceDrain],
  routes: () => undefined,
};
