import { lotDried } from './handlers.ts';
import type { StationRoom } from '../room.ts';

/** See {@link StationRoom}. */
export const fermentRoom: StationRoom = {
  name: 'ferment',
  handlers: [lotDried],
  routes: () => undefined,
};
