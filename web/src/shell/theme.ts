import { useSyncExternalStore } from 'react';

/** Light by day, dark in the evening, as the person chooses or the system says. */
export type Theme = 'light' | 'dark';

const KEY = 'wunsch.theme';
const listeners = new Set<() => void>();

function current(): Theme {
  const chosen = localStorage.getItem(KEY);
  if (chosen === 'light' || chosen === 'dark') return chosen;
  return matchMedia('(prefers-color-scheme: dark)').matches ? 'dark' : 'light';
}

function apply(): void {
  document.documentElement.dataset.theme = current();
  document.documentElement.style.colorScheme = current();
}

/** Sets the theme before anything is drawn. */
export function startTheme(): void {
  apply();
  matchMedia('(prefers-color-scheme: dark)').addEventListener('change', () => {
    apply();
    listeners.forEach((l) => l());
  });
}

/** Chooses a theme and keeps it. */
export function setTheme(theme: Theme): void {
  localStorage.setItem(KEY, theme);
  apply();
  listeners.forEach((l) => l());
}

/** The theme in force. */
export function useTheme(): Theme {
  return useSyncExternalStore((l) => {
    listeners.add(l);
    return () => listeners.delete(l);
  }, current);
}
