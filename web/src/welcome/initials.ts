/** Letters initials have at most. */
const MOST = 4;

/**
 * Initials of people, each of them another's: of the words of a name, else with more letters of the first, else with a number.
 *
 * @example initialsFor(['Mechthild', 'Malte', 'Ada Quill']) // ['M', 'MA', 'AQ']
 */
export function initialsFor(names: readonly string[]): string[] {
  const taken = new Set<string>();
  return names.map((name) => {
    const words = name
      .trim()
      .split(/\s+/)
      .map((w) => [...w.toLocaleUpperCase()]);
    const ofWords =
      words
        .map(([first = '']) => first)
        .join('')
        .slice(0, 3) || '?';
    const [first = []] = words;
    const last = words.length > 1 ? (words.at(-1)![0] ?? '') : '';
    const longer = [2, 3].map((n) => first.slice(0, n).join('') + last);
    const numbered = Array.from({ length: 99 }, (_, i) => {
      const number = String(i + 2);
      return ofWords.slice(0, MOST - number.length) + number;
    });
    const initials = [ofWords, ...longer, ...numbered].find((i) => !taken.has(i)) ?? ofWords;
    taken.add(initials);
    return initials;
  });
}
