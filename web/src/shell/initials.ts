/** Letters initials have at most. */
const MOST = 4;

/** Initials for a name that nobody has yet: of its words, else with more letters of the first, else with a number. */
export function initialsOf(name: string, taken: ReadonlySet<string>): string {
  const words = name
    .trim()
    .split(/\s+/)
    .map((w) => [...w.toLocaleUpperCase()]);
  const ofWords =
    words
      .map(([letter = '']) => letter)
      .join('')
      .slice(0, 3) || '?';
  const [first = []] = words;
  const last = words.length > 1 ? (words.at(-1)![0] ?? '') : '';
  const longer = [2, 3].map((n) => first.slice(0, n).join('') + last);
  const numbered = Array.from({ length: 99 }, (_, i) => {
    const number = String(i + 2);
    return ofWords.slice(0, MOST - number.length) + number;
  });
  return [ofWords, ...longer, ...numbered].find((i) => !taken.has(i)) ?? ofWords;
}

/**
 * Initials of people, each of them another's.
 *
 * @example initialsFor(['Mechthild', 'Malte', 'Ada Quill']) // ['M', 'MA', 'AQ']
 */
export function initialsFor(names: readonly string[]): string[] {
  const taken = new Set<string>();
  return names.map((name) => {
    const initials = initialsOf(name, taken);
    taken.add(initials);
    return initials;
  });
}
