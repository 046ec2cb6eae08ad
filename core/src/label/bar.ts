import type { RecipeLine } from '../recipe/index.ts';
import type { ChocolateType } from '../temper/index.ts';

/** A lot of cacao a bar comes from, as its label names it. */
export interface BarOrigin {
  name: string;
  country: string;
  harvest: string;
}

/** A bar as it was made: everything a label can tell of it. */
export interface BarFacts {
  /** What it was made from, as weighed; masses only in proportion. */
  lines: readonly RecipeLine[];
  origins: readonly BarOrigin[];
  /** Allergens that came in with something else than the lines, such as rework or a delivery's own. */
  broughtAllergens: readonly string[];
  /** Allergens it does not hold that its machines held before it, with no cleaning noted in between. */
  carriedOver?: readonly { allergen: string; machine: string; batchCode: string }[];
  /** Bought things among the lines, by name, with the ingredients their sheets name; empty where nobody has written them down. */
  bought: Readonly<Record<string, string>>;
  /** What the sheet of the chocolate most of it was bought as says it is; null where it was made here. */
  boughtKind: ChocolateType | null;
  /** Whether the composition of all that is in it is known; no figure is stated otherwise. */
  complete: boolean;
  netMg: number;
  /** Printed on the bar; the batch's where it has none of its own. */
  code: string;
  /** ISO day; null where none was kept. */
  bestBefore: string | null;
  /** A name of the maker's own, in the maker's own words; empty where none was given. */
  ownName: string;
  /** Chocolate in a filled piece, % by mass; null where it is not filled. */
  shellPercent: number | null;
  /** Water activity of a filling; null where not measured. */
  waterActivity: number | null;
  /** Address of the batch's page. */
  pageUrl: string;
}

/** Who makes it, and what the workshop says on every label. */
export interface MakerFacts {
  name: string;
  /** Street, place and country; empty where nobody has entered it. */
  address: string;
  /** Which cacao % is claimed. */
  cacaoSchool: 'all' | 'beans';
  /** Allergens that may be there from other runs. */
  traces: readonly string[];
}
