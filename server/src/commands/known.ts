import { sql } from 'drizzle-orm';
import type { Topic } from '@wunsch/contract';
import type { Db } from '../db/database.ts';
import { instantOf, rowsOf } from '../db/raw.ts';
import { bodyHash, readBody } from './body.ts';
import type { Handler } from './command.ts';

/** An entry accepted before. */
export interface Known {
  seq: number;
  /** Fingerprint of its body; null where that is kept elsewhere. */
  hash: string | null;
  touches: readonly Topic[];
  batchId: string | null;
}

/** An entry as the trail keeps it; the body of those alone that have no fingerprint. */
interface Row {
  seq: number | string;
  version: number;
  hash: string | null;
  body: unknown;
  target: string;
  kind: string;
  at: string;
  touches: Topic[];
  batchId: string | null;
}

// Written out, since it is asked for every group: one text, however many targets.
const EARLIER = sql`select seq, version, body_hash as hash, case when body_hash is null then body end as body, target, kind,
  ${instantOf('at')} as at, touches, batch_id as "batchId" from trail
  where undone_by is null and target = any (array (select json_array_elements_text(`;
const IN_ORDER = sql.raw('))) order by seq');

/** Under what an entry is known: only the same kind under the same target can be the same again. */
export const keyOf = (r: { target: string; kind: string }) => `${r.kind} ${r.target}`;

/**
 * The newest entry in force of each kind under some targets.
 *
 * @param handlerOf the handler of a kind, if this release knows one
 * @returns by {@link keyOf}
 */
export async function knownEntries(
  tx: Db,
  targets: readonly string[],
  handlerOf: (kind: string) => Handler | undefined,
): Promise<Map<string, Known>> {
  const asked = JSON.stringify([...new Set(targets)]);
  const rows = rowsOf<Row>(await tx.execute(sql`${EARLIER}${asked}${IN_ORDER}`));
  return new Map(
    rows.map((row) => [
      keyOf(row),
      { ...row, seq: Number(row.seq), hash: row.hash ?? hashOfOld(row, handlerOf(row.kind)) },
    ]),
  );
}

/** Fingerprint of an entry kept by an older release; null where its body is kept elsewhere. */
function hashOfOld(row: Row, handler: Handler | undefined): string | null {
  if (!handler || row.body === null || row.body === undefined) return null;
  const body = typeof row.body === 'string' ? (JSON.parse(row.body) as unknown) : row.body;
  try {
    return bodyHash(readBody(handler, row.version, body, { ...row, seq: Number(row.seq) }));
  } catch {
    return '';
  }
}
