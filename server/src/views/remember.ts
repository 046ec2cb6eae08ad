/**
 * Remembers what a function gave for its latest inputs, told apart by their JSON. For models whose answer does not depend on the
 * clock, so that a page drawn again costs nothing.
 */
export function remember<I, O>(size: number, compute: (input: I) => O): (input: I) => O {
  const known = new Map<string, O>();
  return (input) => {
    const key = JSON.stringify(input);
    const found = known.get(key);
    if (found !== undefined) return found;
    const made = compute(input);
    if (known.size >= size) known.delete(known.keys().next().value!);
    known.set(key, made);
    return made;
  };
}
