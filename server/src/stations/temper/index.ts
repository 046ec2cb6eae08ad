import { bowlRoutes } from './bowls.ts';
import { butterSeedMake } from './butterSeed.ts';
import { temperOut } from './handlers.ts';
import type { StationRoom } from '../room.ts';

export { bowlLogs } from './bowls.ts';

/** See {@link StationRoom}. */
export const temperRoom: StationRoom = {
  name: 'temper',
  handlers: [temperOut, butterSeedMake],
  routes: bowlRoutes,
};
