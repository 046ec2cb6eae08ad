import { EventEmitter } from 'node:events';
import type { ChangeEvent } from '@wunsch/contract';

/** Carries what changed from the writer to every open page of this process. */
export class EventBus {
  private readonly emitter = new EventEmitter().setMaxListeners(0);

  publish(event: ChangeEvent): void {
    this.emitter.emit('change', event);
  }

  /** Calls back for each change until the returned function is called. */
  subscribe(listener: (event: ChangeEvent) => void, onClose: () => void): () => void {
    this.emitter.on('change', listener).on('close', onClose);
    return () => void this.emitter.off('change', listener).off('close', onClose);
  }

  /** Tells every listener that the store is closing. */
  close(): void {
    this.emitter.emit('close');
    this.emitter.removeAllListeners();
  }
}
