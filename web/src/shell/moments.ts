import type { LiveReadings, LiveWeight } from '@wunsch/contract';

/** What comes in by the moment and is not read from the server's pages. */
export interface MomentKinds {
  readings: LiveReadings[];
  weight: LiveWeight;
  /** The stream has come back after a break: what was missed must be read afresh. */
  back: null;
}

/** Carries moments from a workshop's stream to whoever shows them. */
export class Moments {
  private readonly listeners: { [K in keyof MomentKinds]: Set<(value: MomentKinds[K]) => void> } = {
    readings: new Set(),
    weight: new Set(),
    back: new Set(),
  };

  /** Calls back for readings, weights, or the stream's return, until the returned function is called. */
  on<K extends keyof MomentKinds>(kind: K, listener: (value: MomentKinds[K]) => void): () => void {
    this.listeners[kind].add(listener);
    return () => void this.listeners[kind].delete(listener);
  }

  tell<K extends keyof MomentKinds>(kind: K, value: MomentKinds[K]): void {
    this.listeners[kind].forEach((listener) => listener(value));
  }
}
