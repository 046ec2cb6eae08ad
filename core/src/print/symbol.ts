import bwip, { type RawOptions } from 'bwip-js/generic';

/** A two-dimensional symbol: dark modules by row, and the free modules a reader needs around them. */
export interface SymbolGrid {
  rows: readonly (readonly boolean[])[];
  quiet: number;
}

/** Free modules around: ISO/IEC 18004 asks four of a QR code, ISO/IEC 16022 one of a Data Matrix. */
const QUIET = { qr: 4, datamatrix: 1 } as const;

/** Longest text a label's symbol is made of. */
const LONGEST = 400;

/**
 * Makes a QR code (of the highest error level that needs no more modules) or a Data Matrix (ECC 200, square) of a text.
 *
 * @throws RangeError for an empty text or one of more than 400 signs
 */
export function symbolOf(kind: 'qr' | 'datamatrix', text: string): SymbolGrid {
  if (text.length === 0 || text.length > LONGEST)
    throw new RangeError(`a code on a label holds 1 to ${LONGEST} signs, not ${text.length}`);
  if (kind === 'datamatrix') return gridOf(kind, { bcid: 'datamatrix', text, format: 'square' });
  const least = gridOf(kind, { bcid: 'qrcode', text, eclevel: 'L' });
  // As much to correct errors with as makes the code no finer.
  for (const eclevel of ['H', 'Q', 'M']) {
    const grid = gridOf(kind, { bcid: 'qrcode', text, eclevel });
    if (grid.rows.length === least.rows.length) return grid;
  }
  return least;
}

function gridOf(
  kind: 'qr' | 'datamatrix',
  options: RawOptions & { eclevel?: string; format?: string },
): SymbolGrid {
  let drawn: { pixs: ArrayLike<number>; pixx: number; pixy: number };
  try {
    [drawn] = bwip.raw(options) as unknown as [typeof drawn];
  } catch {
    throw new RangeError(
      `"${options.text}" cannot be written as a ${kind === 'qr' ? 'QR code' : 'Data Matrix'}; use letters, digits and signs of the Latin alphabet, and fewer of them`,
    );
  }
  return {
    quiet: QUIET[kind],
    rows: Array.from({ length: drawn.pixy }, (_, y) =>
      Array.from({ length: drawn.pixx }, (_, x) => drawn.pixs[y * drawn.pixx + x] === 1),
    ),
  };
}

/** A dot of a printer or scanner of 300 dpi, mm. */
const DOT_MM = 25.4 / 300;

/** Module of a symbol in a square, mm: whole dots, so that no module is drawn thinner than its neighbour. */
export function moduleFor(grid: SymbolGrid, sideMm: number): number {
  const most = sideMm / symbolModules(grid);
  return most < DOT_MM ? most : Math.floor(most / DOT_MM + 1e-9) * DOT_MM;
}

/** Side of a symbol with what must be free around it, in modules. */
export function symbolModules({ rows, quiet }: SymbolGrid): number {
  return rows.length + 2 * quiet;
}

/** Dark modules that stand side by side, as one bar each, so that no printer leaves a gap between them. */
export function darkRuns({ rows }: SymbolGrid): { row: number; column: number; length: number }[] {
  return rows.flatMap((dark, row) => {
    const runs: { row: number; column: number; length: number }[] = [];
    dark.forEach((is, column) => {
      const last = runs.at(-1);
      if (!is) return;
      if (last && last.column + last.length === column) last.length += 1;
      else runs.push({ row, column, length: 1 });
    });
    return runs;
  });
}
