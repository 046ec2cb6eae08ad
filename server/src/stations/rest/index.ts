import { restRoutes } from './routes.ts';
import type { StationRoom } from '../room.ts';

/** See {@link StationRoom}. */
export const restRoom: StationRoom = {
  name: 'rest',
  handlers: [],
  routes: restRoutes,
};
