import { wrap, type Remote } from 'comlink';
import type { RoastWorker } from './roast.worker.ts';

let worker: Worker | null = null;
let remote: Remote<RoastWorker> | null = null;

/** The roast room's worker, started when first asked for. */
export function roastWorker(): Remote<RoastWorker> {
  if (!remote) {
    worker = new Worker(new URL('./roast.worker.ts', import.meta.url), { type: 'module' });
    remote = wrap<RoastWorker>(worker);
  }
  return remote;
}

/** Stops what the worker is at; the next question starts a new one. */
export function cancelRoastWork(): void {
  worker?.terminate();
  worker = null;
  remote = null;
}
