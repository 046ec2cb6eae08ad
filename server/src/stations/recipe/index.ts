import { ingredientPut, recipePut } from './handlers.ts';
import { recipeRoutes } from './routes.ts';
import { supplyReceive, supplyRoutes, supplyUpdate } from './supplies.ts';
import { trialPut, trialRoutes } from './trials.ts';
import type { StationRoom } from '../room.ts';

/** See {@link StationRoom}. */
export const recipeRoom: StationRoom = {
  name: 'recipe',
  handlers: [ingredientPut, recipePut, trialPut, supplyReceive, supplyUpdate],
  routes: (app) => {
    recipeRoutes(app);
    trialRoutes(app);
    supplyRoutes(app);
  },
};
