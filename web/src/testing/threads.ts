/** What a worker's file does with a message sent to it. */
type Listener = (event: { data: unknown; origin: string }) => void;

/** Files of workers that have been loaded, by address: each is loaded once and listens for good. */
const listeners = new Map<string, Promise<Listener>>();

/** One file is loaded at a time, so that each finds its own listener. */
let loading: Promise<unknown> = Promise.resolve();

/** Who asked what, by the id of the question. */
const askers = new Map<unknown, PageThread>();

function listenerOf(address: string): Promise<Listener> {
  const load = async () => {
    const { addEventListener } = globalThis;
    let found: Listener | null = null;
    globalThis.addEventListener = ((type: string, listener: unknown) => {
      if (type === 'message') found = listener as Listener;
    }) as typeof addEventListener;
    try {
      await import(address);
    } finally {
      globalThis.addEventListener = addEventListener;
    }
    if (!found) throw new Error(`${address} listens to nobody`);
    return found as Listener;
  };
  const known = listeners.get(address);
  if (known) return known;
  const loaded = loading.then(load);
  loading = loaded.catch(() => undefined);
  listeners.set(address, loaded);
  return loaded;
}

/**
 * A worker within the page's own process: it runs the worker's own file and answers what that answers. What is sent is copied, as between
 * threads; ended, it answers nobody.
 */
class PageThread extends EventTarget {
  private ended = false;
  private readonly listener: Promise<Listener>;
  constructor(address: URL | string) {
    super();
    this.listener = listenerOf(String(address));
    this.listener.catch((error: unknown) =>
      this.dispatchEvent(Object.assign(new Event('error'), { message: String(error) })),
    );
  }
  postMessage(message: { id: unknown }, transfer: Transferable[] = []): void {
    const data = structuredClone(message, { transfer });
    askers.set(data.id, this);
    void this.listener.then((listener) => {
      if (!this.ended) listener({ data, origin: '' });
    });
  }
  answer(message: unknown, transfer: Transferable[]): void {
    if (this.ended) return;
    this.dispatchEvent(new MessageEvent('message', { data: structuredClone(message, { transfer }) }));
  }
  terminate(): void {
    this.ended = true;
  }
}

/** Gives the page's workers something to run in. */
export function openThreads(): void {
  Object.assign(globalThis, {
    Worker: PageThread,
    // What a worker's file answers goes to whoever asked.
    postMessage: (message: { id: unknown }, transfer: Transferable[] = []) => {
      const asker = askers.get(message.id);
      askers.delete(message.id);
      asker?.answer(message, transfer);
    },
  });
}
