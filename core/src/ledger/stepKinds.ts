import { STATIONS, type Material, type Station } from './stations.ts';

/** Kinds of work a batch passes through, in the order of the line. The grinder's station knows two. */
export const WORK_KINDS = [
  'sort',
  'roast',
  'winnow',
  'recipe',
  'grind',
  'conche',
  'temper',
  'mould',
] as const;

/** One kind of work. */
export type WorkKind = (typeof WORK_KINDS)[number];

/**
 * Every kind of step: work on the line, material that arrives or is dried, and what takes material out of the books
 * beside the work: leaving the workshop, being written off, or found different when counted; bars wrapped and boxed; parts
 * weighed out of a parcel for a trial; juice drained from fresh beans; liquor pressed into butter and cake; and fillings prepared in a pot.
 */
export const STEP_KINDS = [
  'receive',
  'dry',
  ...WORK_KINDS,
  'wrap',
  'leave',
  'write-off',
  'count',
  'part',
  'drain',
  'press',
  'prepare',
] as const;

/** One kind of step. */
export type StepKind = (typeof STEP_KINDS)[number];

/** The station each kind of work is done at. */
export const WORK_STATION: Readonly<Record<WorkKind, Station>> = {
  sort: 'sort',
  roast: 'roast',
  winnow: 'winnow',
  recipe: 'recipe',
  grind: 'grind',
  conche: 'grind',
  temper: 'temper',
  mould: 'mould',
};

const WORK: ReadonlySet<string> = new Set(WORK_KINDS);

/** Whether a step is work on the line; the others are no part of ribbon, yields and charges. */
export function isWork(kind: StepKind): kind is WorkKind {
  return WORK.has(kind);
}

/** The usual kind of work at a station; null where none is done (beans, taste). */
export function usualWork(station: Station): WorkKind | null {
  return WORK.has(station) ? (station as WorkKind) : null;
}

/** Chocolate in every state in which it can be melted again. */
const MELTABLE: readonly Material[] = [
  'chocolate',
  'tempered chocolate',
  'couverture',
  'blocks',
  'rework',
  'bars',
];

/**
 * What may enter each kind of work. Wide where schools differ (nib roast, whole beans ground rustic, chocolate moulded
 * untempered), closed where it can only be a slip: wet beans into an oven, husk into a grinder, sugarless beans into moulds.
 */
export const MAY_ENTER: Readonly<Record<WorkKind, ReadonlySet<Material>>> = {
  sort: new Set<Material>(['dry beans', 'sorted beans', 'rejects']),
  roast: new Set<Material>(['dry beans', 'sorted beans', 'roasted beans', 'nibs']),
  winnow: new Set<Material>(['dry beans', 'sorted beans', 'roasted beans', 'nibs', 'husk', 'fines']),
  recipe: new Set<Material>([
    'sorted beans',
    'roasted beans',
    'nibs',
    'fines',
    'liquor',
    'cocoa butter',
    'cocoa powder',
    'charge',
    'ingredient',
    ...MELTABLE,
  ]),
  grind: new Set<Material>([
    'roasted beans',
    'nibs',
    'fines',
    'liquor',
    'cocoa butter',
    'cocoa powder',
    'charge',
    'ingredient',
    ...MELTABLE,
  ]),
  conche: new Set<Material>(['liquor', 'cocoa butter', 'charge', 'ingredient', ...MELTABLE]),
  temper: new Set<Material>(['liquor', 'cocoa butter', 'charge', 'ingredient', ...MELTABLE]),
  mould: new Set<Material>([
    'liquor',
    'cocoa butter',
    'charge',
    'nibs',
    'ingredient',
    'shells',
    'filling',
    ...MELTABLE,
  ]),
};

/** What a filling is made of: chocolate in any state, cacao, whatever is on the shelf, and fillings that are left. */
export const MAY_FILL: ReadonlySet<Material> = new Set<Material>([
  'nibs',
  'liquor',
  'cocoa butter',
  'cocoa powder',
  'charge',
  'ingredient',
  'filling',
  ...MELTABLE,
]);

/** Whether a material may enter a kind of work. */
export function mayEnter(kind: WorkKind, material: Material): boolean {
  return MAY_ENTER[kind].has(material);
}

/** Stations of a route in the order of the line. */
export function stationsOfRoute(route: readonly WorkKind[]): Station[] {
  return STATIONS.filter((s) => route.some((k) => WORK_STATION[k] === s));
}
