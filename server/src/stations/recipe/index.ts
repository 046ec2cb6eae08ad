import { ingredientPut, recipePut } from './handlers.ts';
import { recipeRoutes } from './routes.ts';
import { supplyReceive, supplyRoutes, supplyUpdate } from './supplies.ts';
import { trialRoutes } from './trialRoutes.ts';
import { trialBegin, trialKeep, trialKey, trialOpen, trialPut, trialScore } from './trials.ts';
import type { StationRoom } from '../room.ts';

export { loadMadeNow, MADE_NOW, READY, requireMadeBy, type MadeNow } from './madeNow.ts';
export { deliveredLeft, loadIngredients, priceNow, shelfLeft } from './shelf.ts';
export { readTrial } from './trials.ts';

/** See {@link StationRoom}. */
export const recipeRoom: StationRoom = {
  name: 'recipe',
  handlers: [
    ingredientPut,
    recipePut,
    trialPut,
    trialBegin,
    trialScore,
    trialKey,
    trialOpen,
    trialKeep,
    supplyReceive,
    supplyUpdate,
  ],
  routes: (app) => {
    recipeRoutes(app);
    trialRoutes(app);
    supplyRoutes(app);
  },
};
