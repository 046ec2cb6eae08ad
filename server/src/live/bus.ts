import { EventEmitter } from 'node:events';
import type { ChangeEvent, LiveReadings, LiveWeight, Topic } from '@wunsch/contract';

/** A change, with the readings it brought where it did. */
export type BusEvent = ChangeEvent & { live?: LiveReadings };

/** Carries what changed from the writer to every open page of this process. */
export class EventBus {
  private readonly emitter = new EventEmitter().setMaxListeners(0);

  publish(event: BusEvent): void {
    this.emitter.emit('touched', event);
    this.emitter.emit('change', event);
  }

  /** Tells what is remembered here of a change whose news comes to the pages by another way, later. */
  publishToCaches(event: BusEvent): void {
    this.emitter.emit('touched', event);
  }

  /** Calls back for each change until the returned function is called. */
  subscribe(listener: (event: BusEvent) => void, onClose: () => void): () => void {
    this.emitter.on('change', listener).on('close', onClose);
    return () => void this.emitter.off('change', listener).off('close', onClose);
  }

  /** Calls back with each change as soon as it is known, before any page is told; with null when the store closes. */
  whenChanged(forget: (event: BusEvent | null) => void): void {
    this.emitter.on('touched', forget).on('close', () => forget(null));
  }

  /** Calls back whenever one of some topics has been touched, and when the store closes. */
  whenTouched(topics: readonly Topic[], forget: () => void): void {
    this.whenChanged((event) => {
      if (!event || event.touches.some((t) => topics.includes(t))) forget();
    });
  }

  /** Tells open pages what a scale shows; kept nowhere. */
  showWeight(weight: LiveWeight): void {
    this.emitter.emit('weight', weight);
  }

  /** Calls back for each weight shown until the returned function is called. */
  onWeight(listener: (weight: LiveWeight) => void): () => void {
    this.emitter.on('weight', listener);
    return () => void this.emitter.off('weight', listener);
  }

  /** Tells every listener that the store is closing. */
  close(): void {
    this.emitter.emit('close');
    this.emitter.removeAllListeners();
  }
}
