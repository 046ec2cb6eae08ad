import { roastRoutes } from './routes.ts';
import type { StationRoom } from '../room.ts';

export { beanReadings } from './beanReadings.ts';
export { loadRoasts, withHandReadings } from './roasts.ts';

/** See {@link StationRoom}. */
export const roastRoom: StationRoom = {
  name: 'roast',
  handlers: [],
  routes: roastRoutes,
};
