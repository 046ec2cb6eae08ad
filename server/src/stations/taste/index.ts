import { tastingAdd } from './handlers.ts';
import type { StationRoom } from '../room.ts';

/** See {@link StationRoom}. */
export const tasteRoom: StationRoom = {
  name: 'taste',
  handlers: [tastingAdd],
  routes: () => undefined,
};
