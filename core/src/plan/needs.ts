import { keepsUntil } from '../ledger/index.ts';
import { normalQuantile, requireFinite, requireWhole } from '../numerics/index.ts';
import {
  barsOf,
  chargeRange,
  IN_BARS,
  inBars,
  isBought,
  spreadOfBars,
  spreadOfTaken,
  startOf,
} from './charge.ts';
import { dayOf } from './hours.ts';
import { lotFor } from './lotFor.ts';
import { joined, lackingOf, onItsWay, toBeMade } from './pool.ts';
import {
  PLAN_STAGES,
  type PlanBatch,
  type PlanLot,
  type PlannedStep,
  type PlanOrderLine,
  type PlanRecipe,
  type PlanRoom,
  type PlanStage,
} from './room.ts';

/** How surely a batch that is made for a promise gives the bars of it, where a grinder has room for some to spare. */
const SURE = 0.95;

/** Most times it is looked whether bars to spare are enough. */
const MOST_ROUNDS = 5;

/** A day after all others. */
const LATER = '9999';

/** Bars for a line of an order, and where they come from. */
export interface Supply {
  lineId: string;
  bars: number;
  /** Key of the batch, or null for what is in stock. */
  batch: string | null;
  /** Kept for it beyond what it wants, should a batch give fewer bars than expected. */
  spare?: boolean;
}

/** A batch that has to be made. */
export interface NewBatch {
  key: string;
  code: string;
  recipe: PlanRecipe;
  lot: PlanLot | null;
  /** Chocolate, mg, and what it takes at the beginning. */
  chargeMg: number;
  startMg: number;
  bars: number;
  /** How far the bars that come are off, as a standard deviation, in shares of those expected. */
  spread: number;
  /** Earliest due of what it is made for, epoch ms. */
  due: number;
}

/** Something that must be there, and how much of it is not: mg of beans and ingredients, pieces of packaging. */
export interface MaterialNeed {
  name: string;
  /** Lot or ingredient; the name of packaging. */
  id: string;
  kind: 'beans' | 'ingredient' | 'packaging';
  need: number;
  /** Between what it lies in four of five cases, by how far a lot’s yields differ; null where nothing is known of that. */
  range80: readonly [number, number] | null;
  /** Null where nobody keeps count of what there is; of that nothing is short. */
  onHand: number | null;
  short: number;
  /** What each batch takes of it, at which stage. */
  uses: readonly { batch: string; stage: PlanStage; amount: number }[];
}

/** What follows from everything promised: what stock serves, what batches in flight will, what has to be made, and of what. */
export interface Needs {
  /** Everything that is wanted: lines of orders, and stock aims as such. */
  lines: PlanOrderLine[];
  supplies: Supply[];
  batches: NewBatch[];
  materials: MaterialNeed[];
  /** Lines nothing can be made for, and why. */
  impossible: { lineId: string; why: 'no-lot' | 'no-recipe' }[];
}

/**
 * From everything promised to what has to be made: stock first, what keeps shortest for the oldest promise, and nothing that is past its best
 * before by then; then batches in flight; then new batches,
 * each as large as the usable charge lets it be and the promises need, shared by whatever wants the same bar. What is made for a promise is made
 * with some bars to spare, since no charge gives just what was expected of it; but no batch is made for those alone, unless the order says so.
 *
 * @throws RangeError for bars that are no whole number and days that are none
 */
export function needsOf(room: PlanRoom): Needs {
  for (const { bars, due } of room.orders) {
    requireWhole(bars, 'the bars of an order');
    requireFinite(Date.parse(due), 'the day an order is wanted by');
  }
  for (const { bars } of room.stock) requireFinite(bars, 'the bars in stock');
  const supplies: Supply[] = [];
  const impossible: Needs['impossible'] = [];
  const stock = room.stock
    .map((s) => ({ ...s }))
    .sort((a, b) => (a.bestBefore ?? LATER).localeCompare(b.bestBefore ?? LATER));
  const flight = room.batches.map((b) => ({ ...b, left: Math.max(0, Math.floor(b.bars)) }));
  const lines = [...room.orders, ...aimLines(room)].sort(
    (a, b) => Date.parse(a.due) - Date.parse(b.due) || b.weight - a.weight || a.id.localeCompare(b.id),
  );
  const made: (NewBatch & { left: number; most: number })[] = [];
  const numbers = new Map<string, number>();
  const toShelf = new Set(lines.flatMap((l) => (l.kind === 'stock' ? [l.id] : [])));
  const isPromised = (s: Supply) => !s.spare && !toShelf.has(s.lineId);
  for (const line of lines) {
    const why = serve(line, line.bars);
    if (why) impossible.push({ lineId: line.id, why });
    else if (line.spare) spareFor(line);
  }
  for (const b of made) {
    const promised = supplies.reduce((sum, s) => sum + (s.batch === b.key && isPromised(s) ? s.bars : 0), 0);
    const sure = Math.max(0.5, 1 - normalQuantile(SURE) * b.spread);
    enlarge(b, Math.ceil(promised / sure) - b.bars);
  }
  const batches = made.map(({ left: _, most: __, ...b }) => ({
    ...b,
    startMg: startOf(b.chargeMg, b.recipe, b.lot),
  }));
  return { lines, supplies, batches, materials: materialsOf(room, batches), impossible };

  /** Finds bars for a line, more than it wants where they are to spare; says why where there are none to be had. */
  function serve(line: PlanOrderLine, bars: number, spare = false): 'no-lot' | 'no-recipe' | null {
    let wanted = bars;
    const take = (of: { left: number }, batch: string | null) => {
      const taken = Math.min(wanted, of.left);
      if (taken <= 0) return;
      of.left -= taken;
      wanted -= taken;
      supplies.push({ lineId: line.id, bars: taken, batch, ...(spare && { spare }) });
    };
    const fits = (recipeId: string | null, lotId: string | null) =>
      recipeId === line.recipeId && (line.lotId === null || lotId === line.lotId);
    const wantedOn = dayOf(Math.max(Date.parse(line.due), Date.parse(room.now)), room.timeZone);
    for (const s of stock)
      if (fits(s.recipeId, s.lotId) && keepsUntil(s.bestBefore, wantedOn)) {
        const own = { left: s.bars };
        take(own, null);
        s.bars = own.left;
      }
    for (const b of flight) if (fits(b.recipeId, b.lotId)) take(b, b.id);
    if (!line.apart) for (const b of made) if (fits(b.recipe.id, b.lot?.id ?? null)) grow(b, wanted, take);
    if (wanted <= 0) return null;
    const asked = room.recipes.find((r) => r.id === line.recipeId);
    if (!asked) return 'no-recipe';
    const found = lotFor(room, asked, line.lotId);
    if (!found) return 'no-lot';
    const { lot, recipe } = found;
    while (wanted > 0) {
      const count = (numbers.get(lot.id) ?? 0) + 1;
      numbers.set(lot.id, count);
      const { least, most } = chargeRange(room, recipe);
      const batch = {
        key: `new:${recipe.id}:${lot.id}:${made.filter((b) => b.recipe.id === recipe.id && b.lot?.id === lot.id).length + 1}`,
        code: `${lot.code}-${String(lot.nextNumber + count - 1).padStart(2, '0')}`,
        recipe,
        lot,
        chargeMg: least,
        startMg: 0,
        bars: barsOf(least, recipe, lot),
        spread: spreadOfBars(recipe, lot),
        due: Date.parse(line.due),
        left: barsOf(least, recipe, lot),
        most,
      };
      made.push(batch);
      grow(batch, wanted, take);
    }
    return null;
  }

  /** Keeps bars for a line until those it has of batches are enough, as far as there are any to be had; each batch brings its own doubt along. */
  function spareFor(line: PlanOrderLine): void {
    for (let round = 0; round < MOST_ROUNDS; round += 1) {
      const mine = new Set(
        supplies.flatMap((s) => (s.lineId === line.id && s.batch !== null ? [s.batch] : [])),
      );
      const pool = joined([
        ...flight.filter((b) => mine.has(b.id)).map(onItsWay),
        ...made.filter((b) => mine.has(b.key)).map(toBeMade),
      ]);
      if (!pool) return;
      pool.promised = supplies.reduce(
        (sum, s) => sum + (s.batch !== null && mine.has(s.batch) && isPromised(s) ? s.bars : 0),
        0,
      );
      const lacking = lackingOf(pool, SURE);
      if (lacking <= 0 || serve(line, lacking, true)) return;
    }
  }

  /** Makes a batch larger where its charge has room, and takes bars of it. */
  function grow(
    b: NewBatch & { left: number; most: number },
    wanted: number,
    take: (of: { left: number }, batch: string) => void,
  ): void {
    b.left += enlarge(b, wanted - b.left);
    take(b, b.key);
  }
}

/** Makes a batch larger by so many bars as its charge has room for, and says how many. */
function enlarge(b: NewBatch & { most: number }, by: number): number {
  const more = Math.min(barsOf(b.most, b.recipe, b.lot) - b.bars, Math.max(0, by));
  if (more <= 0) return 0;
  b.bars += more;
  b.chargeMg = Math.min(b.most, Math.ceil((b.bars * b.recipe.barMg) / inBars(b.recipe, b.lot)));
  return more;
}

/** The recipe a batch in flight is made by, which may be an older version than the one made now; null where it has none. */
export function recipeOf(room: PlanRoom, batch: PlanBatch): PlanRecipe | null {
  return batch.madeBy ?? room.recipes.find((r) => r.id === batch.recipeId) ?? null;
}

/** Stock aims as something that is wanted: the floor soon, the rest at leisure. */
function aimLines(room: PlanRoom): PlanOrderLine[] {
  const now = Date.parse(room.now);
  const DAY = 86_400_000;
  return room.aims.flatMap((aim) => {
    const line = (part: string, bars: number, days: number, weight: number): PlanOrderLine => ({
      id: `${aim.id}:${part}`,
      orderId: aim.id,
      customer: '',
      due: new Date(now + days * DAY).toISOString(),
      weight,
      recipeId: aim.recipeId,
      lotId: aim.lotId,
      bars,
      kind: 'stock',
    });
    return [
      ...(aim.floor > 0 ? [line('floor', aim.floor, 21, 0.5)] : []),
      ...(aim.aim > aim.floor ? [line('aim', aim.aim - aim.floor, 49, 0.1)] : []),
    ];
  });
}

/** What is needed of beans, ingredients and packaging, against what is there. */
function materialsOf(room: PlanRoom, batches: readonly NewBatch[]): MaterialNeed[] {
  const needs = new Map<
    string,
    MaterialNeed & { uses: MaterialNeed['uses'][number][]; variance: number; together: number }
  >();
  const add = (
    of: Pick<MaterialNeed, 'id' | 'kind' | 'name' | 'onHand'>,
    use: MaterialNeed['uses'][number],
    spread = { own: 0, shared: 0 },
  ) => {
    const key = `${of.kind} ${of.id}`;
    const need = needs.get(key) ?? {
      ...of,
      need: 0,
      range80: null,
      short: 0,
      uses: [],
      variance: 0,
      together: 0,
    };
    need.need += use.amount;
    need.short = need.onHand === null ? 0 : Math.max(0, need.need - need.onHand);
    need.variance += (use.amount * spread.own) ** 2;
    need.together += use.amount * spread.shared;
    need.uses.push(use);
    needs.set(key, need);
  };
  const inBowl = (recipe: PlanRecipe, batch: string, chargeMg: number) => {
    for (const l of recipe.lines)
      if (!l.isBean)
        add(
          { id: l.ingredientId, kind: 'ingredient', name: l.name, onHand: l.onHandMg },
          { batch, stage: 'recipe', amount: Math.ceil(chargeMg * l.share) },
        );
  };
  const round = (recipe: PlanRecipe, batch: string, bars: number) => {
    for (const { name, perBar, onHand } of recipe.packaging ?? [])
      add(
        { id: name, kind: 'packaging', name, onHand },
        { batch, stage: 'wrap', amount: Math.ceil(bars * perBar) },
      );
  };
  for (const b of room.batches) {
    const recipe = recipeOf(room, b);
    if (!recipe) continue;
    // Where the bowl is being filled, or has been, its ingredients are out of the stock already.
    const isBefore =
      PLAN_STAGES.indexOf(b.stage) <= PLAN_STAGES.indexOf('recipe') && b.running?.kind !== 'recipe';
    if (isBefore && b.route.includes('recipe')) inBowl(recipe, b.id, (b.bars * b.barMg) / IN_BARS);
    if (b.bars > 0) round(recipe, b.id, b.bars);
  }
  for (const { key, recipe, lot, chargeMg, startMg, bars } of batches) {
    const first = isBought(recipe) ? 'temper' : recipe.material === 'nibs' ? 'recipe' : 'sort';
    if (lot)
      add(
        { id: lot.id, kind: 'beans', name: lot.name, onHand: lot.onHandMg },
        { batch: key, stage: first, amount: startMg },
        first === 'sort' ? spreadOfTaken(lot) : undefined,
      );
    // Bought chocolate comes with everything in it.
    if (first !== 'temper') inBowl(recipe, key, chargeMg);
    round(recipe, key, bars);
  }
  const z = normalQuantile(0.9);
  return [...needs.values()]
    .map(({ variance, together, ...n }) => {
      const half = z * Math.hypot(Math.sqrt(variance), together);
      return { ...n, range80: half > 0 ? ([Math.max(0, n.need - half), n.need + half] as const) : null };
    })
    .sort((a, b) => b.short - a.short || a.name.localeCompare(b.name));
}

/**
 * When something that is short begins to be missing: the start of the first step that finds too little of it. Null where there is enough, or
 * its steps are in no plan.
 */
export function missingFrom(
  { uses, onHand, short }: Pick<MaterialNeed, 'uses' | 'onHand' | 'short'>,
  steps: readonly Pick<PlannedStep, 'batch' | 'stage' | 'start'>[],
): string | null {
  if (short <= 0) return null;
  const starts = new Map<string, string>();
  for (const { batch, stage, start } of steps) {
    const key = `${batch} ${stage}`;
    if (start < (starts.get(key) ?? '~')) starts.set(key, start);
  }
  let left = onHand ?? 0;
  const taken = uses
    .flatMap(({ batch, stage, amount }) => {
      const start = starts.get(`${batch} ${stage}`);
      return start === undefined ? [] : [{ start, amount }];
    })
    .sort((a, b) => a.start.localeCompare(b.start));
  for (const { start, amount } of taken) {
    left -= amount;
    if (left < 0) return start;
  }
  return null;
}
