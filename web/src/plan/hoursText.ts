/** Hours of a day as they are typed: `8:30–12:30, 13:30–17:00`; nothing where nobody works. */
export const writeHours = (day: readonly (readonly [number, number])[]): string =>
  day.map(([a, b]) => `${clock(a)}–${clock(b)}`).join(', ');

const clock = (minute: number) => `${Math.floor(minute / 60)}:${String(minute % 60).padStart(2, '0')}`;

/** Reads such hours; null where they are not understood, run backwards or overlap. */
export function readHours(text: string): [number, number][] | null {
  if (text.trim() === '') return [];
  const spans: [number, number][] = [];
  for (const part of text.split(/[,;]/)) {
    const found = /^\s*(\d{1,2})(?:[:.](\d{2}))?\s*(?:-|–|—|to|bis)\s*(\d{1,2})(?:[:.](\d{2}))?\s*$/.exec(
      part,
    );
    if (!found) return null;
    const [, h1, m1 = '0', h2, m2 = '0'] = found;
    const [from, to] = [Number(h1) * 60 + Number(m1), Number(h2) * 60 + Number(m2)];
    if (Number(m1) > 59 || Number(m2) > 59 || to > 1440 || to <= from) return null;
    if (spans.length > 0 && from < spans.at(-1)![1]) return null;
    spans.push([from, to]);
  }
  return spans;
}
