import { createHash } from 'node:crypto';
import { z } from 'zod';
import { refusedFields, type Issue } from '../http/refusedFields.ts';
import { requireStorable } from '../http/storable.ts';
import type { Handler, OldEntry } from './command.ts';

/** An entry whose version this release does not know: it was written by a newer one. */
export class NewerVersionError extends Error {
  constructor(kind: string, version: number, known: number) {
    super(
      `${kind} of version ${version} was written by a newer release; this one knows versions up to ${known}`,
    );
    this.name = 'NewerVersionError';
  }
}

/**
 * A body as its handler takes it: checked for what no store can hold, and parsed.
 *
 * @throws Problem 422 `not-valid` with the field and what would be right
 */
export function parseBody(handler: Handler, body: unknown): unknown {
  requireStorable(body, '');
  const parsed = handler.body.safeParse(body);
  if (parsed.success) return parsed.data;
  throw refusedFields(parsed.error.issues as unknown as Issue[]);
}

/**
 * A journalled body brought up to the version of today and parsed.
 *
 * @throws NewerVersionError for a version not known yet
 * @throws Problem where it does not parse, or an upcaster is missing
 */
export function readBody(handler: Handler, version: number, body: unknown, entry: OldEntry): unknown {
  if (version > handler.version) throw new NewerVersionError(handler.kind, version, handler.version);
  let current = body;
  for (let v = version; v < handler.version; v += 1) {
    const up = handler.upcasters?.[v];
    if (!up) throw new Error(`${handler.kind} has no upcaster from version ${v}`);
    current = up(current as Record<string, unknown>, entry);
  }
  return parseBody(handler, current);
}

/** JSON with the names of every object in order, so that equal bodies give equal text. */
function canonical(value: unknown): string {
  return JSON.stringify(value, (_, inner: unknown) =>
    inner !== null && typeof inner === 'object' && !Array.isArray(inner)
      ? Object.fromEntries(Object.entries(inner).sort(([a], [b]) => (a < b ? -1 : 1)))
      : inner,
  );
}

/** Fingerprint by which a repeated entry is told from another one under the same id. */
export function bodyHash(body: unknown): string {
  return createHash('sha256').update(canonical(body)).digest('hex').slice(0, 32);
}

/** A body that is not there. */
export const NoBody = z.object({});
