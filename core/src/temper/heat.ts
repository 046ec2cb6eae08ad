import {
  requireAbove0,
  requireBetween,
  requireFinite,
  requireNotBelow0,
  requireNumbers,
} from '../numerics/index.ts';
import { CHOCOLATE_HEAT, FAT_LATENT_HEAT, SEED_MELTING_SHARE } from './defaults.ts';

/** A bowl to be cooled with solid seed. Temperatures °C; the seed's mass comes back in the unit of `mass`. */
export interface SeedProblem {
  mass: number;
  fromC: number;
  toC: number;
  seedC: number;
  /** Fat of the seed, share 0–1. */
  fat: number;
  /** Share of the seed's fat that melts, 0–1. */
  meltingShare?: number;
  /** Specific heat, J/g·K. */
  heat?: number;
  /** Latent heat of the fat, J/g. */
  latentHeat?: number;
}

/** Heat in J that one gram of seed takes up while it warms to `toC` and part of its fat melts. */
function heatPerGram(p: SeedProblem): number {
  const { heat = CHOCOLATE_HEAT, latentHeat = FAT_LATENT_HEAT, meltingShare = SEED_MELTING_SHARE } = p;
  return heat * (p.toC - p.seedC) + latentHeat * p.fat * meltingShare;
}

/**
 * Mass of solid seed that brings a bowl from `fromC` to `toC`:
 * m = M c (T_m − T_t) / (c (T_t − T_s) + L·fat·s).
 *
 * @throws RangeError when the bowl is not warmer than the target or the target not warmer than the seed
 * @example seedMass({ mass: 3150, fromC: 41.5, toC: 31.8, seedC: 20, fat: 0.36 }) // 897.7
 */
export function seedMass(p: SeedProblem): number {
  requireHeat(p);
  if (!(p.mass > 0)) throw new RangeError('the bowl holds no chocolate');
  if (!(p.fromC > p.toC))
    throw new RangeError(
      `the bowl at ${p.fromC} °C is not warmer than ${p.toC} °C: no seed is needed to cool it`,
    );
  if (!(p.toC > p.seedC)) throw new RangeError(`the seed at ${p.seedC} °C is not cooler than ${p.toC} °C`);
  if (!(p.fat >= 0 && p.fat <= 1)) throw new RangeError('the fat of the seed is a share between 0 and 1');
  const { heat = CHOCOLATE_HEAT } = p;
  return (p.mass * heat * (p.fromC - p.toC)) / heatPerGram(p);
}

/** Temperature the bowl comes to with a given seed mass: the inverse of {@link seedMass}. Never below the seed's. */
export function temperatureWithSeed(p: Omit<SeedProblem, 'toC'> & { seed: number }): number {
  requireHeat(p);
  requireAbove0(p.mass, 'the mass in the bowl');
  requireNotBelow0(p.seed, 'the seed');
  if (!(p.fromC > p.seedC))
    throw new RangeError(`the seed at ${p.seedC} °C is not cooler than the bowl at ${p.fromC} °C`);
  const { heat = CHOCOLATE_HEAT, latentHeat = FAT_LATENT_HEAT, meltingShare = SEED_MELTING_SHARE } = p;
  const melt = latentHeat * p.fat * meltingShare * p.seed;
  return Math.max(
    p.seedC,
    (heat * (p.mass * p.fromC + p.seed * p.seedC) - melt) / (heat * (p.mass + p.seed)),
  );
}

/** Two parts of one chocolate to be mixed after tabling. */
export interface TablingProblem {
  /** Part left hot and part cooled on the table, in one unit of mass. */
  hot: number;
  tabled: number;
  hotC: number;
  tabledC: number;
  /** Crystallised fat of the tabled part that melts on mixing, share of the tabled mass (0–0.1). */
  meltingFat?: number;
}

/** Temperature after mixing the tabled part back, with the heat its melting crystals take up. */
export function tabledMix({ hot, tabled, hotC, tabledC, meltingFat = 0.01 }: TablingProblem): number {
  requireNotBelow0(hot, 'the part left hot');
  requireNotBelow0(tabled, 'the tabled part');
  requireFinite(hotC, 'the temperature of the hot part');
  requireFinite(tabledC, 'the temperature of the tabled part');
  requireBetween(meltingFat, 0, 1, 'the fat that melts');
  if (!(hot + tabled > 0)) throw new RangeError('there is nothing to mix');
  const heat = CHOCOLATE_HEAT * (hot * hotC + tabled * tabledC) - FAT_LATENT_HEAT * meltingFat * tabled;
  return heat / (CHOCOLATE_HEAT * (hot + tabled));
}

/**
 * Temperature at which the tabled part is brought back so that both come to `toC`: the inverse of {@link tabledMix}.
 *
 * @throws RangeError as {@link tabledMix}, and where nothing is tabled
 */
export function tabledFor({ toC, ...parts }: Omit<TablingProblem, 'tabledC'> & { toC: number }): number {
  const { hot, tabled, hotC, meltingFat = 0.01 } = parts;
  requireFinite(toC, 'the temperature to come to');
  requireAbove0(tabled, 'the tabled part');
  tabledMix({ ...parts, tabledC: toC });
  return (
    ((hot + tabled) * toC - hot * hotC + (FAT_LATENT_HEAT / CHOCOLATE_HEAT) * meltingFat * tabled) / tabled
  );
}

/**
 * Share to leave hot so that the rest, tabled down to `tabledC` and brought back, makes both come to `toC`, 0–1: the other inverse of
 * {@link tabledMix}. Null where the hot part is not hotter than that, or the tabled part not cooler.
 *
 * @throws RangeError as {@link tabledMix}
 */
export function hotFor({
  hotC,
  tabledC,
  toC,
  meltingFat = 0.01,
}: Pick<TablingProblem, 'hotC' | 'tabledC' | 'meltingFat'> & { toC: number }): number | null {
  requireFinite(toC, 'the temperature to come to');
  const cooled = tabledMix({ hot: 0, tabled: 1, hotC, tabledC, meltingFat });
  return hotC > toC && cooled < toC ? (toC - cooled) / (hotC - cooled) : null;
}

/** @throws RangeError for heat, fat or shares that are no such thing */
function requireHeat(p: Pick<SeedProblem, 'fat' | 'meltingShare' | 'heat' | 'latentHeat'>): void {
  requireNumbers(p, 'the bowl');
  requireBetween(p.fat, 0, 1, 'the fat of the seed, a share,');
  requireBetween(p.meltingShare ?? 0, 0, 1, 'the share of the fat that melts');
  requireAbove0(p.heat ?? 1, 'the specific heat');
  requireNotBelow0(p.latentHeat ?? 0, 'the latent heat');
}
