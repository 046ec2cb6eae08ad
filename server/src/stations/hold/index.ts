import { holdBegin } from './handlers.ts';
import { trapRoutes } from './routes.ts';
import type { StationRoom } from '../room.ts';

/** See {@link StationRoom}. */
export const holdRoom: StationRoom = {
  name: 'hold',
  handlers: [holdBegin],
  routes: trapRoutes,
};
