/** The nine stations of the line, in the order of the work. Every floor names its rooms after them. */
export const STATIONS = [
  'beans',
  'sort',
  'roast',
  'winnow',
  'recipe',
  'grind',
  'temper',
  'mould',
  'taste',
] as const;

/** One station of the line. */
export type Station = (typeof STATIONS)[number];

/** Every material that can be a parcel, from pod to bar. */
export const MATERIALS = [
  'pods',
  'wet beans',
  'juice',
  'dry beans',
  'sorted beans',
  'roasted beans',
  'nibs',
  'liquor',
  'charge',
  'chocolate',
  'tempered chocolate',
  'couverture',
  'cocoa butter',
  'cocoa powder',
  'shells',
  'filling',
  'bars',
  'blocks',
  'rework',
  'rejects',
  'husk',
  'fines',
  'ingredient',
  'packaging',
] as const;

/** One material. */
export type Material = (typeof MATERIALS)[number];

/** Materials that leave the line at a station beside the wanted output. */
export const BY_PRODUCTS: ReadonlySet<Material> = new Set<Material>(['rejects', 'husk', 'fines', 'rework']);

/** What is beside the work: by-products, juice, fillings, finished bars and what has a shelf of its own are nobody’s usual next thing. They can still be taken by name. */
export const BESIDE_WORK: ReadonlySet<Material> = new Set<Material>([
  'rejects',
  'husk',
  'fines',
  'juice',
  'filling',
  'bars',
  'ingredient',
  'packaging',
]);

/** The station at which a material, bought or left over, joins the line. */
export const ENTRY_STATION: Readonly<Record<Material, Station>> = {
  pods: 'beans',
  'wet beans': 'beans',
  juice: 'beans',
  'dry beans': 'sort',
  'sorted beans': 'roast',
  'roasted beans': 'winnow',
  nibs: 'recipe',
  liquor: 'recipe',
  charge: 'grind',
  'cocoa butter': 'recipe',
  'cocoa powder': 'recipe',
  chocolate: 'temper',
  couverture: 'temper',
  blocks: 'temper',
  rework: 'temper',
  'tempered chocolate': 'mould',
  shells: 'mould',
  filling: 'mould',
  bars: 'taste',
  rejects: 'sort',
  husk: 'winnow',
  fines: 'winnow',
  ingredient: 'recipe',
  packaging: 'mould',
};
