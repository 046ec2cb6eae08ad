import { USUAL_WEEK, type PlanBatch, type PlanRoom } from '../index.ts';

const kg = (n: number) => n * 1_000_000;

/** A workshop of three with two grinders, one oven, one bowl, 48 moulds; orders of so many bars, spread over days, for its two bars. */
export function roomWith(
  orders: readonly { bars: number; days: number; weight?: number; recipe?: string }[],
  more: Partial<PlanRoom> = {},
): PlanRoom {
  const now = '2026-11-26T08:00:00.000Z';
  return {
    now,
    timeZone: 'Europe/London',
    week: USUAL_WEEK,
    loudHours: null,
    holidays: ['2026-12-25', '2026-12-28'],
    people: ['AK', 'JB', 'MR'].map((initials) => ({
      id: initials,
      name: initials,
      initials,
      stations: null,
      week: null,
    })),
    machines: [
      {
        id: 'oven',
        name: 'Fan oven',
        station: 'roast',
        kind: 'oven',
        minMg: null,
        maxMg: kg(3),
        loud: false,
        places: null,
      },
      {
        id: 'crank',
        name: 'Crank',
        station: 'winnow',
        kind: 'winnower',
        minMg: null,
        maxMg: null,
        loud: false,
        places: null,
      },
      {
        id: 'ida',
        name: 'Ida',
        station: 'grind',
        kind: 'stone grinder',
        minMg: kg(2),
        maxMg: kg(9),
        loud: false,
        places: null,
      },
      {
        id: 'otto',
        name: 'Otto',
        station: 'grind',
        kind: 'stone grinder',
        minMg: kg(8),
        maxMg: kg(26),
        loud: false,
        places: null,
      },
      {
        id: 'bowl',
        name: 'Bowl',
        station: 'temper',
        kind: 'bowl',
        minMg: null,
        maxMg: kg(4.5),
        loud: false,
        places: null,
      },
      {
        id: 'cabinet',
        name: 'Cabinet',
        station: 'mould',
        kind: 'cabinet',
        minMg: null,
        maxMg: null,
        loud: false,
        places: 192,
      },
    ],
    moulds: [{ id: 'tablet', name: 'Tablet', barMg: 60_000, cavities: 4, count: 48 }],
    absences: [],
    orders: orders.map((o, k) => ({
      id: `l${k}`,
      orderId: `o${k}`,
      customer: `Customer ${k}`,
      due: new Date(Date.parse(now) + o.days * 86_400_000).toISOString(),
      weight: o.weight ?? 1,
      recipeId: o.recipe ?? 'dark',
      lotId: null,
      bars: o.bars,
      kind: 'order' as const,
    })),
    aims: [],
    recipes: [
      {
        id: 'dark',
        name: 'Two-ingredient 70',
        barMg: 60_000,
        beansShare: 0.7,
        tempered: true,
        conched: false,
        allergens: [],
        lines: [{ ingredientId: 'sugar', name: 'Sugar', share: 0.3, isBean: false, onHandMg: kg(50) }],
        lotId: 'TL',
        material: 'dry beans',
      },
      {
        id: 'milk',
        name: 'Milk 50',
        barMg: 60_000,
        beansShare: 0.4,
        tempered: true,
        conched: false,
        allergens: ['milk'],
        lines: [{ ingredientId: 'milk', name: 'Milk powder', share: 0.2, isBean: false, onHandMg: kg(2) }],
        lotId: 'NK',
        material: 'dry beans',
      },
    ],
    lots: [
      {
        id: 'TL',
        code: 'TL',
        name: 'Thanh Loc',
        onHandMg: kg(400),
        onHold: false,
        material: 'dry beans',
        yields: {},
        nextNumber: 17,
      },
      {
        id: 'NK',
        code: 'NK',
        name: 'Nkondo',
        onHandMg: kg(5),
        onHold: false,
        material: 'dry beans',
        yields: {},
        nextNumber: 8,
      },
    ],
    batches: [],
    stock: [],
    learned: [],
    restHours: 4,
    restDays: 1,
    ...more,
  };
}

/** A batch of the dark bar on its way, at the oven if nothing else is said. */
export const inFlight = (more: Partial<PlanBatch> = {}): PlanBatch => ({
  id: 'b',
  code: 'TL-16',
  lotId: 'TL',
  recipeId: 'dark',
  barMg: 60_000,
  route: ['sort', 'roast', 'winnow', 'recipe', 'grind', 'temper', 'mould'],
  massMg: kg(8),
  stage: 'roast',
  running: null,
  bars: 95,
  ...more,
});

/** Forty orders over eight weeks for a workshop of three, as many batches as they need. */
export const eightWeeksRoom = (): PlanRoom =>
  roomWith(
    Array.from({ length: 40 }, (_, k) => ({
      bars: 100 + ((k * 37) % 120),
      days: 12 + k * 1.2,
      recipe: k % 3 ? 'dark' : 'milk',
      weight: 1 + (k % 3),
    })),
    // So small that forty batches are made.
    {
      machines: roomWith([]).machines.map((m) => (m.id === 'otto' ? { ...m, minMg: 2e6, maxMg: 9e6 } : m)),
    },
  );
