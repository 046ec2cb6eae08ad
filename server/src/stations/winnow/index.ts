import { winnowRoutes } from './routes.ts';
import type { StationRoom } from '../room.ts';

/** See {@link StationRoom}. */
export const winnowRoom: StationRoom = {
  name: 'winnow',
  handlers: [],
  routes: winnowRoutes,
};
