import { lazy, Suspense, type ComponentType } from 'react';

/** What is not there yet. */
const waiting = new Set<() => Promise<unknown>>();

/**
 * A part of a page that is not needed to draw it, such as a dialog: its script comes when it is first shown, or once the first page stands
 * ({@link fetchParts}), whichever is sooner. Nothing stands in its place while it comes.
 *
 * @param load gives the part; called again where it could not be had
 */
export function later<Props extends object>(load: () => Promise<ComponentType<Props>>): ComponentType<Props> {
  waiting.add(load);
  const Part = lazy(() => load().then((part) => ({ default: part })));
  return function Later(props: Props) {
    return (
      <Suspense fallback={null}>
        <Part {...props} />
      </Suspense>
    );
  };
}

/** Fetches every part that has been named and is not there yet, so that it opens at once, and without the server. */
export function fetchParts(): void {
  for (const load of waiting) {
    waiting.delete(load);
    load().catch(() => waiting.add(load));
  }
}
