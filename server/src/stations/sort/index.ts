import { sortRoutes } from './routes.ts';
import type { StationRoom } from '../room.ts';

/** See {@link StationRoom}. */
export const sortRoom: StationRoom = {
  name: 'sort',
  handlers: [],
  routes: sortRoutes,
};
