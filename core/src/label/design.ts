import type { Market } from '../recipe/index.ts';

/** Everything a label may say, each once. */
export const LABEL_PARTS = [
  'maker',
  'name',
  'origin',
  'cacao',
  'ingredients',
  'traces',
  'nutrition',
  'storage',
  'address',
  'netMass',
  'bestBefore',
  'batch',
  'symbol',
] as const;

/** One thing a label says. */
export type LabelPart = (typeof LABEL_PARTS)[number];

/** Languages labels can be written in. */
export const LABEL_LANGUAGES = ['en', 'de', 'fr'] as const;

/** One of {@link LABEL_LANGUAGES}. */
export type LabelLanguage = (typeof LABEL_LANGUAGES)[number];

/** Papers sheets of labels are cut from, mm. */
export const PAPERS: Readonly<Record<'A4' | 'Letter', readonly [width: number, height: number]>> = {
  A4: [210, 297],
  Letter: [215.9, 279.4],
};

/** Where the labels stand on a sheet of paper, mm: rows and columns, the gaps between them, and the first one's corner. */
export interface LabelSheet {
  paper: keyof typeof PAPERS;
  rows: number;
  columns: number;
  gapXMm: number;
  gapYMm: number;
  leftMm: number;
  topMm: number;
}

/** How a label is made: its size, what stands on front and back, its languages and the market it is for. */
export interface LabelDesign {
  widthMm: number;
  heightMm: number;
  /** Left free along every edge. */
  marginMm: number;
  front: readonly LabelPart[];
  /** Empty where nothing is printed on the back. */
  back: readonly LabelPart[];
  /** Nothing but one label on a page of its own size where null. */
  sheet: LabelSheet | null;
  symbol: 'qr' | 'datamatrix';
  /** What the symbol carries: the address of the batch's page, the code on the bar, or a text of one's own. */
  symbolSays: 'page' | 'batch' | 'text';
  symbolText: string;
  symbolMm: number;
  /** In the order they stand; more than one for a label in several languages. */
  languages: readonly LabelLanguage[];
  market: Market;
  /** Whether the nutrition statement is printed; some makers are exempt. */
  nutrition: boolean;
}

const EVERYTHING: readonly LabelPart[] = [
  'maker',
  'name',
  'origin',
  'cacao',
  'ingredients',
  'traces',
  'storage',
  'address',
  'netMass',
  'bestBefore',
  'batch',
  'symbol',
];

const PLAIN = {
  marginMm: 3,
  back: [],
  symbol: 'qr',
  symbolSays: 'page',
  symbolText: '',
  symbolMm: 16,
  languages: ['en'],
  market: 'EU',
  nutrition: false,
} as const;

/** Designs to begin with, by a key of their own; a workshop keeps its own beside them. */
export const STARTER_DESIGNS: Readonly<Record<string, LabelDesign>> = {
  /** One label with all that must be on it. */
  single: { ...PLAIN, widthMm: 90, heightMm: 55, front: EVERYTHING, sheet: null },
  /** Front and back of a bar's wrapper. */
  wrapper: {
    ...PLAIN,
    widthMm: 70,
    heightMm: 150,
    marginMm: 5,
    symbolMm: 20,
    front: ['maker', 'name', 'origin', 'cacao', 'netMass'],
    back: ['ingredients', 'traces', 'nutrition', 'storage', 'address', 'bestBefore', 'batch', 'symbol'],
    sheet: null,
    nutrition: true,
  },
  /** Stickers cut three by seven on a sheet. */
  stickers: {
    ...PLAIN,
    widthMm: 64,
    heightMm: 38,
    marginMm: 2.5,
    symbolMm: 14,
    front: ['name', 'cacao', 'ingredients', 'traces', 'netMass', 'bestBefore', 'batch', 'symbol', 'address'],
    sheet: { paper: 'A4', rows: 7, columns: 3, gapXMm: 2.5, gapYMm: 0, leftMm: 6.5, topMm: 15.5 },
  },
  /** Small bars and samples. */
  mini: {
    ...PLAIN,
    widthMm: 50,
    heightMm: 30,
    marginMm: 2,
    symbol: 'datamatrix',
    symbolSays: 'batch',
    symbolMm: 8,
    front: ['name', 'ingredients', 'traces', 'netMass', 'bestBefore', 'batch', 'symbol', 'address'],
    sheet: null,
  },
};

/**
 * What is wrong with a design, in words with the number that would be right; empty where nothing is.
 *
 * @param design sizes in mm
 */
export function designFaults(design: LabelDesign): string[] {
  const faults: string[] = [];
  const { widthMm, heightMm, marginMm, sheet, front, back, languages } = design;
  const sizes = [widthMm, heightMm, marginMm, design.symbolMm];
  if (!sizes.every(Number.isFinite)) return ['sizes are numbers of mm'];
  if (widthMm < 15 || widthMm > 300 || heightMm < 10 || heightMm > 420)
    faults.push(`a label is 15–300 mm wide and 10–420 mm high, not ${widthMm} × ${heightMm} mm`);
  if (marginMm < 0 || marginMm * 2 > Math.min(widthMm, heightMm) - 8)
    faults.push(`a margin of ${marginMm} mm leaves no room on ${widthMm} × ${heightMm} mm`);
  if (front.length === 0) faults.push('say what stands on the front');
  if (languages.length === 0) faults.push('a label needs a language');
  const twice = [...front, ...back].filter((p, i, all) => all.indexOf(p) !== i);
  if (twice.length > 0) faults.push(`${[...new Set(twice)].join(', ')} would be printed twice`);
  if (sheet) {
    const [paperWidth, paperHeight] = PAPERS[sheet.paper];
    const numbers = [sheet.rows, sheet.columns, sheet.gapXMm, sheet.gapYMm, sheet.leftMm, sheet.topMm];
    if (!numbers.every((n) => Number.isFinite(n) && n >= 0) || sheet.rows < 1 || sheet.columns < 1)
      return [...faults, 'a sheet has at least one row and one column, and gaps that are not below 0'];
    const needWidth = sheet.leftMm + sheet.columns * widthMm + (sheet.columns - 1) * sheet.gapXMm;
    const needHeight = sheet.topMm + sheet.rows * heightMm + (sheet.rows - 1) * sheet.gapYMm;
    if (needWidth > paperWidth + 0.05)
      faults.push(
        `${sheet.columns} columns need ${needWidth.toFixed(1)} mm, ${sheet.paper} is ${paperWidth} mm wide`,
      );
    if (needHeight > paperHeight + 0.05)
      faults.push(
        `${sheet.rows} rows need ${needHeight.toFixed(1)} mm, ${sheet.paper} is ${paperHeight} mm high`,
      );
  }
  return faults;
}
