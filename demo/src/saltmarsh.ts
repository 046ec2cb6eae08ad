import { starterShelf, type Store } from '@wunsch/server';
import { writeBatch, type Accident } from './batch.ts';
import { writeBeans } from './beans.ts';
import { monday, morning } from './day.ts';
import { holdTrials, writeDeliveries, writeMachines } from './craft.ts';
import { writeCouverture, writeMoulds, writeWraps, type Poured } from './packing.ts';
import { writeCustomers, writeOrders } from './orders.ts';
import { writeSales } from './sales.ts';
import { Scribe } from './scribe.ts';
import { writeSessions, type TastedBatch } from './sessions.ts';
import { kg, LOTS, MACHINES, PEOPLE, RECIPES, type DemoLot, type Initials } from './workshop.ts';

const DAY = 86_400_000;

/** How the demo is made; more batches make the ten-year workshop of the benchmarks. */
export interface DemoOptions {
  /** Epoch ms taken as now. */
  now: number;
  seed?: number;
  /** Finished batches. */
  batches?: number;
  /** Days over which they are spread. */
  days?: number;
}

const ACCIDENTS: Readonly<Record<number, Accident>> = {
  6: 'fahrenheit-slip',
  11: 'over-conched',
  17: 'bloomed',
  22: 'telephone-call',
  27: 'damp-powder',
  36: 'husk-misread',
};

/** Fills an empty store with Saltmarsh Row, dated relative to `now`. Everything goes through the same door as a maker's own entries. */
export async function fillSaltmarsh(
  store: Store,
  { now, seed = 22, batches = 40, days = 540 }: DemoOptions,
): Promise<number> {
  const scribe = new Scribe(seed);
  const people = PEOPLE.map((p) => ({
    ...p,
    id: scribe.id(),
    active: true,
    demo: true,
    passwordHash: null,
    ifMatch: null,
  }));
  const machines = Object.fromEntries(Object.keys(MACHINES).map((key) => [key, scribe.id()]));
  const actor = (by: Initials) => ({
    id: people.find((p) => p.initials === by)!.id,
    initials: by,
    role: 'owner' as const,
  });
  const scale = batches / 40;
  const workshop = {
    name: 'Saltmarsh Row',
    shape: 'shop',
    currency: 'GBP',
    language: 'en',
    temperatureUnit: '°C',
    massSystem: 'metric',
    cacaoSchool: 'all',
    labourRate: 1400,
    packagingPerBar: 34,
    energyPrice: 29,
    overheadPerKg: 310,
    gritAimUm: 20,
    gritEveryHours: 6,
    barMg: kg(0.06),
    keepingMonths: { dark: 18, milk: 12, white: 10 },
    address: 'Net Loft, 4 Saltmarsh Row, Harbourside',
    traces: ['nuts', 'milk'],
    boxBars: 12,
  };
  const shelf = starterShelf(() => scribe.id(), workshop.currency);
  const ingredients = new Map(shelf.map((i) => [i.key, { id: i.id, name: i.name }]));
  await store.writer.submit({
    kind: 'workshop.setup',
    target: 'workshop',
    actor: actor('AK'),
    at: new Date(now - (days + 30) * DAY).toISOString(),
    body: {
      workshop,
      people,
      machines: Object.entries(MACHINES).map(([key, m]) => ({
        minMg: null,
        maxMg: null,
        uMg: null,
        kind: '',
        active: true,
        price: null,
        resale: null,
        lifeKg: null,
        loud: false,
        serviceHours: null,
        tool: null,
        places: null,
        ...m,
        id: machines[key]!,
      })),
      ingredients: shelf,
    },
  });
  await holdTrials(store, scribe, actor, now);
  const recipes = Object.fromEntries(
    Object.entries(RECIPES).map(([key, r]) => {
      const lines = Object.entries(r.shares).map(([ingredient, share]) => ({
        ingredientId: ingredients.get(ingredient)!.id,
        massMg: Math.round(share * kg(10)),
      }));
      return [
        key,
        {
          id: scribe.write(
            'recipe.put',
            scribe.id(),
            {
              name: r.name,
              kind: r.kind,
              lines,
              aimUm: r.aimUm ?? 20,
              notes: r.notes ?? '',
              follows: null,
              tempered: r.tempered ?? null,
              conched: r.conched ?? null,
            },
            now - (days + 20) * DAY,
            'AK',
          ),
          kind: r.kind,
          shares: r.shares,
        },
      ];
    }),
  );
  const lots = LOTS.map((lot) => receive(scribe, lot, now, scale));
  writeBeans(scribe, lots, now);
  writeMachines(scribe, machines, now);
  const packaging = writeDeliveries(scribe, ingredients, now);
  const mouldId = writeMoulds(scribe, now - (days + 29) * DAY, now);
  const poured: Poured[] = [];
  const tasted: TastedBatch[] = [];
  const lotOf = (key: string) => lots.find((l) => l.key === key)!;
  const numbers = new Map<string, number>();
  const code = (key: string) => {
    numbers.set(key, (numbers.get(key) ?? 0) + 1);
    return `${key}-${String(numbers.get(key)).padStart(2, '0')}`;
  };
  const common = { ingredients, machines, now, mouldId, poured, tasted };
  for (let i = 0; i < batches; i += 1) {
    const start = now - (days - 8 - (i * (days - 32)) / batches) * DAY;
    const open = ['TL', 'MR', ...(start > now - 285 * DAY || batches > 40 ? ['NK', 'VA'] : [])];
    const key = open[i % open.length]!;
    const recipe =
      i === 27
        ? recipes.milk!
        : i % 9 === 4
          ? recipes.oat!
          : i % 3 === 1
            ? recipes.seventyfive!
            : recipes.seventy!;
    const startMg = Math.round(scribe.normal(8.4, 0.5) * 500) * 2000;
    writeBatch(scribe, {
      ...common,
      code: code(key),
      lot: lotOf(key),
      startMg,
      start: monday(start),
      recipe,
      until: 'finished',
      accident: ACCIDENTS[i],
      conched: (i % 4 === 2 && !ACCIDENTS[i]) || recipe === recipes.milk,
      blocks: i === 38,
    });
  }
  const inFlight = [
    { key: 'TL', until: 'roasting', daysAgo: 1, startMg: kg(15), recipe: recipes.seventy! },
    { key: 'MR', until: 'weighing', daysAgo: 3, startMg: kg(12), recipe: recipes.seventyfive! },
    { key: 'NK', until: 'grinding', daysAgo: 4, startMg: kg(14), recipe: recipes.seventy! },
    {
      key: 'VA',
      until: 'tempering',
      daysAgo: 9,
      startMg: kg(15.3),
      recipe: recipes.seventyfive!,
      accident: 'husk-misread',
    },
  ] as const;
  for (const { key, daysAgo, ...rest } of inFlight)
    writeBatch(scribe, {
      ...common,
      ...rest,
      code: code(key),
      lot: lotOf(key),
      start: morning(now - daysAgo * DAY),
    });
  const shelved = writeWraps(scribe, poured, packaging, now);
  if (scale <= 1) {
    const customers = writeCustomers(scribe, now);
    writeSales(scribe, shelved, customers, now);
    writeSessions(scribe, tasted, people, now);
    writeOrders(scribe, {
      now,
      recipes: Object.fromEntries(Object.entries(recipes).map(([key, r]) => [key, r.id])),
      lots: new Map(lots.map((l) => [l.key, l.id])),
      people,
      customers,
    });
  }
  writeCouverture(scribe, { now, ingredients, machines, mouldId });
  scribe.write(
    'observation.add',
    scribe.id(),
    {
      batchId: null,
      stepId: null,
      replaces: null,
      data: {
        kind: 'timer',
        label: 'Turn the glasshouse crate',
        dueAt: new Date(now + 95 * 60_000).toISOString(),
      },
    },
    now - 60_000,
    'MR',
  );

  const inOrder = scribe.entries
    .map((entry, index) => ({ entry, index }))
    .sort((a, b) => a.entry.at - b.entry.at || a.index - b.index);
  const answers = await Promise.allSettled(
    inOrder.map(({ entry }) =>
      store.writer.submit({
        kind: entry.kind,
        target: entry.target,
        body: entry.body,
        actor: actor(entry.by),
        at: new Date(entry.at).toISOString(),
      }),
    ),
  );
  const refused = answers.findIndex((a) => a.status === 'rejected');
  if (refused >= 0) {
    const { entry } = inOrder[refused]!;
    throw new Error(
      `the demo's ${entry.kind} was refused: ${String((answers[refused] as PromiseRejectedResult).reason)} ${JSON.stringify(entry.body)}`,
    );
  }
  return inOrder.length;
}

function receive(
  scribe: Scribe,
  lot: DemoLot,
  now: number,
  scale: number,
): DemoLot & { id: string; parcelId: string } {
  const [id, parcelId] = [scribe.id(), scribe.id()];
  const daysAgo = scale > 1 ? Math.max(lot.daysAgo, 3700) : lot.daysAgo;
  const at = now - daysAgo * DAY;
  const blank = {
    code: '',
    name: '',
    material: 'dry beans',
    country: '',
    region: '',
    grower: '',
    variety: '',
    harvest: '',
    notes: '',
    pricePerKg: 0,
    freight: 0,
    moisture: null,
    beansPer100g: null,
    nibFat: null,
    place: '',
    onHold: false,
    holdReason: '',
    bags: null,
  };
  const body = {
    ...blank,
    ...lot.facts,
    massMg: Math.round(lot.massMg * (scale > 1 ? scale * 1.6 : 1)),
    receivedOn: new Date(at).toISOString().slice(0, 10),
    stepId: scribe.id(),
    movementId: scribe.id(),
    parcelId,
  };
  scribe.write('lot.receive', id, body, at, 'AK');
  return { ...lot, id, parcelId };
}
