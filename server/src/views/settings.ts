import { workshop } from '../db/schema/index.ts';
import type { Db } from '../db/database.ts';
import { readSettings } from './stored.ts';

/** The workshop’s settings, whole whatever an older release stored. */
export type WorkshopSettings = ReturnType<typeof readSettings>;

/** The workshop’s settings as they stand; the usual ones where none is set up yet. */
export async function loadSettings(db: Db): Promise<WorkshopSettings> {
  const [shop] = await db.select({ settings: workshop.settings }).from(workshop);
  return readSettings(shop?.settings);
}
