import type { OrderPut, StockAimPut, WorkHoursPut } from '@wunsch/contract';
import { planWorkshop, USUAL_WEEK } from '@wunsch/core/plan';
import { loadPlanRoom, schema, type Store } from '@wunsch/server';
import type { Scribe } from './scribe.ts';

const DAY = 86_400_000;

/** Time the demo's first plan is looked for, ms. */
const SEARCH_MS = 1500;

/** Who buys at Saltmarsh Row, all invented. */
const CUSTOMERS = [
  { name: 'Harbour Café', channel: 'trade' },
  { name: 'Lantern Books', channel: 'trade' },
  { name: 'Winter market', channel: 'market' },
  { name: 'Mill Lane School', channel: 'private' },
  { name: 'Ferry kiosk', channel: 'trade' },
] as const;

/** What is promised: by customer, recipe, lot, bars, days from today. */
const PROMISED: readonly {
  customer: number;
  title?: string;
  kind?: OrderPut['kind'];
  recipe: string;
  lot: string | null;
  bars: number;
  days: number;
  weight?: number;
  price?: number;
}[] = [
  { customer: 0, recipe: 'seventy', lot: 'NK', bars: 420, days: 12, price: 410 },
  { customer: 1, recipe: 'seventyfive', lot: 'MR', bars: 380, days: 15, price: 430 },
  { customer: 2, recipe: 'seventy', lot: 'TL', bars: 640, days: 21, weight: 3, price: 590 },
  { customer: 1, recipe: 'spiced', lot: 'TL', bars: 90, days: 41, price: 440 },
  { customer: 3, title: 'Class of 24', kind: 'class', recipe: 'milk', lot: null, bars: 48, days: 24 },
  { customer: 4, recipe: 'seventy', lot: null, bars: 260, days: 38, price: 400 },
  {
    customer: 0,
    title: 'Harbour Café, January',
    recipe: 'seventyfive',
    lot: null,
    bars: 240,
    days: 52,
    price: 410,
  },
];

/** Customers as they first bought, long before; gives their ids. */
export function writeCustomers(scribe: Scribe, now: number): string[] {
  return CUSTOMERS.map((c) => scribe.write('customer.put', scribe.id(), c, now - 560 * DAY, 'AK'));
}

/** What is promised and kept in stock for eight weeks, and when the three work. */
export function writeOrders(
  scribe: Scribe,
  {
    now,
    recipes,
    lots,
    people,
    customers,
  }: {
    now: number;
    recipes: Readonly<Record<string, string>>;
    lots: ReadonlyMap<string, string>;
    people: readonly { id: string; initials: string }[];
    /** Ids of {@link CUSTOMERS}. */
    customers: readonly string[];
  },
): void {
  const hours: WorkHoursPut = {
    timeZone: 'Europe/London',
    week: USUAL_WEEK.map((day) => day.map(([a, b]) => [a, b])),
    country: 'GB',
    region: 'ENG',
    restDays: 1,
    restKg: 60,
    people: people
      .filter((p) => p.initials === 'MR')
      .map((p) => ({
        personId: p.id,
        // Marit teaches on Wednesdays.
        week: USUAL_WEEK.map((day, k) => (k === 2 ? [] : day.map(([a, b]) => [a, b]))),
      })),
  };
  scribe.write('hours.put', scribe.id(), hours, now - 30 * DAY, 'AK');
  PROMISED.forEach((p, k) => {
    const due = new Date(now + p.days * DAY);
    due.setUTCHours(16, 0, 0, 0);
    const order: OrderPut = {
      customerId: customers[p.customer]!,
      title: p.title ?? '',
      kind: p.kind ?? 'order',
      due: due.toISOString(),
      weight: p.weight ?? 1,
      lines: [
        {
          id: scribe.id(),
          recipeId: recipes[p.recipe]!,
          lotId: p.lot === null ? null : (lots.get(p.lot) ?? null),
          bars: p.bars,
          price: p.price ?? null,
        },
      ],
    };
    scribe.write('order.put', scribe.id(), order, now - (12 - k) * DAY, k % 2 ? 'JB' : 'AK');
  });
  for (const [recipe, floor, aim] of [
    ['seventy', 40, 120],
    ['milk', 20, 60],
  ] as const) {
    const body: StockAimPut = { recipeId: recipes[recipe]!, floor, aim };
    scribe.write('stock.aim', scribe.id(), body, now - 15 * DAY, 'AK');
  }
  scribe.write(
    'absence.put',
    scribe.id(),
    {
      who: people.find((p) => p.initials === 'JB')?.id ?? null,
      from: new Date(now + 6 * DAY).toISOString(),
      to: new Date(now + 8 * DAY).toISOString(),
      reason: 'wedding',
    },
    now - 9 * DAY,
    'JB',
  );
}

/** Accepts a first plan, as the owner did this morning. */
export async function acceptPlan(store: Store, now: number): Promise<void> {
  const room = await loadPlanRoom(store, now);
  const [owner] = await store.db.select({ id: schema.person.id }).from(schema.person);
  if (!owner) return;
  const { steps, orders } = planWorkshop(room, { budgetMs: SEARCH_MS, draws: 100 });
  await store.writer.submit({
    kind: 'plan.keep',
    target: owner.id.replace(/^.{8}/, '01940000'),
    actor: { id: owner.id, initials: 'AK', role: 'owner' },
    body: { steps, orders },
  });
}
