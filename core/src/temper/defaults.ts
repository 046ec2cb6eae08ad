/** Kinds of chocolate with a tempering path of their own. */
export const CHOCOLATE_TYPES = ['dark', 'milk', 'white'] as const;

/** One kind of chocolate. */
export type ChocolateType = (typeof CHOCOLATE_TYPES)[number];

/** Ways of tempering, each a full equal. */
export const TEMPER_METHODS = ['table', 'seed', 'butter-seed', 'bowl', 'bag', 'machine', 'none'] as const;

/** One way of tempering. */
export type TemperMethod = (typeof TEMPER_METHODS)[number];

/** Melt, cool and work temperatures, °C. */
export interface TemperPath {
  meltC: number;
  coolC: number;
  workC: number;
  windowLowC: number;
  windowHighC: number;
}

/** The trade's usual paths; each lot keeps its own after good results. */
export const TEMPER_PATHS: Readonly<Record<ChocolateType, TemperPath>> = {
  dark: { meltC: 46, coolC: 27.5, workC: 31.5, windowLowC: 30.5, windowHighC: 32 },
  milk: { meltC: 44, coolC: 26.5, workC: 29.5, windowLowC: 29, windowHighC: 30 },
  white: { meltC: 43, coolC: 25.5, workC: 28.5, windowLowC: 28, windowHighC: 29 },
};

/** Melt, cool and work temperatures as a maker prints them on a sheet, °C; what is not printed is null. */
export interface TemperSheet {
  meltC: number | null;
  coolC: number | null;
  workLowC: number | null;
  workHighC: number | null;
}

/**
 * The path of a bought chocolate by its sheet; what the sheet leaves out is the trade's usual for its type, moved along with its
 * window.
 *
 * @throws RangeError for temperatures that are no numbers, or a window that is upside down
 */
export function pathBySheet(type: ChocolateType, sheet: TemperSheet | null): TemperPath {
  const usual = TEMPER_PATHS[type];
  if (!sheet) return usual;
  const windowLowC =
    sheet.workLowC ?? (sheet.workHighC ?? usual.windowHighC) - (usual.windowHighC - usual.windowLowC);
  const windowHighC = sheet.workHighC ?? windowLowC + (usual.windowHighC - usual.windowLowC);
  const shift = windowLowC - usual.windowLowC;
  const path = {
    meltC: sheet.meltC ?? usual.meltC,
    coolC: sheet.coolC ?? usual.coolC + shift,
    workC: (windowLowC + windowHighC) / 2,
    windowLowC,
    windowHighC,
  };
  if (!Object.values(path).every(Number.isFinite))
    throw new RangeError('a sheet’s temperatures must be numbers, °C');
  if (windowLowC >= windowHighC)
    throw new RangeError(`a working window from ${windowLowC} to ${windowHighC} °C is upside down`);
  return path;
}

/** Specific heat of chocolate, J/g·K, and latent heat of its fat, J/g. */
export const CHOCOLATE_HEAT = 1.7;
/** Heat of melting of cocoa butter, J/g. */
export const FAT_LATENT_HEAT = 150;

/** Share of the seed's fat that melts when it is stirred in. */
export const SEED_MELTING_SHARE = 0.7;

/** Usual dose of prepared stable-butter seed, share of the chocolate's mass. */
export const BUTTER_SEED_SHARE = { low: 0.005, usual: 0.008, high: 0.02 } as const;
