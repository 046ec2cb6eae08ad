import { eq } from 'drizzle-orm';
import { v7 } from 'uuid';
import { WorkshopPut, type Person, type Workshop } from '@wunsch/contract';
import { drawBowl, drawOvenAccident } from '@wunsch/core/trainer';
import { step } from '../db/schema/index.ts';
import { openMemory } from '../store/memory.ts';
import type { Store } from '../store/store.ts';
import type { Lesson } from './lesson.ts';
import { NAMES } from './names.ts';
import { roastLesson } from './roastLesson.ts';
import { temperLesson } from './temperLesson.ts';

const BEGINS = Date.parse('2026-11-02T08:00:00Z');
const person: Person = {
  id: v7(),
  name: 'Olga',
  initials: 'OB',
  role: 'owner',
  active: true,
  demo: false,
  isNamed: false,
  version: 1,
};
const workshop: Workshop = {
  ...WorkshopPut.parse({
    name: 'Practice',
    shape: 'shop',
    currency: 'EUR',
    temperatureUnit: '°C',
    massSystem: 'metric',
  }),
  version: 1,
  createdAt: new Date(BEGINS).toISOString(),
};

/** A lesson whose clock is turned by hand. */
async function open(
  lesson: typeof roastLesson,
  seed: number,
): Promise<Lesson & { at: (s: number) => void; stir: (s: number) => Promise<void>; store: Store }> {
  let now = BEGINS;
  const store = await openMemory(() => now);
  const begun = await lesson({ store, person, workshop, level: 3, names: NAMES.en, seed });
  const start = now;
  const at = (seconds: number) => void (now = start + seconds * 1000);
  const stir = async (seconds: number) => {
    at(seconds);
    const stepId = (await store.db.select().from(step).where(eq(step.status, 'open')))[0]!.id;
    await store.writer.submit({
      kind: 'observation.add',
      target: v7(),
      actor: { id: person.id, initials: person.initials, role: person.role },
      body: { stepId, data: { kind: 'event', name: 'stirred', note: '' } },
    });
  };
  return { ...begun, store, at, stir };
}

const seedWith = (kindOf: (seed: number) => string | undefined) =>
  Array.from({ length: 60 }, (_, k) => k).find((k) => kindOf(k) === 'telephone')!;

test('a telephone rings at the bowl; taken, nobody moves or stirs the bowl until one rings off', async () => {
  const seed = seedWith((k) => drawBowl(k, 3).accident?.kind);
  const { at: rings } = drawBowl(seed, 3).accident!;
  const { at, hands, telephone, score, store } = await open(temperLesson, seed);
  at(rings - 5);
  expect(telephone!()).toBeNull();
  expect(() => hands!({ act: 'take-call' })).toThrow(/does not ring/);
  at(rings + 10);
  expect(telephone!()).toBe('rings');
  hands!({ act: 'take-call' });
  expect(telephone!()).toBe('talking');
  expect(() => hands!({ act: 'put', place: 'cool' })).toThrow(/your hand is at the telephone/);
  at(rings + 100);
  hands!({ act: 'end-call' });
  expect(telephone!()).toBeNull();
  at(rings + 101);
  hands!({ act: 'put', place: 'cool' });
  at(rings + 160);
  const came = await score();
  expect(came.accident).toEqual({ kind: 'telephone', minutes: rings / 60 });
  expect(came.replay.hands.map((h) => h.what)).toEqual(['take-call', 'end-call', 'cool']);
  await store.close();
});

test('at the oven what is noted from the telephone was not done; letting it ring costs nothing', async () => {
  const seed = seedWith((k) => drawOvenAccident(k, 3)?.kind);
  const { at: rings } = drawOvenAccident(seed, 3)!;
  const roasted = async (talks: boolean) => {
    const { at, hands, telephone, score, stir, store } = await open(roastLesson, seed);
    expect(() => hands!({ act: 'measure' })).toThrow(/nothing in this practice/);
    for (let s = 300; s < rings; s += 300) await stir(s);
    at(rings + 5);
    expect(telephone!()).toBe('rings');
    hands!({ act: talks ? 'take-call' : 'end-call' });
    for (let s = rings + 100; s < rings + 700; s += 200) await stir(s);
    expect(telephone!()).toBe(talks ? 'talking' : null);
    at(rings + 800);
    expect(telephone!()).toBeNull();
    const { marks, replay } = await score();
    await store.close();
    return { points: marks.find((m) => m.id === 'evenness')!.points, hands: replay.hands.map((h) => h.what) };
  };
  const [talked, left] = [await roasted(true), await roasted(false)];
  expect(talked.hands.filter((h) => h !== 'stir')).toEqual(['take-call', 'end-call']);
  expect(left.hands.filter((h) => h !== 'stir')).toEqual([]);
  expect(left.hands.length - talked.hands.length).toBe(3 - 2);
  expect(left.points).toBe(15);
  expect(talked.points).toBeLessThan(10);
});
