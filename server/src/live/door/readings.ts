import { v7 as uuidV7 } from 'uuid';
import type { Store } from '../../store/store.ts';
import type { DoorReading } from './body.ts';
import { asMachine, type DoorBook, type Owner, type Running } from './book.ts';

/** Furthest a reading may lie before its step began and after now, ms: what is further off comes from a board whose clock is wrong. */
const BEFORE_START = 90 * 86_400_000;
const AFTER_NOW = 3_600_000;

/** Name of the event that tells of a board whose clock is wrong. */
const CLOCK_EVENT = 'board-clock';

/** Most readings in one entry. */
const MOST_READINGS = 5000;

/** What became of readings a board sent. */
export interface Taken {
  accepted: number;
  stepId: string;
  /** How many lie too far from now to be kept, and what to do about it. */
  putAside?: number;
  warning?: string;
}

/** Gives readings to the step that runs on a machine; those of a clock that is wrong are put aside and told of. */
export async function takeReadings(
  store: Store,
  book: DoorBook,
  owner: Owner,
  readings: readonly DoorReading[],
): Promise<Taken> {
  const running = await book.openStep(owner);
  const { stepId } = running;
  const now = store.now();
  const isNear = (r: DoorReading) => r.at >= running.startedAt - BEFORE_START && r.at <= now + AFTER_NOW;
  const near = readings.filter(isNear);
  const far = readings.find((r) => !isNear(r));
  if (far) await warnOfClock(store, book, owner, running, far);
  await Promise.all(
    byProbe(near)
      .flatMap(inParts)
      .map((list) => {
        const start = list.reduce((first, r) => Math.min(first, r.at), Infinity);
        return store.writer.submit({
          kind: 'readings.stream',
          target: uuidV7(),
          actor: asMachine(owner),
          body: {
            stepId,
            place: list[0]!.place,
            probe: list[0]!.probe,
            source: owner.name,
            startedAt: new Date(start).toISOString(),
            seconds: list.map((r) => (r.at - start) / 1000),
            celsius: list.map((r) => r.celsius),
          },
        });
      }),
  );
  const putAside = readings.length - near.length;
  return {
    accepted: near.length,
    stepId,
    ...(far && {
      putAside,
      warning: `${putAside} readings lie far from now, e.g. ${new Date(far.at).toISOString()}: the clock of the board is wrong; set it, or leave the time out`,
    }),
  };
}

/** Readings of each probe at each place, in the order in which they are first told of. */
function byProbe(readings: readonly DoorReading[]): DoorReading[][] {
  const groups = new Map<string, DoorReading[]>();
  for (const r of readings) {
    const key = `${r.place}\n${r.probe}`;
    const group = groups.get(key);
    if (group) group.push(r);
    else groups.set(key, [r]);
  }
  return [...groups.values()];
}

function inParts(list: readonly DoorReading[]): DoorReading[][] {
  const parts: DoorReading[][] = [];
  for (let i = 0; i < list.length; i += MOST_READINGS) parts.push(list.slice(i, i + MOST_READINGS));
  return parts;
}

/** Tells of a board whose clock is wrong, once for each step. */
async function warnOfClock(
  store: Store,
  book: DoorBook,
  owner: Owner,
  { stepId, batchId }: Running,
  reading: DoorReading,
): Promise<void> {
  if (book.warned.has(stepId)) return;
  book.warned.add(stepId);
  await store.writer.submit({
    kind: 'observation.add',
    target: uuidV7(),
    actor: asMachine(owner),
    body: {
      batchId,
      stepId,
      data: {
        kind: 'event',
        name: CLOCK_EVENT,
        note: `${owner.name}: ${new Date(reading.at).toISOString()}`,
      },
    },
  });
}
