import { sql } from 'drizzle-orm';
import type { EntryKind } from '@wunsch/contract';
import { seededRandom } from '@wunsch/core/numerics';
import { rowsOf } from '../db/raw.ts';
import { DATABASES, openWorkshop, type TestWorkshop } from '../testing/workshop.ts';

/** Entries of the whole run, more where they are asked for (`npm run trials`), and most of them sent in the same moment. */
const ENTRIES = Number(process.env.WUNSCH_TOGETHER ?? 120);
const AT_ONCE = 10;

/** An entry as it is sent to each of the workshops. */
interface Sent {
  kind: EntryKind;
  target: string;
  body: object;
}

const random = seededRandom(20261130);
const upTo = (n: number) => Math.floor(random() * n);
const oneOf = <T>(list: readonly T[]): T => list[upTo(list.length)]!;
/** Ids of chance that are the same in every run. */
const newId = () => {
  const hex = Array.from({ length: 32 }, () => upTo(16).toString(16)).join('');
  return `${hex.slice(0, 8)}-${hex.slice(8, 12)}-7${hex.slice(13, 16)}-8${hex.slice(17, 20)}-${hex.slice(20)}`;
};

const SUGAR = {
  cocoaButter: 0,
  otherFat: 0,
  milkFat: 0,
  cocoaSolids: 0,
  milkSolids: 0,
  otherSolids: 0,
  sugar: 100,
  water: 0,
  emulsifier: 0,
};

const lotId = newId();
const sack = newId();
const [batchId, otherBatch] = [newId(), newId()];
const [ingredientId, scarceId] = [newId(), newId()];
const bags = [newId(), newId(), newId()];

/** A lot, two batches of it, an ingredient with three deliveries that are soon used up, and one with a small one. */
const SET_UP: readonly Sent[] = [
  {
    kind: 'lot.receive',
    target: lotId,
    body: {
      code: 'TG',
      name: 'Together',
      massMg: 200_000_000,
      receivedOn: '2026-09-01',
      stepId: newId(),
      movementId: newId(),
      parcelId: sack,
    },
  },
  { kind: 'batch.start', target: batchId, body: { code: 'TG-1', lotId } },
  { kind: 'batch.start', target: otherBatch, body: { code: 'TG-2', lotId } },
  ...[ingredientId, scarceId].map((target, i) => ({
    kind: 'ingredient.put' as const,
    target,
    body: { name: `Beet sugar ${i}`, key: `beet-${i}`, cacao: 'none', composition: SUGAR },
  })),
  ...[...bags, newId()].map((parcelId, i) => ({
    kind: 'supply.receive' as const,
    target: newId(),
    body: {
      ingredientId: i < bags.length ? ingredientId : scarceId,
      name: 'Beet sugar',
      massMg: i < bags.length ? 300_000 * (i + 1) : 50_000,
      pricePerKg: 100 + i,
      receivedOn: `2026-10-0${i + 1}`,
      stepId: newId(),
      movementId: newId(),
      parcelId,
    },
  })),
];

const steps: string[] = [];
const parcels = [sack, ...bags];
const made: { stepId: string; parcelId: string }[] = [];
const lines: string[] = [];
const notes: string[] = [];

/** Takes one of the last of a list out of it. */
const pick = (list: string[], last: number): string =>
  list.splice(Math.max(0, list.length - 1 - upTo(last)), 1)[0]!;

/**
 * What hands at the bench send. Where they are careless some of it is refused: more than there is, a step that is closed, a line put right
 * before, what is no longer the last.
 */
function anything(careless: boolean): Sent {
  const stepId = steps.length > 0 ? oneOf(steps.slice(careless ? -3 : -1)) : '';
  const dice = steps.length === 0 ? 0 : upTo(careless ? 100 : 92);
  const id = newId();
  const line = (body: object): Sent => {
    lines.push(id);
    return { kind: 'movement.add', target: id, body: { stepId, ...body } };
  };
  if (dice < 5) {
    steps.push(id);
    return {
      kind: 'step.open',
      target: id,
      body: { batchId: oneOf([batchId, otherBatch]), station: 'sort' },
    };
  }
  if (dice < 30)
    return line({
      direction: 'in',
      parcelId: careless ? oneOf(parcels) : sack,
      massMg: dice === 29 && careless ? null : 200_000 + upTo(300_000),
    });
  if (dice < 42) return line({ direction: 'in', ingredientId, massMg: 1000 + upTo(60_000) });
  if (dice < 58) {
    const mine = made.filter((m) => m.stepId === stepId);
    const parcelId = mine.length > 0 && upTo(2) === 0 ? oneOf(mine).parcelId : newId();
    made.push({ stepId, parcelId });
    parcels.push(parcelId);
    return line({
      direction: 'out',
      parcelId,
      material: careless ? oneOf(['sorted beans', 'sorted beans', 'rejects']) : 'sorted beans',
      massMg: dice === 57 && careless ? null : 1000 + upTo(20_000),
    });
  }
  if (dice < 62) return line({ direction: 'loss', reason: 'flat', massMg: 1 + upTo(3000) });
  if (dice < 76 && lines.length > 0) {
    const movementId = careless ? oneOf(lines.slice(-12)) : pick(lines, 12);
    lines.push(id);
    return {
      kind: 'movement.correct',
      target: id,
      body: { movementId, massMg: 1000 + upTo(careless ? 300_000 : 20_000), reason: 'misread' },
    };
  }
  if (dice < 92) {
    const replaces = notes.length > 0 && upTo(4) === 0 ? pick(notes, 4) : null;
    notes.push(id);
    return {
      kind: 'observation.add',
      target: id,
      body: { batchId, stepId: upTo(2) ? stepId : null, replaces, data: { kind: 'note', text: `“${dice}”` } },
    };
  }
  if (dice < 94)
    return {
      kind: 'step.close',
      target: stepId,
      body: { remainder: 'dust', remainderId: id, handsOnMinutes: 5 },
    };
  // What is to be taken back is known once it is sent: see below.
  return { kind: 'undo', target: id, body: { seq: 0 } };
}

/** What one entry of a moment does to the next. */
function chained(): readonly Sent[][] {
  const [stepId, out, rest, emptied] = [newId(), newId(), newId(), newId()];
  const [again, first, second, other] = [newId(), newId(), newId(), newId()];
  const line = (target: string, body: object): Sent => ({
    kind: 'movement.add',
    target,
    body: { stepId, ...body },
  });
  const right = (movementId: string, massMg: number, target = newId()): Sent => ({
    kind: 'movement.correct',
    target,
    body: { movementId, massMg, reason: 'misread' },
  });
  const sorted = { direction: 'out', material: 'sorted beans' };
  return [
    // All of a delivery; put right to less, and more of it taken from the shelf that was bare; a weight put right twice.
    [
      { kind: 'step.open', target: stepId, body: { batchId, station: 'sort' } },
      line(emptied, { direction: 'in', ingredientId: scarceId, massMg: 50_000 }),
    ],
    [
      line(newId(), { direction: 'in', ingredientId: scarceId, massMg: 1000 }),
      right(emptied, 10_000, again),
      line(newId(), { direction: 'in', ingredientId: scarceId, massMg: 30_000 }),
      right(again, 15_000),
    ],
    [
      line(first, { direction: 'in', parcelId: sack, massMg: 900_000 }),
      line(rest, { ...sorted, parcelId: out, massMg: null }),
    ],
    [
      { kind: 'step.open', target: other, body: { batchId, station: 'sort' } },
      line(newId(), { stepId: other, direction: 'in', parcelId: sack, massMg: 60_000 }),
      line(newId(), { ...sorted, stepId: other, parcelId: newId(), massMg: null }),
      line(newId(), { stepId: other, direction: 'in', parcelId: sack, massMg: 50_000 }),
    ],
    // What is left has come out, and follows what is weighed in: refused to who then puts the old weight right.
    [line(newId(), { direction: 'in', parcelId: sack, massMg: 4000 }), right(rest, 1000)],
    // It follows what is put right in the same moment, too.
    [
      line(second, { direction: 'in', parcelId: sack, massMg: 100_000 }),
      right(first, 800_000),
      line(newId(), { direction: 'loss', reason: 'flat', massMg: 500 }),
    ],
    // Into a parcel that is made in the same moment, and a step that is closed, and opened by taking that back, in it.
    [
      line(newId(), { ...sorted, parcelId: newId(), massMg: 2000 }),
      right(second, 90_000),
      {
        kind: 'step.close',
        target: stepId,
        body: { remainder: null, remainderId: newId(), handsOnMinutes: 5 },
      },
      line(newId(), { direction: 'in', parcelId: sack, massMg: 7000 }),
    ],
    [
      { kind: 'observation.add', target: newId(), body: { stepId, data: { kind: 'note', text: 'after' } } },
      line(newId(), { direction: 'in', parcelId: sack, massMg: 3000 }),
    ],
  ];
}

const COMPARED = [
  sql`select * from movement order by id`,
  sql`select * from parcel order by id`,
  sql`select * from observation order by id`,
  sql`select * from step order by id`,
  sql`select seq, kind, version, target, batch_id, at, body, body_hash, touches, undone_by, undoable from trail where seq > `,
];

/** What was said to each entry: its number, or why it was refused. */
async function send({ store }: TestWorkshop, { kind, target, body }: Sent, nth: number): Promise<string> {
  const at = new Date(Date.UTC(2026, 10, 26, 10, 0, nth)).toISOString();
  try {
    const {
      seq,
      touches,
      batchId: of,
    } = await store.writer.submit({
      kind,
      target,
      body,
      at,
      actor: { id: null, initials: 'AK', role: 'owner' },
    });
    return `${seq} ${[...touches].sort().join()} ${of}`;
  } catch (error) {
    return `${(error as { code?: string }).code}: ${(error as Error).message}`;
  }
}

/** Why those that were refused were. */
const refusedOf = (said: readonly string[]): string[] =>
  said.filter((each) => !/^\d+ /.test(each)).map((each) => each.split(':')[0]!);

async function kept({ store }: TestWorkshop, after: number): Promise<unknown[]> {
  const tables: unknown[] = [];
  for (const query of COMPARED) {
    const whole = query === COMPARED.at(-1) ? sql`${query}${after} order by seq` : query;
    const text = JSON.stringify(rowsOf(await store.db.execute(whole)), (_, value: unknown) =>
      // Whole numbers beyond 32 bits come as text from one of the two.
      typeof value === 'string' && /^\d{1,15}$/.test(value) ? Number(value) : value,
    );
    // Instants come written in two ways.
    tables.push(JSON.parse(text.replaceAll(/(\d{4}-\d\d-\d\d)[ T]([\d:]+)(?:\.(\d+))?(?:Z|\+00)/g, '$1 $2')));
  }
  return tables;
}

test('entries sent in the same moment leave, row by row, what they leave sent one after the other, refusals among them', async () => {
  const together = await openWorkshop('embedded');
  const others = await Promise.all(DATABASES.map((kind) => openWorkshop(kind)));
  const all = [together, ...others];
  const begin = together.store.writer.lastSeq;
  let nth = 0;
  for (const sent of SET_UP) {
    nth += 1;
    const said = await Promise.all(all.map((shop) => send(shop, sent, nth)));
    expect(said[0]).toMatch(/^\d+ /);
    for (const each of said) expect(each).toBe(said[0]);
  }
  const refused = new Set<string>();
  const groups = { whole: 0, partly: 0 };
  while (nth < ENTRIES) {
    const lastSeq = together.store.writer.lastSeq;
    const careless = upTo(3) === 0;
    const group = Array.from({ length: 1 + upTo(AT_ONCE) }, () => anything(careless)).map((sent) =>
      sent.kind === 'undo' ? { ...sent, body: { seq: lastSeq - upTo(4) } } : sent,
    );
    const first = nth + 1;
    nth += group.length;
    const said = await Promise.all(group.map((sent, i) => send(together, sent, first + i)));
    for (const shop of others)
      for (const [i, sent] of group.entries()) expect(await send(shop, sent, first + i)).toBe(said[i]);
    const not = refusedOf(said);
    for (const code of not) refused.add(code);
    if (group.length > 2) groups[not.length === 0 ? 'whole' : 'partly'] += 1;
  }
  for (const group of chained()) {
    const first = nth + 1;
    nth += group.length;
    const said = await Promise.all(group.map((sent, i) => send(together, sent, first + i)));
    for (const shop of others)
      for (const [i, sent] of group.entries()) expect(await send(shop, sent, first + i)).toBe(said[i]);
    const [, late] = group;
    expect(refusedOf(said)).toEqual(
      group.length === 2 && late!.kind === 'movement.correct' ? ['replaced-since'] : [],
    );
  }
  const wanted = await kept(others[0]!, begin);
  expect(await kept(together, begin)).toEqual(wanted);
  for (const shop of others.slice(1)) expect(await kept(shop, begin)).toEqual(wanted);
  // There was something to compare, and something to refuse.
  expect((wanted as unknown[][]).map((rows) => rows.length > 10)).toEqual([true, true, true, true, true]);
  expect(groups.whole).toBeGreaterThan(ENTRIES / 50);
  expect(groups.partly).toBeGreaterThan(ENTRIES / 100);
  expect(refused).toContain('oversubscribed');
  for (const shop of all) await shop.close();
}, 300_000);
