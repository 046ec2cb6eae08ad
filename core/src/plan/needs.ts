import type { PlanLot, PlanOrderLine, PlanRecipe, PlanRoom } from './room.ts';

/** Share of the chocolate that becomes bars; the rest stays in bowls. */
const IN_BARS = 0.95;

/** Usual shares where a lot has none of its own. */
const USUAL_YIELDS = { sort: 0.97, roast: 0.94, winnow: 0.78 };

/** A charge where no grinder says what it holds, mg. */
const USUAL_CHARGE = 4_000_000;

/** Bars for a line of an order, and where they come from. */
export interface Supply {
  lineId: string;
  bars: number;
  /** Key of the batch, or null for what is in stock. */
  batch: string | null;
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
  /** Earliest due of what it is made for, epoch ms. */
  due: number;
}

/** Something that must be there, and how much of it is not. */
export interface MaterialNeed {
  name: string;
  /** Lot or ingredient. */
  id: string;
  kind: 'beans' | 'ingredient';
  needMg: number;
  onHandMg: number;
  shortMg: number;
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
 * From everything promised to what has to be made: stock first, the oldest promise first; then batches in flight; then new batches,
 * each as large as the usable charge lets it be and the promises need, shared by whatever wants the same bar.
 */
export function needsOf(room: PlanRoom): Needs {
  const supplies: Supply[] = [];
  const impossible: Needs['impossible'] = [];
  const stock = room.stock.map((s) => ({ ...s }));
  const flight = room.batches.map((b) => ({ ...b, left: Math.max(0, Math.floor(b.bars)) }));
  const lines = [...room.orders, ...aimLines(room)].sort(
    (a, b) => Date.parse(a.due) - Date.parse(b.due) || b.weight - a.weight || a.id.localeCompare(b.id),
  );
  const made: (NewBatch & { left: number; most: number })[] = [];
  const numbers = new Map<string, number>();
  for (const line of lines) {
    let wanted = line.bars;
    const take = (of: { left: number }, batch: string | null) => {
      const bars = Math.min(wanted, of.left);
      if (bars <= 0) return;
      of.left -= bars;
      wanted -= bars;
      supplies.push({ lineId: line.id, bars, batch });
    };
    const fits = (recipeId: string | null, lotId: string | null) =>
      recipeId === line.recipeId && (line.lotId === null || lotId === line.lotId);
    for (const s of stock)
      if (fits(s.recipeId, s.lotId)) {
        const own = { left: s.bars };
        take(own, null);
        s.bars = own.left;
      }
    for (const b of flight) if (fits(b.recipeId, b.lotId)) take(b, b.id);
    if (!line.apart) for (const b of made) if (fits(b.recipe.id, b.lot?.id ?? null)) grow(b, wanted, take);
    if (wanted <= 0) continue;
    const recipe = room.recipes.find((r) => r.id === line.recipeId);
    if (!recipe) {
      impossible.push({ lineId: line.id, why: 'no-recipe' });
      continue;
    }
    const lot = room.lots.find((l) => l.id === (line.lotId ?? recipe.lotId)) ?? null;
    if (!lot) {
      impossible.push({ lineId: line.id, why: 'no-lot' });
      continue;
    }
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
        bars: barsOf(least, recipe),
        due: Date.parse(line.due),
        left: barsOf(least, recipe),
        most,
      };
      made.push(batch);
      grow(batch, wanted, take);
    }
  }
  const batches = made.map(({ left: _, most: __, ...b }) => ({
    ...b,
    startMg: startOf(b.chargeMg, b.recipe, b.lot),
  }));
  return { lines, supplies, batches, materials: materialsOf(batches), impossible };

  /** Makes a batch larger where its charge has room, and takes bars of it. */
  function grow(
    b: NewBatch & { left: number; most: number },
    wanted: number,
    take: (of: { left: number }, batch: string) => void,
  ): void {
    const room_ = barsOf(b.most, b.recipe) - b.bars;
    const more = Math.min(room_, Math.max(0, wanted - b.left));
    if (more > 0) {
      b.bars += more;
      b.left += more;
      b.chargeMg = Math.min(b.most, Math.ceil((b.bars * b.recipe.barMg) / IN_BARS));
    }
    take(b, b.key);
  }
}

const barsOf = (chargeMg: number, recipe: PlanRecipe) => Math.floor((chargeMg * IN_BARS) / recipe.barMg);

/** Least and most chocolate of one batch, by the grinders’ usable charge. */
function chargeRange({ machines }: PlanRoom, recipe: PlanRecipe): { least: number; most: number } {
  const grinders = machines.filter(
    (m) => m.station === 'grind' && m.maxMg !== null && !/conche|mixer/i.test(m.kind),
  );
  const most = Math.max(
    recipe.barMg,
    ...(grinders.length > 0 ? grinders.map((m) => m.maxMg!) : [USUAL_CHARGE]),
  );
  const least = Math.min(
    most,
    ...(grinders.length > 0 ? grinders.map((m) => m.minMg ?? m.maxMg! / 4) : [USUAL_CHARGE / 4]),
  );
  return { least: Math.max(least, recipe.barMg / IN_BARS), most };
}

/** What is taken from the lot for a charge. */
function startOf(chargeMg: number, recipe: PlanRecipe, lot: PlanLot | null): number {
  if (recipe.material === 'couverture' || recipe.material === 'chocolate') return chargeMg;
  const nibs = chargeMg * recipe.beansShare;
  if (recipe.material === 'nibs') return Math.ceil(nibs);
  const share = (['sort', 'roast', 'winnow'] as const).reduce(
    (s, station) => s * (lot?.yields[station] ?? USUAL_YIELDS[station]),
    1,
  );
  return Math.ceil(nibs / Math.max(0.05, share));
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

/** What new batches need, against what is there. */
function materialsOf(batches: readonly NewBatch[]): MaterialNeed[] {
  const needs = new Map<string, MaterialNeed>();
  const add = (id: string, kind: MaterialNeed['kind'], name: string, onHandMg: number, mg: number) => {
    const need = needs.get(id) ?? { id, kind, name, onHandMg, needMg: 0, shortMg: 0 };
    need.needMg += mg;
    need.shortMg = Math.max(0, need.needMg - need.onHandMg);
    needs.set(id, need);
  };
  for (const { recipe, lot, chargeMg, startMg } of batches) {
    if (lot) add(lot.id, 'beans', lot.name, lot.onHandMg, startMg);
    for (const l of recipe.lines)
      if (!l.isBean) add(l.ingredientId, 'ingredient', l.name, l.onHandMg, Math.ceil(chargeMg * l.share));
  }
  return [...needs.values()].sort((a, b) => b.shortMg - a.shortMg);
}
