import { requireFinite, requireNotBelow0 } from '../numerics/index.ts';
import type { Composition } from './composition.ts';

/** How a paste behaves, thin to thick. */
export const FLOW_WORDS = ['thin', 'pours', 'thick', 'will not fill'] as const;

/** One of the words. */
export type FlowWord = (typeof FLOW_WORDS)[number];

/** Viscosity of the fat, densities and bounds of the words; all to be changed by whoever has measured. */
export interface FlowDefaults {
  /** Cocoa butter at 40 °C, Pa·s. */
  fatViscosity: number;
  /** g/cm³ at 40 °C. */
  density: { fat: number; cocoaSolids: number; sugar: number; milkSolids: number; otherSolids: number };
  /** Greatest packing of the solids at 20 µm, and what it loses for each halving of the size. */
  packing: number;
  packingPerHalving: number;
  /** Bounds between the words, Pa·s. */
  bounds: readonly [thin: number, pours: number, thick: number];
}

/**
 * Cocoa butter 45 mPa·s at 40 °C and densities from Beckett, Industrial Chocolate Manufacture and Use (4th ed., ch. 10); packing and
 * word bounds are guesses fitted to how makers describe two-ingredient, buttered and milk chocolates.
 */
export const FLOW_DEFAULTS: FlowDefaults = {
  fatViscosity: 0.045,
  density: { fat: 0.89, cocoaSolids: 1.45, sugar: 1.59, milkSolids: 1.36, otherSolids: 1.4 },
  packing: 0.66,
  packingPerHalving: 0.015,
  bounds: [0.35, 1.2, 4],
};

/** Lecithin, % of the bowl, up to which each gram does the work of about 10 g of butter, and beyond which the yield stress rises. */
export const LECITHIN = { works: 0.4, rises: 0.5, likeButter: 10, activeShare: 0.61 } as const;

/** What {@link estimateFlow} says. */
export interface Flow {
  /** Solids by volume. */
  solidsFraction: number;
  /** Apparent viscosity, Pa·s; Infinity where the solids are packed solid. */
  viscosity: number;
  word: FlowWord;
  /** Added lecithin above 0.5 %: the paste gets harder to start moving. */
  yieldRises: boolean;
}

/**
 * Flow of a paste by Krieger and Dougherty (1959): η = η_fat (1 − φ/φ_m)^(−2.5 φ_m), with φ from the composition (g in 100 g) and the
 * densities. Finer grinding lowers φ_m; lecithin counts as ten times its mass of butter up to 0.4 %; water beyond 1 % thickens
 * as solids would. An estimate to compare bowls by, not a measurement.
 *
 * @throws RangeError for grit not above 0
 */
export function estimateFlow(
  composition: Composition,
  gritUm = 20,
  defaults: FlowDefaults = FLOW_DEFAULTS,
): Flow {
  requireComposition(composition);
  requireFinite(gritUm, 'grit');
  if (!(gritUm > 0)) throw new RangeError('grit must be above 0 µm');
  const { density: d } = defaults;
  const c = composition;
  const lecithin = c.emulsifier / LECITHIN.activeShare;
  const helper = Math.min(lecithin, LECITHIN.works) * (LECITHIN.likeButter - 1);
  const fat = (c.cocoaButter + c.milkFat + c.otherFat + c.emulsifier + helper) / d.fat;
  const solids =
    c.cocoaSolids / d.cocoaSolids +
    c.sugar / d.sugar +
    c.milkSolids / d.milkSolids +
    c.otherSolids / d.otherSolids +
    6 * Math.max(0, c.water - 1.5);
  const solidsFraction = solids + fat > 0 ? solids / (solids + fat) : 0;
  const packing = defaults.packing - defaults.packingPerHalving * Math.log2(20 / gritUm);
  const free = 1 - solidsFraction / packing;
  const viscosity = free > 0 ? defaults.fatViscosity * free ** (-2.5 * packing) : Number.POSITIVE_INFINITY;
  const step = defaults.bounds.findIndex((b) => viscosity < b);
  return {
    solidsFraction,
    viscosity,
    word: FLOW_WORDS[step < 0 ? FLOW_WORDS.length - 1 : step]!,
    yieldRises: lecithin > LECITHIN.rises,
  };
}

/** @throws RangeError for a composition with a part below 0 or no number, or with nothing in it */
function requireComposition(composition: Composition): void {
  let sum = 0;
  for (const [part, grams] of Object.entries(composition) as [string, number][]) {
    requireNotBelow0(grams, `the ${part} in 100 g`);
    sum += grams;
  }
  if (!(sum > 0)) throw new RangeError('an empty bowl does not flow');
}

/** Composition after butter has been added to 100 g. */
function buttered(c: Composition, grams: number): Composition {
  const scale = 100 / (100 + grams);
  const all = Object.fromEntries(Object.entries(c).map(([k, v]) => [k, v * scale])) as unknown as Composition;
  return { ...all, cocoaButter: (c.cocoaButter + grams) * scale };
}

/** Butter, g for each 100 g of the bowl, that moves it one word thinner; null where it is thin already, or 60 g would not do it. */
export function butterForNextWord(
  composition: Composition,
  gritUm = 20,
  defaults: FlowDefaults = FLOW_DEFAULTS,
): { grams: number; word: FlowWord } | null {
  const now = FLOW_WORDS.indexOf(estimateFlow(composition, gritUm, defaults).word);
  if (now === 0) return null;
  const there = (grams: number) =>
    FLOW_WORDS.indexOf(estimateFlow(buttered(composition, grams), gritUm, defaults).word) < now;
  let [low, high] = [0, 60];
  if (!there(high)) return null;
  while (high - low > 1e-4) {
    const middle = (low + high) / 2;
    if (there(middle)) high = middle;
    else low = middle;
  }
  return { grams: high, word: FLOW_WORDS[now - 1]! };
}
