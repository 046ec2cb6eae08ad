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

/** Most labels one file may hold. */
export const MOST_COPIES = 5000;

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

/** What may be wrong with a design, and the figures it hangs on, mm and numbers of rows and columns. */
export type DesignFault =
  | { code: 'not-numbers' | 'empty-front' | 'no-language' | 'sheet-numbers' }
  | { code: 'size'; width: number; height: number }
  | { code: 'margin'; margin: number; width: number; height: number }
  | { code: 'twice'; parts: LabelPart[] }
  | { code: 'too-wide' | 'too-high'; count: number; needs: number; paper: string; has: number };

/**
 * What is wrong with a design; empty where nothing is.
 *
 * @param design sizes in mm
 */
export function designFaults(design: LabelDesign): DesignFault[] {
  const faults: DesignFault[] = [];
  const { widthMm: width, heightMm: height, marginMm: margin, sheet, front, back, languages } = design;
  if (![width, height, margin, design.symbolMm].every(Number.isFinite)) return [{ code: 'not-numbers' }];
  if (width < 15 || width > 300 || height < 10 || height > 420) faults.push({ code: 'size', width, height });
  if (margin < 0 || margin * 2 > Math.min(width, height) - 8)
    faults.push({ code: 'margin', margin, width, height });
  if (front.length === 0) faults.push({ code: 'empty-front' });
  if (languages.length === 0) faults.push({ code: 'no-language' });
  const twice = [...front, ...back].filter((p, i, all) => all.indexOf(p) !== i);
  if (twice.length > 0) faults.push({ code: 'twice', parts: [...new Set(twice)] });
  if (sheet) {
    const { paper, rows, columns, gapXMm, gapYMm, leftMm, topMm } = sheet;
    const [paperWidth, paperHeight] = PAPERS[paper];
    const numbers = [rows, columns, gapXMm, gapYMm, leftMm, topMm];
    if (!numbers.every((n) => Number.isFinite(n) && n >= 0) || rows < 1 || columns < 1)
      return [...faults, { code: 'sheet-numbers' }];
    const across = leftMm + columns * width + (columns - 1) * gapXMm;
    const down = topMm + rows * height + (rows - 1) * gapYMm;
    if (across > paperWidth + 0.05)
      faults.push({ code: 'too-wide', count: columns, needs: across, paper, has: paperWidth });
    if (down > paperHeight + 0.05)
      faults.push({ code: 'too-high', count: rows, needs: down, paper, has: paperHeight });
  }
  return faults;
}

/** What is wrong with a design, in words with the number that would be right. */
export function designFaultText(fault: DesignFault): string {
  switch (fault.code) {
    case 'not-numbers':
      return 'sizes are numbers of mm';
    case 'size':
      return `a label is 15–300 mm wide and 10–420 mm high, not ${fault.width} × ${fault.height} mm`;
    case 'margin':
      return `a margin of ${fault.margin} mm leaves no room on ${fault.width} × ${fault.height} mm`;
    case 'empty-front':
      return 'say what stands on the front';
    case 'no-language':
      return 'a label needs a language';
    case 'twice':
      return `${fault.parts.join(', ')} would be printed twice`;
    case 'sheet-numbers':
      return 'a sheet has at least one row and one column, and gaps that are not below 0';
    case 'too-wide':
      return `${fault.count} columns need ${fault.needs.toFixed(1)} mm, ${fault.paper} is ${fault.has} mm wide`;
    case 'too-high':
      return `${fault.count} rows need ${fault.needs.toFixed(1)} mm, ${fault.paper} is ${fault.has} mm high`;
  }
}
