/** Standard gravity, m/s². */
export const GRAVITY = 9.80665;

/** A falling piece: its mass and the area it shows the air. */
export interface FallingPiece {
  /** kg, above 0. */
  mass: number;
  /** Projected area, m², above 0. */
  area: number;
  /** Drag coefficient, above 0. */
  drag: number;
  /** kg/m³; 1.204 (20 °C) where left out. */
  airDensity?: number;
}

/**
 * Speed at which weight and drag balance: v = √(2 m g/(ρ C_d A)), m/s.
 *
 * @throws RangeError for a mass, area, drag or density not above 0
 * @example terminalVelocity({ mass: 1e-4, area: 1e-4, drag: 1 }) // 4.036 m/s
 */
export function terminalVelocity({ mass, area, drag, airDensity = 1.204 }: FallingPiece): number {
  if (!(mass > 0) || !(area > 0) || !(drag > 0) || !(airDensity > 0))
    throw new RangeError('mass, area, drag and air density must be above 0');
  return Math.sqrt((2 * mass * GRAVITY) / (airDensity * drag * area));
}

/** Terminal velocity of a flat flake falling square to the air: its m/A is density × thickness. Thickness in mm, result in m/s. */
export function plateVelocity(
  thicknessMm: number,
  density: number,
  drag: number,
  airDensity?: number,
): number {
  return terminalVelocity({ mass: (density * thicknessMm) / 1000, area: 1, drag, airDensity });
}

/** Terminal velocity of a rounded piece: its m/A is ⅔ density × diameter. Diameter in mm, result in m/s. */
export function roundedVelocity(
  diameterMm: number,
  density: number,
  drag: number,
  airDensity?: number,
): number {
  return terminalVelocity({ mass: (density * 2 * diameterMm) / 3000, area: 1, drag, airDensity });
}
