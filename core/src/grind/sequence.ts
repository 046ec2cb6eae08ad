/** A run that is to go through a machine. */
export interface PlannedRun {
  id: string;
  allergens: readonly string[];
  /** How strongly it leaves its taste on the stones: 0 plain, 1 milk or nut, 2 spice, 3 chilli, mint, smoke. */
  strength: number;
}

/** What has to be done between two runs. */
export interface ChangeOver {
  before: string;
  /** Allergens the machine still carries that the next run must not hold. */
  allergens: string[];
  /** The last run tasted stronger: a purge charge of sugar or plain nibs takes it up. */
  purge: boolean;
}

/** Words in an ingredient's name that stay on the stones, and how strongly. */
const STRONG: readonly [RegExp, number][] = [
  [/chilli|chili|mint|minz|smoke|rauch|garlic|curry/i, 3],
  [/cinnamon|zimt|spice|gewürz|coffee|kaffee|ginger|ingwer|pepper|pfeffer|clove|nelke/i, 2],
  [/nut|nuss|almond|mandel|sesame|sesam|milk|milch|oat|hafer|coconut|kokos/i, 1],
];

/** How strongly a recipe leaves its taste, by the names of what is in it. */
export function flavourStrength(names: readonly string[]): number {
  return names.reduce(
    (most, name) => Math.max(most, STRONG.find(([words]) => words.test(name))?.[1] ?? 0),
    0,
  );
}

/** Runs in an order that needs the least cleaning: fewest allergens first, then plain before strong; given order between equals. */
export function plainToStrong(runs: readonly PlannedRun[]): PlannedRun[] {
  return [...runs].sort((a, b) => a.allergens.length - b.allergens.length || a.strength - b.strength);
}

/** The change-over between the run a machine has just made and the next. Null where nothing is to be done. */
export function changeOver(last: PlannedRun, next: PlannedRun): ChangeOver | null {
  const allergens = last.allergens.filter((a) => !next.allergens.includes(a));
  const purge = last.strength > next.strength;
  return allergens.length > 0 || purge ? { before: next.id, allergens, purge } : null;
}
