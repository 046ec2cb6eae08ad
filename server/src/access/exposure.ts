import { and, eq } from 'drizzle-orm';
import type { Db } from '../db/database.ts';
import { person } from '../db/schema/index.ts';

/** Whether an address is reachable only from this machine. */
export function isLoopback(host: string): boolean {
  return host === 'localhost' || host === '::1' || host.startsWith('127.');
}

/** Refuses to listen beyond this machine while demo accounts, which need no password, exist. */
export async function requireSafeAddress(db: Db, host: string): Promise<void> {
  if (isLoopback(host)) return;
  const [demo] = await db
    .select({ id: person.id })
    .from(person)
    .where(and(eq(person.demo, true), eq(person.active, true)))
    .limit(1);
  if (demo)
    throw new Error(
      `not listening on ${host}: demo accounts without passwords exist; deactivate them, or listen on 127.0.0.1`,
    );
}
