import type { Words } from './words.tsx';

/** Named things in the order of the alphabet, by what they are called in the reader's language. */
export function inOrder<T extends { name: string }>(words: Words, group: string, things: readonly T[]): T[] {
  const called = (thing: T) => words.word(group, thing.name);
  return [...things].sort((a, b) => called(a).localeCompare(called(b), words.language));
}
