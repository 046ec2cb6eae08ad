import type { TemperWorker } from './temper.worker.ts';
import { openWorker } from './worker.ts';

/** The temper station's thread. */
export const temperWork = openWorker<TemperWorker>(
  () => new Worker(new URL('./temper.worker.ts', import.meta.url), { type: 'module' }),
);
