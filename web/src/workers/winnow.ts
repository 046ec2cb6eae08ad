import { wrap, type Remote } from 'comlink';
import type { WinnowWorker } from './winnow.worker.ts';

let remote: Remote<WinnowWorker> | null = null;

/** The winnow station's worker, started when first asked for. */
export function winnowWorker(): Remote<WinnowWorker> {
  remote ??= wrap<WinnowWorker>(
    new Worker(new URL('./winnow.worker.ts', import.meta.url), { type: 'module' }),
  );
  return remote;
}
