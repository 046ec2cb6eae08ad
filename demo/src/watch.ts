import { schema, type Store } from '@wunsch/server';
import { ownersHand } from './owner.ts';

const { ingredient } = schema;

const DAY = 86_400_000;

const KG = 1_000_000;

/** What is to be had again from when on: sugar is watched by its bags, sleeves by their boxes. */
const POINTS = [
  { ingredient: 'cane-sugar', atLeast: 40 * KG },
  { ingredient: 'cocoa-butter', atLeast: 4 * KG },
];

/** Ways of looking that come back every week. */
const LOOKS = [
  { table: 'stock', name: 'For the market', query: 'find=bars&sort=best' },
  { table: 'trail', name: 'Corrections', query: 'find=correct' },
];

/** Sets what the demo’s workshop watches, and keeps two looks at its tables. */
export async function writeWatch(store: Store, now: number): Promise<void> {
  const hand = await ownersHand(store, '019406');
  if (!hand) return;
  const { actor, id } = hand;
  const at = new Date(now - 0.03 * DAY).toISOString();
  const shelf = await store.db.select().from(ingredient);
  for (const [k, { ingredient: name, atLeast }] of POINTS.entries()) {
    const of = shelf.find((i) => i.name === name || i.key === name);
    if (!of) continue;
    const body = { kind: 'ingredient', key: of.id, atLeast };
    await store.writer.submit({ kind: 'reorder.set', target: id(k), body, actor, at });
  }
  for (const [k, body] of LOOKS.entries())
    await store.writer.submit({ kind: 'look.keep', target: id(16 + k), body, actor, at });
}

/** Liquor bought in, most of it pressed on the small press into butter for the bars and powder for the counter. */
export async function writePressing(store: Store, now: number): Promise<void> {
  const hand = await ownersHand(store, '019407');
  if (!hand) return;
  const { actor, id } = hand;
  const parcelId = id(2);
  await store.writer.submit({
    kind: 'lot.receive',
    target: id(1),
    actor,
    at: new Date(now - 6 * DAY).toISOString(),
    body: {
      code: 'QL',
      name: 'Quayside liquor',
      material: 'liquor',
      notes: 'Ground for us; for the press.',
      pricePerKg: 1020,
      nibFat: 54,
      place: 'cool room',
      massMg: 14 * KG,
      receivedOn: new Date(now - 6 * DAY).toISOString().slice(0, 10),
      stepId: id(3),
      movementId: id(4),
      parcelId,
    },
  });
  await store.writer.submit({
    kind: 'liquor.press',
    target: id(5),
    actor,
    at: new Date(now - 2 * DAY).toISOString(),
    body: {
      parcelId,
      massMg: 10 * KG,
      takenId: id(6),
      butter: { movementId: id(7), parcelId: id(8), massMg: Math.round(4.14 * KG) },
      cake: { movementId: id(9), parcelId: id(10), massMg: Math.round(5.77 * KG) },
      lossId: id(11),
      liquorFat: 54,
    },
  });
}
