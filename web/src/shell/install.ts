import { useSyncExternalStore } from 'react';

/** What a browser hands over when a page may be installed (Web Application Manifest, `beforeinstallprompt`). */
interface InstallOffer extends Event {
  prompt(): Promise<void>;
  readonly userChoice: Promise<{ outcome: 'accepted' | 'dismissed' }>;
}

let offer: InstallOffer | null = null;
const listeners = new Set<() => void>();

function set(next: InstallOffer | null): void {
  offer = next;
  for (const tell of listeners) tell();
}

/** Keeps the browser's offer to install the page for where the maker looks for it, in place of the browser's own strip over the work. */
export function startInstall(): void {
  window.addEventListener('beforeinstallprompt', (event) => {
    event.preventDefault();
    set(event as InstallOffer);
  });
  window.addEventListener('appinstalled', () => set(null));
}

/** Whether the page runs as an installed one already. */
const isInstalled = () =>
  typeof window.matchMedia === 'function' && window.matchMedia('(display-mode: standalone)').matches;

/** How Wunsch comes onto this device's home screen: asked of the browser, by hand in its menu, or there already. */
export function useInstall(): { way: 'ask' | 'menu' | 'done'; install: () => Promise<void> } {
  const current = useSyncExternalStore(
    (tell) => {
      listeners.add(tell);
      return () => listeners.delete(tell);
    },
    () => offer,
  );
  return {
    way: current ? 'ask' : isInstalled() ? 'done' : 'menu',
    // An offer can be used once; a browser that was refused makes another when it thinks fit.
    install: async () => {
      if (!current) return;
      await current.prompt();
      await current.userChoice;
      set(null);
    },
  };
}
