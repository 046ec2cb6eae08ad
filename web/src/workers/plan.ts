import type { PlanWorker } from './plan.worker.ts';
import { openWorker } from './worker.ts';

const start = () => new Worker(new URL('./plan.worker.ts', import.meta.url), { type: 'module' });

/** The thread plans are made on; cancelling it ends a search. */
export const planWork = openWorker<PlanWorker>(start);

/** The thread that answers while somebody drags, promises or asks, whatever the other one searches. */
export const planAnswers = openWorker<PlanWorker>(start);
