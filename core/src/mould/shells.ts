import { requireAbove0, requireBetween, requireNotBelow0 } from '../numerics/index.ts';

/** What is done to filled pieces, in order; the workshop may leave out what it does not do. */
export const SHELL_STAGES = [
  'polish',
  'decorate',
  'dry',
  'shell',
  'drain',
  'set',
  'fill',
  'skin',
  'cap',
  'release',
] as const;

/** One of {@link SHELL_STAGES}. */
export type ShellStage = (typeof SHELL_STAGES)[number];

/** Usual minutes of each stage that is waited for; 0 where hands are at work. Makers' habits differ. */
export const STAGE_MINUTES: Readonly<Record<ShellStage, number>> = {
  polish: 0,
  decorate: 0,
  dry: 10,
  shell: 0,
  drain: 2,
  set: 15,
  fill: 0,
  skin: 720,
  cap: 0,
  release: 20,
};

/** Stages at which tempered chocolate is poured: the window is looked at before each. */
export const POURING_STAGES: ReadonlySet<ShellStage> = new Set<ShellStage>(['shell', 'cap']);

/** Filled pieces as they are planned. Masses of one piece in mg. */
export interface ShellProblem {
  pieces: number;
  /** Chocolate a full cavity takes, and what stays as shell when it is drained. */
  brimMg: number;
  shellMg: number;
  fillingMg: number;
  capMg: number;
}

/** What filled pieces need and give back. Masses in mg. */
export interface ShellPlan {
  /** Poured in to the brim, drained back, and left as shells. */
  pourMg: number;
  drainMg: number;
  shellsMg: number;
  fillingMg: number;
  capsMg: number;
  pieceMg: number;
  netMg: number;
  /** Chocolate of a piece, %; below 25 it is no filled chocolate (Directive 2000/36/EC, Annex I). */
  chocolatePercent: number;
}

/** Why filled pieces cannot be as planned: nothing would drain, or filling and cap do not fit above the shell. */
export type ShellFault = 'shell-fills-cavity' | 'does-not-fit';

/** Mass of the densest usual fillings for the volume of as much chocolate: caramel and sugar pastes near 1.45 g/mL against 1.25. */
const DENSEST_FILLING = 1.3;

/** What stands in the way of such pieces; null where they can be. */
export function shellFault({
  brimMg,
  shellMg,
  fillingMg,
  capMg,
}: Omit<ShellProblem, 'pieces'>): ShellFault | null {
  if (shellMg >= brimMg) return 'shell-fills-cavity';
  return fillingMg + capMg > DENSEST_FILLING * (brimMg - shellMg) ? 'does-not-fit' : null;
}

const SHELL_FAULTS: Readonly<Record<ShellFault, string>> = {
  'shell-fills-cavity': 'a shell is lighter than the full cavity; what drains back is the difference',
  'does-not-fit':
    'filling and cap do not fit above the shell: together they weigh little more than what drains back',
};

/**
 * What so many filled pieces need: chocolate to the brim, what drains back, filling and caps.
 *
 * @throws RangeError for pieces or masses not above 0, a shell as heavy as the full cavity, or filling and cap that do not fit above it
 */
export function planShells({ pieces, brimMg, shellMg, fillingMg, capMg }: ShellProblem): ShellPlan {
  requireAbove0(pieces, 'the number of pieces');
  requireAbove0(brimMg, 'the mass that fills a cavity');
  requireAbove0(shellMg, 'the mass of a shell');
  requireAbove0(fillingMg, 'the mass of a filling');
  requireNotBelow0(capMg, 'the mass of a cap');
  const fault = shellFault({ brimMg, shellMg, fillingMg, capMg });
  if (fault) throw new RangeError(SHELL_FAULTS[fault]);
  const pieceMg = shellMg + fillingMg + capMg;
  return {
    pourMg: pieces * brimMg,
    drainMg: pieces * (brimMg - shellMg),
    shellsMg: pieces * shellMg,
    fillingMg: pieces * fillingMg,
    capsMg: pieces * capMg,
    pieceMg,
    netMg: pieces * pieceMg,
    chocolatePercent: (100 * (shellMg + capMg)) / pieceMg,
  };
}

/**
 * Chocolate of filled pieces as they were made, % of their mass: all that is not filling.
 *
 * @throws RangeError for pieces that weigh nothing, or hold more filling than they weigh
 */
export function chocolateShare({ madeMg, fillingMg }: { madeMg: number; fillingMg: number }): number {
  requireAbove0(madeMg, 'the mass of the pieces');
  requireBetween(fillingMg, 0, madeMg, 'the filling of pieces of that mass');
  return 100 * (1 - fillingMg / madeMg);
}

/** Days a filling usually keeps by its water activity: up to so much, days. Cautious kitchen guidance; a laboratory decides. */
const FILLING_DAYS: readonly (readonly [upTo: number, days: number])[] = [
  [0.6, 180],
  [0.7, 90],
  [0.8, 42],
  [0.85, 21],
  [0.9, 10],
];

/**
 * Days a filled piece is usually kept by the water activity of its filling (0 to 1); 3, and cold, above 0.9.
 *
 * @throws RangeError outside 0 to 1
 */
export function fillingDays(waterActivity: number): number {
  if (!(waterActivity >= 0 && waterActivity <= 1))
    throw new RangeError(`a water activity lies between 0 and 1, not ${waterActivity}`);
  return FILLING_DAYS.find(([upTo]) => waterActivity <= upTo)?.[1] ?? 3;
}

/**
 * The day up to which a filling made on a day keeps by its water activity, both ISO days: see {@link fillingDays}.
 *
 * @throws RangeError for a day that is none, or outside 0 to 1
 */
export function fillingKeepsUntil(madeOn: string, waterActivity: number): string {
  const made = Date.parse(`${madeOn}T12:00:00Z`);
  if (Number.isNaN(made)) throw new RangeError(`"${madeOn}" is no day; write it as 2026-11-30`);
  return new Date(made + fillingDays(waterActivity) * 86_400_000).toISOString().slice(0, 10);
}
