import { DEFAULT_NIB_FAT } from '../recipe/index.ts';
import { requireFinite, requireNotBelow0 } from '../numerics/index.ts';

/** Fat a press usually leaves in the cake, %: hard pressing 10–12, a small press 20–24. */
export const USUAL_CAKE_FAT = 20;

/** Liquor about to be pressed, or pressed. */
export interface Pressed {
  /** What goes into the press, mg. */
  liquorMg: number;
  /** Fat of the liquor, % by mass; that of its nibs, usually 54. */
  liquorFat?: number;
}

function requireLiquor({ liquorMg, liquorFat = DEFAULT_NIB_FAT }: Pressed): number {
  requireFinite(liquorMg, 'the liquor');
  requireFinite(liquorFat, 'the fat of the liquor');
  if (!(liquorMg > 0)) throw new RangeError(`something has to go into the press, not ${liquorMg} mg`);
  if (!(liquorFat > 0 && liquorFat < 100))
    throw new RangeError(`the fat of a liquor lies between 0 and 100 %, not ${liquorFat}`);
  return liquorFat;
}

/**
 * Butter a press gives when it leaves so much fat in the cake: the fat balance F·m = b + c·(m − b), with nothing left in the press.
 *
 * @param cakeFat fat left in the cake, %, at most the liquor’s own
 * @returns butter and cake, mg; together they are the liquor
 * @throws RangeError for shares and masses that cannot be
 */
export function pressYield({ cakeFat, ...pressed }: Pressed & { cakeFat: number }): {
  butterMg: number;
  cakeMg: number;
} {
  const liquorFat = requireLiquor(pressed);
  requireNotBelow0(cakeFat, 'the fat of the cake');
  if (cakeFat > liquorFat)
    throw new RangeError(`the cake cannot hold more fat (${cakeFat} %) than the liquor did (${liquorFat} %)`);
  const butterMg = (pressed.liquorMg * (liquorFat - cakeFat)) / (100 - cakeFat);
  return { butterMg, cakeMg: pressed.liquorMg - butterMg };
}

/** What weighing butter and cake says of a pressing. */
export interface PressReading {
  /** Fat left in the cake, %. */
  cakeFat: number;
  /** Share of the liquor’s fat that came out as butter, 0–1. */
  recovered: number;
  /** What stayed in the press or was lost, mg. */
  lostMg: number;
}

/**
 * Fat left in the cake, by the weights: what was in the liquor less the butter, with what stayed in the press holding as much fat as the cake.
 *
 * @throws RangeError where more came out than went in, or more butter than there was fat
 */
export function readPressing({
  butterMg,
  cakeMg,
  ...pressed
}: Pressed & { butterMg: number; cakeMg: number }): PressReading {
  const liquorFat = requireLiquor(pressed);
  requireNotBelow0(butterMg, 'the butter');
  requireNotBelow0(cakeMg, 'the cake');
  const lostMg = pressed.liquorMg - butterMg - cakeMg;
  if (lostMg < 0) throw new RangeError('more came out of the press than went in: weigh again');
  const fatMg = (pressed.liquorMg * liquorFat) / 100;
  if (butterMg > fatMg)
    throw new RangeError(
      `the liquor held ${Math.round(fatMg / 1000)} g of fat; more butter cannot have come out: weigh again`,
    );
  const restMg = pressed.liquorMg - butterMg;
  return {
    cakeFat: restMg > 0 ? (100 * (fatMg - butterMg)) / restMg : 0,
    recovered: butterMg / fatMg,
    lostMg,
  };
}
