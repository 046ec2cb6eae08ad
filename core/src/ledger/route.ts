import { WORK_KINDS, type WorkKind } from './stepKinds.ts';
import type { Material } from './stations.ts';

/** What a batch's route is drawn up from before anyone has changed it. */
export interface RouteInput {
  /** Material of the lot the batch is made from. */
  material: Material;
  /** Whether its chocolate is conched beside the grinder. */
  conched?: boolean;
  /** Whether its chocolate is tempered; rustic bars and drinking tablets are not. */
  tempered?: boolean;
  /** Whether its beans are roasted. */
  roasted?: boolean;
}

/** The first work that has anything to do on a material. */
const FIRST_WORK: Readonly<Partial<Record<Material, WorkKind>>> = {
  pods: 'sort',
  'wet beans': 'sort',
  'dry beans': 'sort',
  'sorted beans': 'roast',
  'roasted beans': 'winnow',
  nibs: 'recipe',
  fines: 'recipe',
  liquor: 'recipe',
  'cocoa butter': 'recipe',
  'cocoa powder': 'recipe',
  charge: 'grind',
  chocolate: 'temper',
  couverture: 'temper',
  blocks: 'temper',
  rework: 'temper',
  bars: 'temper',
  'tempered chocolate': 'mould',
  shells: 'mould',
};

/**
 * The work a batch passes through, in the order of the line, from where its material enters: a couverture begins at the
 * temper, bought nibs at the recipe; what is not roasted, conched or tempered passes those by.
 */
export function routeOf({
  material,
  conched = false,
  tempered = true,
  roasted = true,
}: RouteInput): WorkKind[] {
  const first = WORK_KINDS.indexOf(FIRST_WORK[material] ?? 'sort');
  return WORK_KINDS.filter(
    (kind, i) =>
      i >= first &&
      (kind !== 'roast' || roasted) &&
      (kind !== 'conche' || conched) &&
      (kind !== 'temper' || tempered),
  );
}
