import type { WinnowWorker } from './winnow.worker.ts';
import { openWorker } from './worker.ts';

/** The winnow station's thread. */
export const winnowWork = openWorker<WinnowWorker>(
  () => new Worker(new URL('./winnow.worker.ts', import.meta.url), { type: 'module' }),
);
