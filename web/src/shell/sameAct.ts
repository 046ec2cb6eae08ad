/** Ids made within so long before an act are its own: a second tap makes others, ms. */
const OWN = 100;

/** Times that differ by less were both “now”, ms. */
const SAME_TIME = 1_000;

const ID = /[0-9a-f]{8}-[0-9a-f]{4}-7[0-9a-f]{3}-[89ab][0-9a-f]{3}-[0-9a-f]{12}/g;
const TIME = /^\d{4}-\d\d-\d\dT\d\d:\d\d:\d\d(\.\d+)?Z$/;

/** What an act sends, and when, epoch ms. */
export interface Act {
  path: string;
  body: unknown;
  at: number;
}

/** Whether two acts say the same: alike but for the ids each makes for itself, and times a moment apart. */
export function isSameAct(a: Act, b: Act): boolean {
  const isSame = (x: unknown, y: unknown): boolean => {
    if (typeof x === 'string' && typeof y === 'string') {
      if (TIME.test(x) && TIME.test(y)) return Math.abs(Date.parse(x) - Date.parse(y)) < SAME_TIME;
      return x === y || withoutOwn(x, a.at) === withoutOwn(y, b.at);
    }
    if (typeof x !== 'object' || typeof y !== 'object' || x === null || y === null) return Object.is(x, y);
    const [from, to] = [Object.entries(x), new Map(Object.entries(y))];
    return from.length === to.size && from.every(([key, value]) => to.has(key) && isSame(value, to.get(key)));
  };
  return isSame([a.path, a.body], [b.path, b.body]);
}

/** A text with the ids left out that were made for an act; an id of version 7 tells when it was made. */
function withoutOwn(text: string, at: number): string {
  return text.replace(ID, (id) => {
    const madeAt = Number.parseInt(id.slice(0, 8) + id.slice(9, 13), 16);
    return at - madeAt < OWN ? '' : id;
  });
}
