import {
  BatchView,
  type BowlLine,
  type BatchSpending,
  LotView,
  StockItem,
  type BenchView,
  type IngredientRecord,
} from '@wunsch/contract';
import { noCosts } from '@wunsch/core/cost';
import { batchFlow, routeOf, usualWork } from '@wunsch/core/ledger';
import { STARTER_INGREDIENTS } from '@wunsch/core/recipe';
import type { Wire } from './page.tsx';

/** Ids that read like what they stand for, in the form of a UUID. */
export const idOf = (n: number): string => `019a0000-0000-7000-8000-${String(n).padStart(12, '0')}`;

/** A lot of 60 kg from the demo's valley, as the server sends it. */
export const LOT = {
  id: idOf(1),
  code: 'NKO',
  name: 'Nkondo Growers',
  country: 'Uganda',
  harvest: '2026',
  material: 'dry beans',
  moisture: 6.9,
  beansPer100g: 88,
  nibFat: 54,
  pricePerKg: 900,
  arrivedMg: 60_000_000,
  remainingMg: 41_000_000,
  bags: 1,
  receivedOn: '2026-09-01',
  parcelId: idOf(2),
  version: 3,
  fromLotId: null,
};

/** A workshop in which nothing is going on. */
export const EMPTY_BENCH: BenchView = {
  at: '2026-11-20T08:00:00Z',
  line: [],
  batches: [],
  running: [],
  due: [],
};

/** A lot's page with what is given in place of nothing; refuses what the server could not have sent. */
export function lotView(part: Partial<LotView> & { facts?: object } = {}): LotView {
  const { facts, ...rest } = part;
  return LotView.parse({
    lot: { ...LOT, ...facts },
    batches: [],
    yields: [],
    elsewhere: [],
    observations: [],
    attachments: [],
    draws: [],
    juiceMg: 0,
    family: [],
    ...rest,
  });
}

/** Nibs and ingredients in a bowl, each as it stands on the shelf; what else may be in one only the server can follow back. */
function bowlOf({ steps = [], movements = [] }: Partial<BatchView>): BowlLine[] {
  const here = new Set(steps.filter((s) => s.station === 'recipe' || s.station === 'grind').map((s) => s.id));
  return movements.flatMap((m) => {
    const ingredient = SHELF.find((i) => (m.ingredientId ? i.id === m.ingredientId : i.key === m.material));
    return ingredient && m.inForce && m.direction === 'in' && here.has(m.stepId)
      ? [{ ingredient, massMg: m.massMg }]
      : [];
  });
}

/** A batch's page with what is given in place of nothing; its ribbon and its bowl are worked out from its lines. */
export function batchView(part: Partial<BatchView> = {}): BatchView {
  const batch = {
    id: idOf(10),
    code: 'NKO-14',
    lotId: LOT.id,
    lotCode: LOT.code,
    lotName: LOT.name,
    country: LOT.country,
    harvest: LOT.harvest,
    state: 'open' as const,
    stateReason: '',
    recipeId: null,
    recipeName: null,
    plannedMg: 12_000_000,
    barMg: 60_000,
    route: routeOf({ material: 'dry beans' }),
    routeChosen: false,
    startedAt: '2026-11-20T08:00:00Z',
    by: 'AK',
    version: 1,
  };
  const { steps = [], movements = [] } = part;
  return BatchView.parse({
    batch,
    lot: LOT,
    recipe: null,
    steps,
    movements,
    observations: [],
    parcels: [],
    series: [],
    tastings: [],
    impressions: [],
    flow: batchFlow({ steps, movements, parcels: [], barMg: batch.barMg } as never),
    next: { code: 'start', station: 'sort', massMg: 0, dueAt: null },
    grind: [],
    conche: [],
    origins: [LOT.id],
    allergens: [],
    bowl: bowlOf(part),
    disagreement: null,
    yields: [],
    lastSeq: 40,
    ...part,
  });
}

/** What was spent on the batch so far: beans and hands, less its husk. */
export const SPENT: BatchSpending = {
  batchId: idOf(10),
  spent: { ...noCosts(), beans: 9000, labour: 3000, credit: -400 },
  minutes: 120,
  bars: 0,
  massMg: 0,
  wrapped: 0,
  bar: null,
  unpriced: [],
  usual: { packagingPerBar: 30, overheadPerKg: 200 },
};

/** An open or closed step of the batch. */
export function step(
  station: BatchView['steps'][number]['station'],
  more: Partial<BatchView['steps'][number]> = {},
): BatchView['steps'][number] {
  return {
    id: idOf(20),
    batchId: idOf(10),
    station,
    kind: usualWork(station) ?? 'receive',
    status: 'open' as const,
    startedAt: '2026-11-21T08:00:00Z',
    endedAt: null,
    machineId: null,
    handsOnMinutes: null,
    by: 'AK',
    details: {},
    version: 1,
    ...more,
  };
}

/** An observation of a step. */
export function observation(
  n: number,
  data: BatchView['observations'][number]['data'],
  at = '2026-11-21T09:00:00Z',
) {
  return { id: idOf(100 + n), batchId: idOf(10), stepId: idOf(20), lotId: null, at, by: 'AK', data };
}

/** Twenty bars of a batch in the shop, or what is given in place of them; refuses what the server could not have sent. */
export const stockItem = (n: number, more: Partial<StockItem> = {}): StockItem =>
  StockItem.parse({
    id: idOf(n),
    material: 'bars',
    label: '',
    place: 'shop',
    lotId: null,
    batchId: idOf(n + 100),
    batchCode: `NKO-${n}`,
    lotCode: null,
    stepId: null,
    recipeId: null,
    recipeName: 'Dark 72',
    lotName: null,
    batchLotId: null,
    madeOf: [],
    remainingMg: 1_200_000,
    count: 20,
    madeAt: '2026-11-02T08:00:00.000Z',
    onHold: false,
    holdReason: '',
    bestBefore: null,
    barCode: null,
    value: null,
    ...more,
  });

/** The shelf a new workshop starts with, as the server sends it. */
export const SHELF: IngredientRecord[] = STARTER_INGREDIENTS.map((i, n) => ({
  nutrition: null,
  strong: false,
  labelNames: {},
  densityGPerMl: null,
  crystalUm: null,
  stockMg: null,
  shelfMg: null,
  onHandMg: null,
  nextBestBefore: null,
  origin: '',
  ...i,
  allergens: [...i.allergens],
  id: idOf(500 + n),
  version: 1,
  priceNow: i.pricePerKg,
}));

/** Id of a starter ingredient. */
export const ingredientId = (key: string): string => SHELF.find((i) => i.key === key)!.id;

let lines = 0;

/** A ledger line of the batch's step. */
export function movement(
  direction: 'in' | 'out' | 'loss',
  massMg: number,
  more: Partial<BatchView['movements'][number]> = {},
): BatchView['movements'][number] {
  lines += 1;
  return {
    id: idOf(10_000 + lines),
    stepId: idOf(20),
    direction,
    massMg,
    source: 'weighed',
    uMg: null,
    material: null,
    parcelId: null,
    ingredientId: null,
    reason: null,
    label: null,
    count: null,
    pricePerKg: null,
    note: '',
    at: '2026-11-21T08:00:00Z',
    by: 'AK',
    replaces: null,
    correctionReason: '',
    holdOverride: '',
    inForce: true,
    ...more,
  };
}

/** Answers what a station's page asks for besides its own, in a workshop where nobody is signed off and nothing else goes on. */
export const atStation = (wire: Wire, view: BatchView): Wire =>
  wire
    .has('/api/bench', EMPTY_BENCH)
    .has('/api/skills', { signed: [], practised: [] })
    .has(`/api/batches/${view.batch.id}`, view);
