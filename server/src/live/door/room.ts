import { and, desc, eq } from 'drizzle-orm';
import { v7 as uuidV7 } from 'uuid';
import { observation } from '../../db/schema/index.ts';
import type { Store } from '../../store/store.ts';
import { asMachine, type Owner } from './book.ts';

/** Least time between room readings that are kept, ms, unless the room has changed. */
const ROOM_EVERY = 15 * 60_000;

/** A room that changes more often than so many times in so long, ms, has a sensor in a draught: what it says in between is not kept. */
const ROOM_CHANGES = { most: 5, within: 5 * 60_000 } as const;

/** What a room is like: °C, and relative humidity, %. */
interface Room {
  celsius: number;
  humidity: number;
}

/** Keeps what a room is like where it has changed, or a while has gone by; answers whether it was kept. */
export async function takeRoom(store: Store, owner: Owner, { celsius, humidity }: Room): Promise<boolean> {
  const lately = await store.db
    .select({ at: observation.at, data: observation.data })
    .from(observation)
    .where(and(eq(observation.kind, 'room'), eq(observation.voided, false)))
    .orderBy(desc(observation.at))
    .limit(ROOM_CHANGES.most);
  const now = store.now();
  const since = (at: string | undefined) => (at === undefined ? Infinity : now - Date.parse(at));
  const [last] = lately;
  const flaps = since(lately[ROOM_CHANGES.most - 1]?.at) < ROOM_CHANGES.within;
  const before = last?.data as Room | undefined;
  const changed =
    !before || Math.abs(before.celsius - celsius) >= 1 || Math.abs(before.humidity - humidity) >= 4;
  const isKept = (changed && !flaps) || since(last?.at) >= ROOM_EVERY;
  if (isKept)
    await store.writer.submit({
      kind: 'observation.add',
      target: uuidV7(),
      actor: asMachine(owner),
      body: {
        batchId: null,
        stepId: null,
        lotId: null,
        replaces: null,
        data: { kind: 'room', celsius, humidity },
      },
    });
  return isKept;
}
