import type { RoastWorker } from './roast.worker.ts';
import { openWorker } from './worker.ts';

const start = () => new Worker(new URL('./roast.worker.ts', import.meta.url), { type: 'module' });

/** The roast room's thread: forecasts and what ovens have learned. */
export const roastWork = openWorker<RoastWorker>(start);

/** A thread of its own for solving plans, which takes longest and may be cancelled without stopping a forecast. */
export const solveWork = openWorker<RoastWorker>(start);
