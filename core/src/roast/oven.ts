import { requireAbove0, requireFinite } from '../numerics/index.ts';
import { OVEN_DEFAULTS, SURFACE_TRANSFER } from './defaults.ts';

/** An oven as the model sees it. */
export interface Oven {
  /** Surface heat transfer with the fan on (or drum turning), W/m²·K. */
  transfer: number;
  /** The same with the fan off. */
  transferStill: number;
  /** Largest heater power, W. */
  power: number;
  /** Heat capacity of air, trays and inner walls, J/K. */
  heatCapacity: number;
  /** Loss to the room, W/K. */
  wallLoss: number;
  /** Time constant of the thermostat's sensor, s. */
  lag: number;
  /** Full power when the sensor reads this far below the setting, K. */
  band: number;
  /** What the air settles at less what the dial says, K. */
  offset: number;
  /** Further loss while the door is open, W/K. */
  doorLoss: number;
}

/** What a workshop says of its oven. */
export interface OvenFacts {
  kind?: keyof typeof SURFACE_TRANSFER;
  /** Usable charge, kg. */
  usableKg?: number | null;
}

/** An oven from its kind and usable charge, before its own roasts have taught better. */
export function makeOven({ kind = 'fan', usableKg }: OvenFacts = {}): Oven {
  if (usableKg != null) requireAbove0(usableKg, 'the usable charge');
  return {
    transfer: SURFACE_TRANSFER[kind],
    transferStill: kind === 'drum' ? SURFACE_TRANSFER.drum : SURFACE_TRANSFER.still,
    power: OVEN_DEFAULTS.powerPerKg.value * (usableKg ?? 3),
    heatCapacity: OVEN_DEFAULTS.heatCapacity.value,
    wallLoss: OVEN_DEFAULTS.wallLoss.value,
    lag: OVEN_DEFAULTS.lag.value,
    band: OVEN_DEFAULTS.band.value,
    offset: 0,
    doorLoss: OVEN_DEFAULTS.doorLoss.value,
  };
}

/** What can be learnt of an oven from its logged roasts, in the order of {@link OvenLearning.covariance}. */
export const LEARNT = ['transfer', 'power', 'lag', 'offset'] as const;

/** How far a new oven may be from the usual one: standard deviations of ln transfer, ln power, ln lag, and of the offset in K. */
export const OVEN_PRIOR_SD = [0.35, 0.35, 0.5, 5] as const;

/** How much one roast differs from the oven's usual self: standard deviations of the shifts. */
export const BETWEEN = [0.06, 0.05, 0.15, 1.5] as const;

/** How far a bean probe may lie from the mean bean, throughout a roast, K. */
export const PROBE_SD = 1.2;

/** How far what is in the oven may be from what the first readings say, K. */
export const START_SD = { bean: 2, air: 5 } as const;

/** What the model leaves out: this large, K, and fading with this time constant, s. */
export const DISCREPANCY = 0.9;
/** See {@link DISCREPANCY}. */
export const DISCREPANCY_TIME = 300;

/** The oven shifted by parameters ln transfer, ln power, ln lag (as factors) and offset in K. */
export function shiftOven(oven: Oven, [transfer, power, lag, offset]: readonly number[]): Oven {
  for (const shift of [transfer, power, lag, offset]) requireFinite(shift!, 'a shift');
  const factor = Math.exp(transfer!);
  return {
    ...oven,
    transfer: oven.transfer * factor,
    transferStill: oven.transferStill * factor,
    power: oven.power * Math.exp(power!),
    lag: oven.lag * Math.exp(lag!),
    offset: oven.offset + offset!,
  };
}
