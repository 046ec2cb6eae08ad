import type { TasteWorker } from './taste.worker.ts';
import { openWorker } from './worker.ts';

/** The taste station's thread. */
export const tasteWork = openWorker<TasteWorker>(
  () => new Worker(new URL('./taste.worker.ts', import.meta.url), { type: 'module' }),
);
