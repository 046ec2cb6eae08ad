/** Heat conduction in a stack of bean sacks; workshop defaults from the trade, to be changed where better is known. */
export interface StackMaterial {
  /** W/m·K. */
  conductivity: number;
  /** m²/s. */
  diffusivity: number;
  /** Heat transfer from the stack's faces to the air, W/m²·K. */
  transfer: number;
}

/** Beans in sacks, in still cold or warm air. */
export const SACKED_BEANS: StackMaterial = { conductivity: 0.1, diffusivity: 8.6e-8, transfer: 8 };

/** One of the two schools: what the core must come to, °C, and how long it must stay there, days. */
export interface HoldMethod {
  airC: number;
  coreC: number;
  days: number;
}

/** Usual holds. The user's pest adviser decides, not these. */
export const HOLD_METHODS = {
  freezing: { airC: -20, coreC: -18, days: 4 },
  heat: { airC: 55, coreC: 50, days: 1 },
} as const satisfies Record<string, HoldMethod>;

/** Name of a hold's method. */
export type HoldKind = keyof typeof HOLD_METHODS;
