import { useRead } from './door.tsx';

/** A page that could not load a part of itself loads itself anew, but not twice within this time, ms. */
const ONCE_WITHIN = 20_000;

const LOADED_ANEW = 'wunsch.loaded-anew';

/** How often a page looks whether the workshop is there, and of which release, ms. */
export const LOOK_EVERY = 8000;

/** What `/api/health/ready` answers while the workshop can be worked with. */
export interface Ready {
  /** The build whose pages the server hands out; null where it hands out none. */
  release: string | null;
}

/** The build this page was loaded from; null on a bench without a build. */
const mine = () => document.querySelector<HTMLMetaElement>('meta[name=release]')?.content ?? null;

/** Whether the server hands out other pages by now than the one that is open: a tablet on a bench is never closed. */
export function useIsOld(): boolean {
  const { data } = useRead<Ready>('/api/health/ready', { refreshInterval: LOOK_EVERY });
  const own = mine();
  return own !== null && typeof data?.release === 'string' && data.release !== own;
}

/**
 * Keeps a copy of the pages in the browser for when the server is away, and the copy as new as the page that is open. Where there is a server
 * the page itself always comes from there (vite.config.ts): a browser otherwise goes on showing what it stored until every page is closed.
 */
export async function startRelease(): Promise<void> {
  // A part of an older release may be gone from the server and from the copy by the time it is wanted.
  window.addEventListener('vite:preloadError', (event) => {
    if (Date.now() - Number(sessionStorage.getItem(LOADED_ANEW) ?? 0) < ONCE_WITHIN) return;
    sessionStorage.setItem(LOADED_ANEW, String(Date.now()));
    event.preventDefault();
    location.reload();
  });
  const workers = navigator.serviceWorker as ServiceWorkerContainer | undefined;
  const registration = await workers?.register('/sw.js', { scope: '/' }).catch(() => null);
  registration?.waiting?.postMessage({ type: 'SKIP_WAITING' });
}
