import { tastingAdd } from './handlers.ts';
import {
  sessionBegin,
  sessionCardPut,
  sessionJoin,
  sessionKey,
  sessionOpen,
  sessionPlan,
} from './sessions.ts';
import { sessionRoutes } from './sessionRoutes.ts';
import type { StationRoom } from '../room.ts';

/** See {@link StationRoom}. */
export const tasteRoom: StationRoom = {
  name: 'taste',
  handlers: [tastingAdd, sessionPlan, sessionBegin, sessionJoin, sessionKey, sessionCardPut, sessionOpen],
  routes: sessionRoutes,
};
