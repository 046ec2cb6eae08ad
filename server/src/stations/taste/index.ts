import { tastingAdd } from './handlers.ts';
import { sessionBegin, sessionKeep, sessionKey, sessionOpen, sessionPlan } from './sessions.ts';
import { sessionCardPut, sessionJoin } from './sessionCards.ts';
import { noteRoutes, notesPut } from './notes.ts';
import { sessionRoutes } from './sessionRoutes.ts';
import type { StationRoom } from '../room.ts';

/** See {@link StationRoom}. */
export const tasteRoom: StationRoom = {
  name: 'taste',
  handlers: [
    tastingAdd,
    notesPut,
    sessionPlan,
    sessionBegin,
    sessionJoin,
    sessionKey,
    sessionCardPut,
    sessionOpen,
    sessionKeep,
  ],
  routes: (app) => {
    sessionRoutes(app);
    noteRoutes(app);
  },
};
