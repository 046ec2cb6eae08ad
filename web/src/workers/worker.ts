import { proxy, wrap, type Remote } from 'comlink';

/** Work was given up because somebody cancelled it. */
export class WorkCancelled extends Error {
  constructor() {
    super('the work was cancelled');
    this.name = 'WorkCancelled';
  }
}

/** Work ended because its thread broke down. */
export class WorkerBroken extends Error {
  constructor(why: string) {
    super(`the thread for heavy work broke down: ${why}`);
    this.name = 'WorkerBroken';
  }
}

/** How a piece of work may be given up and followed. */
export interface Work {
  /** Gives the work up; whatever else the thread was at is given up with it. */
  signal?: AbortSignal;
}

/** A thread for heavy computation, started when it is first needed. */
export interface WorkerDoor<Api> {
  /**
   * Does a piece of work on the thread.
   *
   * @throws WorkCancelled where it was given up, WorkerBroken where the thread ended, or what the work itself threw
   */
  ask: <R>(run: (api: Remote<Api>) => Promise<R>, work?: Work) => Promise<R>;
  /** Gives up everything the thread is at; the next question starts another. */
  cancel: () => void;
}

interface Running<Api> {
  thread: Worker;
  api: Remote<Api>;
  /** Rejects when the thread ends before its answers; never resolves. */
  ended: Promise<never>;
  end: (why: Error) => void;
}

/** Opens the door of a thread; `start` makes it. One helper for every kind of heavy work. */
export function openWorker<Api>(start: () => Worker): WorkerDoor<Api> {
  let running: Running<Api> | null = null;

  const begin = (): Running<Api> => {
    const thread = start();
    let reject: (why: Error) => void = () => undefined;
    const ended = new Promise<never>((_, no) => (reject = no));
    // Nobody may be waiting when it ends.
    ended.catch(() => undefined);
    const begun: Running<Api> = {
      thread,
      api: wrap<Api>(thread),
      ended,
      end(why) {
        if (running === begun) running = null;
        thread.terminate();
        reject(why);
      },
    };
    thread.addEventListener('error', (event) =>
      begun.end(new WorkerBroken(event.message || 'no reason given')),
    );
    thread.addEventListener('messageerror', () => begun.end(new WorkerBroken('an answer could not be read')));
    return begun;
  };

  const cancel = () => running?.end(new WorkCancelled());

  return {
    cancel,
    async ask(run, { signal } = {}) {
      if (signal?.aborted) throw new WorkCancelled();
      running ??= begin();
      const mine = running;
      const giveUp = () => mine.end(new WorkCancelled());
      signal?.addEventListener('abort', giveUp, { once: true });
      try {
        return await Promise.race([run(mine.api), mine.ended]);
      } finally {
        signal?.removeEventListener('abort', giveUp);
      }
    },
  };
}

/** A callback that work on the thread may call to tell how far it has come. */
export function progressOf<T>(tell: (how: T) => void): (how: T) => void {
  return proxy(tell);
}
