import { mouldDone } from './handlers.ts';
import type { StationRoom } from '../room.ts';

/** See {@link StationRoom}. */
export const mouldRoom: StationRoom = {
  name: 'mould',
  handlers: [mouldDone],
  routes: () => undefined,
};
