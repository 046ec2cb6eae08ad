import type { StationRoom } from '../room.ts';

export { grindClock, pausesOf, type GrindLine, type GrindNote } from './clock.ts';

/** See {@link StationRoom}. */
export const grindRoom: StationRoom = {
  name: 'grind',
  handlers: [],
  routes: () => undefined,
};
