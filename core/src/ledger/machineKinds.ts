import { requireNotBelow0 } from '../numerics/index.ts';
import type { Station } from './stations.ts';

/**
 * What a machine may be, by the station it stands at. Its kind is free text, since workshops have machines nobody has thought of; these are the
 * words the models and the planner understand.
 */
export const MACHINE_KINDS: Readonly<Record<Station, readonly string[]>> = {
  beans: ['scale', 'room sensor'],
  sort: ['scale'],
  roast: ['fan oven', 'still oven', 'drum roaster'],
  winnow: ['cracker', 'winnower'],
  recipe: ['scale', 'press'],
  grind: ['stone grinder', 'conche'],
  temper: ['bowl', 'table', 'tempering machine', 'scale'],
  mould: ['cabinet', 'room sensor', 'scale'],
  taste: [],
};

/** Whether a machine weighs, by what it is called. */
export const isScale = ({ kind }: { kind: string }): boolean => /scale|waage/i.test(kind);

/** Whether a machine presses liquor into butter and cake, by what it is called. */
export const isPress = ({ kind }: { kind: string }): boolean => /press/i.test(kind);

/** Whether a machine only measures, a scale or a sensor: nothing is ever made on it. */
export const isInstrument = (machine: { kind: string }): boolean =>
  isScale(machine) || /sensor|fühler/i.test(machine.kind);

/** A scale: its standard uncertainty and the most it carries, mg; null where nobody has said. */
export interface Scale {
  uMg: number | null;
  maxMg: number | null;
}

/**
 * The standard uncertainty of a weighing, mg: that of the finest scale here that carries so much, since whoever weighs takes the scale that
 * fits.
 *
 * @returns null where no scale is known that does
 */
export function weighingU(scales: readonly Scale[], massMg: number): number | null {
  requireNotBelow0(massMg, 'what is weighed');
  const able = scales.flatMap(({ uMg, maxMg }) =>
    uMg !== null && uMg > 0 && (maxMg === null || maxMg >= massMg) ? [uMg] : [],
  );
  return able.length > 0 ? Math.min(...able) : null;
}
