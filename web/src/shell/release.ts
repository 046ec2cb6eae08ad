import { useSyncExternalStore } from 'react';

/** How often a page that stays open looks whether the workshop was upgraded, ms. */
const LOOK_EVERY = 30 * 60_000;

/** A page that could not load a part of itself loads itself anew, but not twice within this time, ms. */
const ONCE_WITHIN = 20_000;

const LOADED_ANEW = 'wunsch.loaded-anew';

let registration: ServiceWorkerRegistration | null = null;
let load: (() => void) | null = null;
const listeners = new Set<() => void>();

function offer(how: () => void): void {
  load = how;
  for (const tell of listeners) tell();
}

/** Hands the page over to a worker that waits, and loads it anew from there. */
function take(worker: ServiceWorker): void {
  navigator.serviceWorker.addEventListener('controllerchange', () => location.reload(), { once: true });
  worker.postMessage({ type: 'SKIP_WAITING' });
}

/**
 * Keeps the pages as the server has them. A browser shows what it stored until every page is closed, and a tablet on a bench never is: what an
 * upgrade brought is taken at once where the page has only just been opened, and offered where somebody may be at work in it.
 */
export async function startRelease(): Promise<void> {
  // A part of an older release may be gone from the server and from the store by the time it is wanted.
  window.addEventListener('vite:preloadError', (event) => {
    if (Date.now() - Number(sessionStorage.getItem(LOADED_ANEW) ?? 0) < ONCE_WITHIN) return;
    sessionStorage.setItem(LOADED_ANEW, String(Date.now()));
    event.preventDefault();
    location.reload();
  });
  const workers = navigator.serviceWorker as ServiceWorkerContainer | undefined;
  if (!workers) return;
  const wasShownByOne = workers.controller !== null;
  registration = await workers.register('/sw.js', { scope: '/' }).catch(() => null);
  if (!registration) return;
  if (registration.waiting && wasShownByOne) return take(registration.waiting);
  // Another page took it: this one is of the release before.
  if (wasShownByOne) workers.addEventListener('controllerchange', () => offer(() => location.reload()));
  registration.addEventListener('updatefound', () => {
    const { installing: coming, active: before } = registration!;
    // The first to come is what this page was loaded from.
    if (!coming || !before) return;
    coming.addEventListener('statechange', () => {
      if (coming.state === 'installed')
        offer(() => (registration!.waiting === coming ? take(coming) : location.reload()));
    });
  });
  setInterval(lookForRelease, LOOK_EVERY);
}

/** Asks the server whether its pages have changed; after it was away it may have been upgraded. */
export function lookForRelease(): void {
  void registration?.update().catch(() => undefined);
}

/** Loads the newer release that has come while this page was open; null while there is none. */
export function useNewRelease(): (() => void) | null {
  return useSyncExternalStore(
    (tell) => {
      listeners.add(tell);
      return () => listeners.delete(tell);
    },
    () => load,
  );
}
