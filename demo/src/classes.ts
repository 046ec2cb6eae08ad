import { and, desc, eq, inArray, sql } from 'drizzle-orm';
import { schema, type Store } from '@wunsch/server';

const { ingredient, parcel, person } = schema;

const DAY = 86_400_000;

/** Guests, all invented: what they choose, must not touch, and how they liked what they made. */
const LAST_TIME = [
  {
    name: 'Mirthe',
    dark: 1,
    flavours: ['hazelnuts'],
    allergies: [],
    liking: 8.5,
    words: 'Gone before the bus came.',
  },
  { name: 'Jonas', dark: 2, flavours: [], allergies: ['nuts'], liking: 7, words: '' },
  {
    name: 'Saskia',
    dark: 1,
    flavours: ['freeze-dried-raspberry'],
    allergies: [],
    liking: 9,
    words: 'Next time darker.',
  },
  { name: 'Old Piet', dark: 0, flavours: [], allergies: [], liking: 6, words: 'Honest.' },
] as const;

const NEXT_TIME = [
  { name: 'Lotte', dark: 1, flavours: ['freeze-dried-raspberry'], allergies: ['milk'] },
  { name: 'Emil', dark: 2, flavours: ['hazelnuts'], allergies: [] },
  { name: 'Hanne', dark: 0, flavours: ['cinnamon'], allergies: ['nuts'] },
  { name: 'Ruben', dark: null, flavours: [], allergies: [] },
] as const;

/** Addresses of the demo’s guests: nobody is kept out of a demo. */
const codeOf = (k: number) => `DEMXGUESTT${'ABCDEFGH'[Math.floor(k / 8)]}${'ABCDEFGH'[k % 8]}`;

/** One o’clock on a day, local. */
function afternoon(day: Date): string {
  day.setHours(13, 0, 0, 0);
  return day.toISOString();
}

/** The Saturday after next. */
function saturday(now: number): string {
  const day = new Date(now);
  day.setDate(day.getDate() + ((6 - day.getDay() + 7) % 7 || 7) + 7);
  return afternoon(day);
}

/** Days ago of the class that has been: the chocolate it poured was there by then. */
const LAST = 3;

/** Two classes: one that has been, with what its guests thought of their bars, and one on a Saturday to come. */
export async function writeClasses(store: Store, now: number): Promise<void> {
  const { db, writer } = store;
  const [owner] = await db.select({ id: person.id }).from(person).where(eq(person.role, 'owner'));
  const [base] = await db
    .select({ id: parcel.id })
    .from(parcel)
    .where(
      and(
        inArray(parcel.material, ['blocks', 'chocolate']),
        eq(parcel.onHold, false),
        sql`${parcel.remainingMg} > 3000000`,
      ),
    )
    .orderBy(desc(parcel.remainingMg), parcel.id)
    .limit(1);
  const shelf = new Map((await db.select().from(ingredient)).map((i) => [i.key, i.id]));
  const sugarId = shelf.get('icing-sugar') ?? shelf.get('cane-sugar');
  if (!owner || !base || !sugarId) return;
  let drawn = 0;
  const id = () => owner.id.replace(/^.{8}/, `01940${(0x300 + (drawn += 1)).toString(16)}`);
  const write = (kind: string, target: string, body: object, daysAgo: number, guest?: string) =>
    writer.submit({
      kind,
      target,
      body,
      actor: guest
        ? { id: null, initials: guest.slice(0, 12), role: 'taster' }
        : { id: owner.id, initials: 'AK', role: 'owner' },
      at: new Date(now - daysAgo * DAY).toISOString(),
    });
  const offered = (['hazelnuts', 'freeze-dried-raspberry', 'cinnamon'] as const).flatMap((key) => {
    const ingredientId = shelf.get(key);
    return ingredientId
      ? [{ ingredientId, percent: { hazelnuts: 12, cinnamon: 0.5 }[key as 'cinnamon'] ?? 5 }]
      : [];
  });
  const sweetness = [70, 62, 55];
  const facts = {
    title: 'From bean to bar in an afternoon',
    minutes: 150,
    places: 6,
    price: 4800,
    base: { of: 'parcel', id: base.id },
    barMg: 40_000,
    barsEach: 3,
    sugarId,
    sweetness,
    flavours: offered,
    show: ['welcome', 'sort', 'roast', 'winnow', 'grind', 'weigh', 'taste'],
    eachGuest: 260,
    fixed: 3500,
    hours: 5,
  };
  const seat = async (
    classId: string,
    { name, dark, flavours, allergies }: (typeof LAST_TIME | typeof NEXT_TIME)[number],
    daysAgo: number,
  ) => {
    const target = id();
    await write(
      'class.guest',
      target,
      {
        classId,
        name,
        code: codeOf(drawn),
        allergies,
        cacaoPercent: dark === null ? null : sweetness[dark],
        flavourIds: flavours.flatMap((key) => shelf.get(key) ?? []),
      },
      daysAgo,
    );
    return target;
  };
  const last = id();
  const lastAt = afternoon(new Date(now - LAST * DAY));
  /** Days ago of what was done so many hours after that class began. */
  const afterLast = (hours: number) => (now - Date.parse(lastAt)) / DAY - hours / 24;
  await write('class.plan', last, { ...facts, startsAt: lastAt }, afterLast(-26));
  const came: string[] = [];
  for (const guest of LAST_TIME) came.push(await seat(last, guest, afterLast(-20)));
  await write(
    'class.hold',
    last,
    {
      cameIds: came,
      lines: [{ parcelId: base.id, massMg: 420_000, stepId: id(), takenId: id(), lossId: id() }],
      note: 'The mill was the hit; two scales are one too few.',
    },
    afterLast(2.8),
  );
  for (const [k, { name, liking, words }] of LAST_TIME.entries())
    await write('class.score', came[k]!, { liking, words }, afterLast(2.6), name);
  const next = id();
  await write('class.plan', next, { ...facts, startsAt: saturday(now) }, 0.008);
  for (const guest of NEXT_TIME) await seat(next, guest, 0.007);
}
