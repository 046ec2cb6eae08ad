import { concheBegin } from './handlers.ts';
import { concheRoutes } from './routes.ts';
import type { StationRoom } from '../room.ts';

export { concheClock, concheForecast, lotRate, USUAL_SOUR_AIM, type ConcheClock } from './clock.ts';

/** See {@link StationRoom}. */
export const concheRoom: StationRoom = {
  name: 'conche',
  handlers: [concheBegin],
  routes: concheRoutes,
};
