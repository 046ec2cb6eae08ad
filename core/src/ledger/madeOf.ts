import type { LineageGraph } from './lineage.ts';
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

/**
 * What a parcel is made of: followed back through every step in proportion to what went in, any depth, rework and mixed batches
 * included, to ingredients, cacao ready to grind, and what arrived from elsewhere. Each once, greatest share first.
 */
export function madeOf(graph: LineageGraph, parcelId: string): Constituent[] {
  const known = new Map<string, Map<string, Constituent>>();
  const leaf = (c: Constituent) => new Map([[c.ingredientId ?? c.parcelId ?? '', c]]);
  const of = (id: string, ingredientId: string | null): Map<string, Constituent> => {
    const there = known.get(id);
    if (there) return there;
    const parcel = graph.parcels.get(id);
    const material = parcel?.material ?? 'ingredient';
    // Wrapping goes along with bars and is no part of them.
    const inside = (parcel ? (graph.lines.get(parcel.stepId) ?? []) : []).filter(
      (l) => l.direction === 'in' && l.material !== 'packaging',
    );
    const itself = leaf({ ingredientId, parcelId: id, material, share: 1 });
    if (
      !parcel ||
      parcel.lotId !== null ||
      ingredientId !== null ||
      BEAN.has(material) ||
      inside.length === 0
    ) {
      known.set(id, itself);
      return itself;
    }
    // A parcel that (through a slip) went into its own making stands for itself there.
    known.set(id, itself);
    const total = inside.reduce((sum, l) => sum + l.massMg, 0);
    const sum = new Map<string, Constituent>();
    for (const line of inside) {
      const part = line.parcelId
        ? of(line.parcelId, line.ingredientId)
        : leaf({ ingredientId: line.ingredientId, parcelId: null, material: 'ingredient', share: 1 });
      for (const [key, c] of part) {
        const share = (sum.get(key)?.share ?? 0) + (c.share * line.massMg) / total;
        sum.set(key, { ...c, share });
      }
    }
    known.set(id, sum);
    return sum;
  };
  return [...of(parcelId, null).values()].sort((a, b) => b.share - a.share);
}
