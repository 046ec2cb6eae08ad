import { Problem } from './problem.ts';

/** Deepest nesting of objects and lists taken; what the workshop knows needs fewer than ten. */
export const DEEPEST = 24;

// A NUL, or half of a surrogate pair: PostgreSQL holds neither in text or JSON.
// eslint-disable-next-line no-control-regex -- the NUL is what is looked for
const UNSTORABLE = /\u0000|[\uD800-\uDBFF](?![\uDC00-\uDFFF])|(?<![\uD800-\uDBFF])[\uDC00-\uDFFF]/;

/**
 * Refuses what one of the stores could not hold, before anything is journalled: text with a NUL or half a surrogate pair,
 * numbers that are not finite, and nesting beyond {@link DEEPEST}.
 *
 * @throws Problem 422 `not-storable` with the field
 */
export function requireStorable(value: unknown, field: string, depth = 0): void {
  if (typeof value === 'string') {
    if (UNSTORABLE.test(value))
      refuse(field, 'the text holds a character that cannot be kept (a NUL or half of a pair); leave it out');
  } else if (typeof value === 'number') {
    if (!Number.isFinite(value)) refuse(field, 'the number must be finite');
  } else if (Array.isArray(value)) {
    if (depth >= DEEPEST) refuse(field, `the entry is nested deeper than ${DEEPEST} levels`);
    for (let i = 0; i < value.length; i += 1)
      if (typeof value[i] !== 'number' || !Number.isFinite(value[i]))
        requireStorable(value[i], field ? `${field}.${i}` : String(i), depth + 1);
  } else if (value !== null && typeof value === 'object' && !(value instanceof Uint8Array)) {
    if (depth >= DEEPEST) refuse(field, `the entry is nested deeper than ${DEEPEST} levels`);
    for (const [key, inner] of Object.entries(value)) {
      if (UNSTORABLE.test(key)) refuse(field, 'a name holds a character that cannot be kept');
      requireStorable(inner, field ? `${field}.${key}` : key, depth + 1);
    }
  }
}

function refuse(field: string, detail: string): never {
  throw new Problem({
    status: 422,
    code: 'not-storable',
    ...(field && { field: field.slice(0, 200) }),
    detail: field ? `${field.slice(0, 200)}: ${detail}` : detail,
  });
}
