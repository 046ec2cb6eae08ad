import type { LineageGraph, LineageLine, LineageParcel } from './lineage.ts';
import type { Material } from './stations.ts';

/** One thing a parcel is made of, and its share of the mass. */
export interface Constituent {
  /** The ingredient it is; null for cacao and for chocolate made elsewhere. */
  ingredientId: string | null;
  /** The parcel it came from; null for what was taken off the shelf without one. */
  parcelId: string | null;
  material: Material;
  /** 0 to 1; all of a parcel's add up to 1. */
  share: number;
}

/** Cacao before it is ground: what a recipe counts as bean, whatever was lost on the way there. */
const BEAN: ReadonlySet<Material> = new Set<Material>([
  'nibs',
  'fines',
  'roasted beans',
  'sorted beans',
  'dry beans',
]);

type Composition = Map<string, Constituent>;

const byShare = (a: Constituent, b: Constituent) => b.share - a.share;

/** Share that may still stand for itself in a ring when it is taken for settled, and most rounds. */
const LEFT = 1e-12;
const MOST_ROUNDS = 1000;

/**
 * What a parcel is made of: followed back through every step in proportion to what went in, any depth, rework and mixed batches
 * included, to ingredients, cacao ready to grind, and what arrived from elsewhere. Each once, greatest share first.
 */
export function madeOf(graph: LineageGraph, parcelId: string): Constituent[] {
  return followed(graph, (walk) => walk.of(parcelId, null));
}

/**
 * What some lines that went in somewhere are made of together, such as a bowl that nothing has come out of yet; each followed back as
 * {@link madeOf} does. Empty where they weigh nothing.
 */
export function madeFrom(graph: LineageGraph, lines: readonly LineageLine[]): Constituent[] {
  const heavy = lines.filter((l) => l.massMg > 0 && l.material !== 'packaging');
  return heavy.length === 0 ? [] : followed(graph, (walk) => walk.mixed(heavy));
}

/** Ways to ask of what something is made, in a graph in which what was found is kept. */
interface Walk {
  of: (parcelId: string, ingredientId: string | null) => Composition;
  mixed: (inside: readonly LineageLine[]) => Composition;
}

function followed(graph: LineageGraph, ask: (walk: Walk) => Composition): Constituent[] {
  const known = new Map<string, Composition>();
  const open = new Set<string>();
  let isRing = false;
  const leaf = (c: Constituent): Composition => new Map([[c.ingredientId ?? c.parcelId ?? '', c]]);
  const mixed = (inside: readonly LineageLine[]): Composition => {
    const total = inside.reduce((sum, l) => sum + l.massMg, 0);
    const sum: Composition = new Map();
    for (const line of inside) {
      const part = line.parcelId
        ? of(line.parcelId, line.ingredientId)
        : leaf({ ingredientId: line.ingredientId, parcelId: null, material: 'ingredient', share: 1 });
      for (const [key, c] of part) {
        const share = (sum.get(key)?.share ?? 0) + (c.share * line.massMg) / total;
        sum.set(key, { ...c, share });
      }
    }
    return sum;
  };
  // Wrapping goes along with bars and is no part of them.
  const insideOf = (parcel: LineageParcel | undefined): LineageLine[] =>
    (parcel ? (graph.lines.get(parcel.stepId) ?? []) : []).filter(
      (l) => l.direction === 'in' && l.material !== 'packaging',
    );
  const isLeaf = (parcel: LineageParcel | undefined, ingredientId: string | null): boolean =>
    !parcel ||
    parcel.lotId !== null ||
    ingredientId !== null ||
    BEAN.has(parcel.material) ||
    insideOf(parcel).length === 0;
  const made: string[] = [];
  const of = (id: string, ingredientId: string | null): Composition => {
    const there = known.get(id);
    if (there) return there;
    const parcel = graph.parcels.get(id);
    const itself = leaf({
      ingredientId,
      parcelId: id,
      material: parcel?.material ?? 'ingredient',
      share: 1,
    });
    if (open.has(id)) {
      isRing = true;
      return itself;
    }
    if (isLeaf(parcel, ingredientId)) {
      known.set(id, itself);
      return itself;
    }
    open.add(id);
    const sum = mixed(insideOf(parcel));
    open.delete(id);
    known.set(id, sum);
    made.push(id);
    return sum;
  };
  const first = ask({ of, mixed });
  // Poured back into what it was drawn from, it is made of what the pot is made of: what stands for itself in a ring thins out, round by round.
  const rings = new Set(made);
  const standsForItself = () => {
    let most = 0;
    for (const id of made)
      for (const [key, { share }] of known.get(id)!) if (rings.has(key)) most = Math.max(most, share);
    return most;
  };
  for (let round = 0; isRing && round < MOST_ROUNDS && standsForItself() > LEFT; round += 1)
    for (const id of made) known.set(id, mixed(insideOf(graph.parcels.get(id))));
  const parts = [...(isRing ? ask({ of, mixed }) : first).values()];
  if (!isRing) return parts.sort(byShare);
  const kept = parts.filter((c) => c.parcelId === null || !rings.has(c.parcelId));
  // A ring into which nothing ever came stands for itself.
  if (kept.length === 0) return parts.sort(byShare);
  const whole = kept.reduce((sum, c) => sum + c.share, 0);
  return kept.map((c) => ({ ...c, share: c.share / whole })).sort(byShare);
}
