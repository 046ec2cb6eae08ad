/** Kinds of chocolate with a tempering path of their own. */
export const CHOCOLATE_TYPES = ['dark', 'milk', 'white', 'plant', 'fruit'] as const;

/** One kind of chocolate. */
export type ChocolateType = (typeof CHOCOLATE_TYPES)[number];

/** Ways of tempering, each a full equal. */
export const TEMPER_METHODS = ['table', 'seed', 'butter-seed', 'bowl', 'bag', 'machine', 'none'] as const;

/** One way of tempering. */
export type TemperMethod = (typeof TEMPER_METHODS)[number];

/** The way a thing is usually tempered on or in, by what it is called; by solid seed where that says nothing, which asks for no more than a bowl. */
export function usualMethod(machine: { kind: string } | undefined): TemperMethod {
  if (/tempering|temperier/i.test(machine?.kind ?? '')) return 'machine';
  return /table|marble|tisch|marmor/i.test(machine?.kind ?? '') ? 'table' : 'seed';
}

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
  // Oat, rice or coconut instead of milk: their fats soften it about half as far. Fruit-coloured couverture: its sheet knows better.
  plant: { meltC: 45, coolC: 27, workC: 30.5, windowLowC: 30, windowHighC: 31 },
  fruit: { meltC: 44, coolC: 26, workC: 29, windowLowC: 28.5, windowHighC: 29.5 },
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

/** A constant of the crystal model with its unit and where it comes from. */
interface Constant {
  value: number;
  unit: string;
  source: string;
}

const of = (value: number, unit: string, source: string): Constant => ({ value, unit, source });

/**
 * The crystal model of a bowl. Melting points are published; the rates were set so that the usual ways of tempering, and the usual
 * ways of failing, come out as they do at the marble. They are estimates and shown as such.
 */
export const CRYSTALS = {
  unstableMelts: of(27.5, '°C', 'form IV of cocoa butter (Wille & Lutton 1966)'),
  stableMelts: of(33.8, '°C', 'form V of cocoa butter (Wille & Lutton 1966)'),
  still: of(
    0.12,
    'share',
    'effect of shear in a bowl that stands, against one that is stirred; set on cases',
  ),
  unstableNucleation: of(4.5e-4, '1/s·K²', 'set on cases'),
  unstableGrowth: of(1.1e-4, '1/s·K', 'set on cases'),
  unstableMelting: of(0.032, '1/s·K', 'set on cases'),
  turning: of(1.7e-3, '1/s', 'IV to V in a stirred bowl; set on cases'),
  stableNucleation: of(2.25e-8, '1/s', 'set on cases'),
  stableSteepness: of(1.05, '1/K', 'set on cases'),
  stableGrowth: of(1.3e-4, '1/s·K', 'set on cases'),
  stableMelting: of(0.004, '1/s·K', 'set on cases'),
  solidAtMelting: of(0.015, 'share of fat', 'about 1–2 % solid at 34 °C in tempered cocoa butter'),
  solidSteepness: of(1.3, '1/K', 'solid fat of tempered cocoa butter: about 16 % at 32 °C, 4 % at 33 °C'),
  lumpsSoften: of(28, '°C', 'pieces of seed soften from here on; set on cases'),
  lumpsWarmed: of(8.5e-4, '1/s·K', 'how fast pieces come apart, some minutes at 33 °C; set on cases'),
  lumpsStirred: of(5e-4, '1/s', 'worn off by stirring alone; set on cases'),
  thinning: of(0.004, '1/s', 'how fast what cannot stay solid melts; set on cases'),
} as const satisfies Record<string, Constant>;

/** Share of the fat of stirred-in pieces of tempered chocolate that stays crystal. */
export const SOLID_SEED_SURVIVES = 1 / 3;

/** Share of prepared stable butter that is crystal at 33–34 °C. */
export const BUTTER_SEED_SOLID = 0.65;

/**
 * Where verdicts change, shares of the fat. From 0.6 to 2.5 % stable a bowl is ready (with solid seed to 4.5 %), under 0.3 % it is not
 * tempered, over 5 % thick; between them the nearer one counts, by ratio.
 */
export const VERDICT_LIMITS = {
  unstable: 0.01,
  under: 0.0042,
  ready: 0.006,
  full: 0.025,
  thick: 0.035,
  fullSeeded: 0.045,
  thickSeeded: 0.0475,
} as const;

/** What is usual at a bowl until its own record has taught better; all may be wrong for another kitchen. */
export const BOWL_HABITS = {
  /** Room around a bowl, °C, and how far what surrounds it may be from what is thought, K. */
  roomC: 20,
  aroundSd: 5,
  /** How far back a pace looks, s; below which pace a bowl counts as steady and from which as warming, °C/min. */
  paceSeconds: 150,
  steadyPace: 0.08,
  warmingPace: 0.15,
  /** In air a stirred bowl loses at most this share of its difference a minute; what falls faster stands in water. */
  fastestInAir: 0.09,
  /** How much paces differ from one stretch to the next (standard deviation of the logarithm), and how far a steady bowl wanders in ten minutes, K. */
  paceSd: 0.28,
  wanderC: 0.5,
  /** A probe's own doubt, K, and the jump that is a spike, K. */
  probeSd: 0.1,
  spikeC: 4,
  /** Nearer than this to its melt or cool step a bowl has arrived, K. */
  nearMeltC: 2,
  nearCoolC: 0.5,
  /** How long a bowl runs on when it is lifted off water or ice, s. */
  runOnSeconds: 40,
  /** Pieces go in this far above the window, and a thick bowl is thinned this far above it, K. */
  seedAboveC: 10,
  thinAboveC: 1.5,
  /** What a hand warms or cools a bowl by, °C/min. */
  handPace: 1,
} as const;

/** How hard a bowl is stirred, as a hand would say it. */
export const STIRRED = { still: 0.05, gentle: 0.45, steady: 0.85 } as const;

/** One way of stirring. */
export type Stirring = keyof typeof STIRRED;

/** How a cooling curve is read: smoothing, how much it must bend to be an inflection, and what counts as level. */
export const COOLING_CURVE = {
  /** Half width of the smoothing and distance of its points, s. */
  halfSeconds: 15,
  everySeconds: 1,
  /** What the slope must fall again after an inflection, °C/min; and below what, since a sample that sets goes on cooling. */
  leastBend: 0.15,
  coolsOnBelow: -0.3,
  /** Faster than this no sample warms by its own setting, °C/min: its probe was taken out. */
  fastestRise: 15,
  /** Half width by the distance of the readings, where they lie far apart, and the furthest they may, s. */
  halfByDistance: 2.5,
  furthestApart: 12,
  limits: { fallingBelow: -0.5, risingAbove: 0.5 },
} as const;
