import { requireAbove0, requireNotBelow0 } from '../numerics/index.ts';

/**
 * What dissolves in the water of a filling: molar mass in g/mol, and Norrish’s constant (Norrish 1966, constants as collected by Chirife and
 * Favetto 1992). Invert stands for glucose, fructose and their syrups; salt counts as its two ions, at so little without any further pull.
 */
export const SOLUTES = {
  sucrose: { molar: 342.3, norrish: 6.47 },
  invert: { molar: 180.16, norrish: 2.25 },
  lactose: { molar: 342.3, norrish: 10.2 },
  polyol: { molar: 182.17, norrish: 1.65 },
  salt: { molar: 58.44 / 2, norrish: 0 },
} as const;

/** One of {@link SOLUTES}. */
export type Solute = keyof typeof SOLUTES;

const WATER_MOLAR = 18.015;

/**
 * Water activity (0 to 1) of a solution of so many grams of each solute in so many grams of water, all of it dissolved, by Norrish’s equation for
 * mixtures: ln a = ln x_w − (Σ √K_i·x_i)², mole fractions x.
 *
 * @throws RangeError for water not above 0, or a solute below 0
 * @example waterActivity(32.5, { sucrose: 67.5 }) // 0.847, saturated sucrose
 */
export function waterActivity(waterG: number, solutes: Partial<Record<Solute, number>>): number {
  requireAbove0(waterG, 'the water of a solution');
  const moles = (Object.keys(solutes) as Solute[]).map((name) => {
    const grams = solutes[name] ?? 0;
    requireNotBelow0(grams, `the ${name} of a solution`);
    return { of: grams / SOLUTES[name].molar, pull: Math.sqrt(SOLUTES[name].norrish) };
  });
  const water = waterG / WATER_MOLAR;
  const all = moles.reduce((sum, m) => sum + m.of, water);
  const pull = moles.reduce((sum, m) => sum + (m.pull * m.of) / all, 0);
  return (water / all) * Math.exp(-(pull ** 2));
}
