import { and, between, sql } from 'drizzle-orm';
import { existsSync } from 'node:fs';
import { readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { Db } from '../db/database.ts';
import { flush } from '../db/files.ts';
import { trail } from '../db/schema/index.ts';
import type { JournalHole } from '../journal/journal.ts';

/** A journal with stretches that are not there. Nothing is opened until the owner has decided. */
export class JournalHolesError extends Error {
  constructor(
    readonly holes: readonly JournalHole[],
    details: readonly string[],
  ) {
    super(
      [
        'the journal is not whole; nothing has been changed:',
        ...details.map((d) => `  - ${d}`),
        'Put the missing files back from a backup. To go on without them, start once with WUNSCH_ACCEPT_GAPS=yes.',
      ].join('\n'),
    );
    this.name = 'JournalHolesError';
  }
}

const ACCEPTED = 'accepted-gaps.json';
const same = (a: JournalHole, b: JournalHole) => a.from === b.from && a.to === b.to && a.why === b.why;

/** Holes the owner has decided to live with. */
async function acceptedHoles(directory: string): Promise<JournalHole[]> {
  const path = join(directory, ACCEPTED);
  return existsSync(path) ? (JSON.parse(await readFile(path, 'utf8')) as JournalHole[]) : [];
}

/** Says of a hole which entries it is and, where the store still knows them, what they were. */
async function describeHole(db: Db, hole: JournalHole): Promise<string> {
  const count = hole.to - hole.from + 1;
  const which = count === 1 ? `entry ${hole.from}` : `entries ${hole.from} to ${hole.to} (${count})`;
  const where = hole.file ? `${hole.file}${hole.line ? ` line ${hole.line}` : ''}: ` : '';
  const what =
    hole.why === 'damaged'
      ? 'cannot be read'
      : hole.why === 'replaced'
        ? 'does not follow the line before it'
        : count === 1
          ? 'is missing'
          : 'are missing';
  const kinds = await db
    .select({
      kind: trail.kind,
      count: sql<string>`count(*)`,
      first: sql<string>`min(${trail.at})::text`,
      last: sql<string>`max(${trail.at})::text`,
    })
    .from(trail)
    .where(and(between(trail.seq, hole.from, hole.to)))
    .groupBy(trail.kind)
    .orderBy(sql`count(*) desc`);
  const known =
    kinds.length > 0
      ? `the store still has ${kinds.map((k) => `${k.count} ${k.kind}`).join(', ')} of ${kinds
          .map((k) => k.first.slice(0, 10))
          .sort()
          .at(0)} to ${kinds
          .map((k) => k.last.slice(0, 10))
          .sort()
          .at(-1)}, but could not be rebuilt with them`
      : 'what they were is not known any more';
  return `${where}${which} ${what}; ${known}`;
}

/**
 * Refuses to go on with a journal that is not whole until the owner has decided.
 *
 * @throws JournalHolesError that says exactly what is missing and what it concerns
 */
export async function requireWholeJournal(options: {
  db: Db;
  directory: string;
  holes: readonly JournalHole[];
  accept: boolean;
}): Promise<void> {
  const { db, directory, holes, accept } = options;
  const accepted = await acceptedHoles(directory);
  const open = holes.filter((h) => !accepted.some((a) => same(a, h)));
  if (open.length === 0) return;
  if (!accept) {
    const details: string[] = [];
    for (const hole of open) details.push(await describeHole(db, hole));
    throw new JournalHolesError(open, details);
  }
  const path = join(directory, ACCEPTED);
  await writeFile(path, JSON.stringify([...accepted, ...open]), { mode: 0o600 });
  await flush(path);
}
