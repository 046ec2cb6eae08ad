import type { Material } from '../ledger/index.ts';
import { MOST_POWDER_FAT } from '../recipe/index.ts';

/** What is worth knowing of a material that arrives. */
export interface ArrivalFacts {
  /** Grown: country, grower, variety and harvest. What was made elsewhere has a maker and a number instead. */
  grown: boolean;
  /** Facts of whole beans: moisture, count, ceiling of the roast; a cut test. */
  beans: boolean;
  /** Highest moisture it can have, % wet basis; null where none is asked. Fresh beans with their pulp are two thirds water. */
  mostMoisture: number | null;
  /** Cocoa butter of its nibs. */
  nibFat: boolean;
  /** Moths and beetles live in it: a hold in the cold makes sense. */
  pests: boolean;
  /** Still to be fermented and dried here. */
  wet: boolean;
  /** Figures of its maker's sheet that matter, in the order they are asked for. */
  sheet: readonly ('kind' | 'fat' | 'cacao' | 'window')[];
}

/** What can be bought or brought in, in the order of the line; each joins it at its own station. */
export const ARRIVALS = [
  'dry beans',
  'wet beans',
  'pods',
  'roasted beans',
  'nibs',
  'liquor',
  'couverture',
  'cocoa butter',
  'cocoa powder',
] as const satisfies readonly Material[];

const GROWN = {
  grown: true,
  mostMoisture: 60,
  beans: false,
  nibFat: false,
  pests: false,
  wet: false,
  sheet: [],
} as const;
const MADE = {
  grown: false,
  mostMoisture: null,
  beans: false,
  nibFat: false,
  pests: false,
  wet: false,
} as const;

/** What is worth knowing of each material that arrives; of anything else, what is known of what was made. */
export function arrivalFacts(material: Material): ArrivalFacts {
  switch (material) {
    case 'dry beans':
      return { ...GROWN, beans: true, nibFat: true, pests: true };
    case 'wet beans':
      return { ...GROWN, mostMoisture: 80, wet: true };
    case 'pods':
      return { ...GROWN, mostMoisture: null, wet: true };
    case 'roasted beans':
      return { ...GROWN, nibFat: true, pests: true };
    case 'nibs':
      return { ...GROWN, nibFat: true, pests: true };
    case 'liquor':
      return { ...GROWN, sheet: ['fat'] };
    case 'couverture':
      return { ...MADE, sheet: ['kind', 'cacao', 'fat', 'window'] };
    case 'cocoa butter':
      return { ...MADE, sheet: [] };
    case 'cocoa powder':
      return { ...MADE, sheet: ['fat'] };
    default:
      return { ...MADE, sheet: [] };
  }
}

/** What is wrong with a moisture, % wet basis, that a material cannot have, in words; null where it can, or where none is known. */
export function moistureFault(material: Material, moisture: number | null): string | null {
  const { mostMoisture: most } = arrivalFacts(material);
  if (moisture === null || most === null || (moisture >= 0 && moisture <= most)) return null;
  return `${material} have between 0 and ${most} % moisture`;
}

/** Least and most cocoa butter that nibs, or liquor ground of them, can hold, % by mass. */
const NIB_FAT_RANGE = { min: 30, max: 70 } as const;

/** Least and most fat that the sheet of a bought material can state, % by mass. */
export function sheetFatRange(material: Material): { min: number; max: number } {
  return material === 'liquor'
    ? NIB_FAT_RANGE
    : { min: 0, max: material === 'cocoa powder' ? MOST_POWDER_FAT : 100 };
}

/**
 * Cocoa butter of a lot's nibs, % by mass: as it was noted, or of bought liquor, which is nibs ground fine, as its maker states it. Null
 * where nobody knows, or what is stated can be no liquor's.
 */
export function nibFatOf(of: {
  material: Material;
  nibFat: number | null;
  sheet: { fat: number | null } | null;
}): number | null {
  if (of.material !== 'liquor') return of.nibFat;
  const stated = of.nibFat ?? of.sheet?.fat ?? null;
  return stated !== null && stated >= NIB_FAT_RANGE.min && stated <= NIB_FAT_RANGE.max ? stated : null;
}
