import type { StationRoom } from '../room.ts';

export { grindClock, pausesOf, type GrindLine, type GrindNote, type TimedReading } from './clock.ts';

/** See {@link StationRoom}. */
export const grindRoom: StationRoom = {
  name: 'grind',
  handlers: [],
  routes: () => undefined,
};
