import type { Material } from '../ledger/index.ts';

/** What is worth knowing of a material that arrives. */
export interface ArrivalFacts {
  /** Grown: country, grower, variety and harvest. What was made elsewhere has a maker and a number instead. */
  grown: boolean;
  /** Facts of whole beans: moisture, count, ceiling of the roast; a cut test. */
  beans: boolean;
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

const GROWN = { grown: true, beans: false, nibFat: false, pests: false, wet: false, sheet: [] } as const;
const MADE = { grown: false, beans: false, nibFat: false, pests: false, wet: false } as const;

/** What is worth knowing of each material that arrives; of anything else, what is known of what was made. */
export function arrivalFacts(material: Material): ArrivalFacts {
  switch (material) {
    case 'dry beans':
      return { ...GROWN, beans: true, nibFat: true, pests: true };
    case 'wet beans':
    case 'pods':
      return { ...GROWN, wet: true };
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
