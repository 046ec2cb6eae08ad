import type { LabelContent, LabelDesign, LabelPart, TypeRules } from '../label/index.ts';
import { Setting, type RuleMark, type SymbolMark, type TextMark } from './setting.ts';
import { symbolOf, type SymbolGrid } from './symbol.ts';
import { MM_PER_PT, type LabelType } from './type.ts';

/** One side of a label with everything in its place. */
export interface LaidSide {
  texts: TextMark[];
  symbols: SymbolMark[];
  rules: RuleMark[];
  /** Size of ordinary text, and of the net mass where it stands here. */
  sizePt: number;
  netPt: number | null;
  /** How much too large the text is at the smallest type allowed, mm; 0 where everything fits. Nothing is ever cut. */
  overMm: number;
  /** Where it does not fit: parts that could go elsewhere and what each would free, mm, most first. */
  couldGo: { part: LabelPart; mm: number }[];
}

/** Parts at the head of a side, and their size against ordinary text. */
const HEAD: Readonly<Partial<Record<LabelPart, number>>> = { maker: 1, name: 1.8, origin: 1.15, cacao: 1.15 };
const NAME_AGAIN = 1.2;
const FOOT: readonly LabelPart[] = ['netMass', 'bestBefore', 'batch'];

/** Parts no market lets go. */
const OPTIONAL: ReadonlySet<LabelPart> = new Set<LabelPart>([
  'maker',
  'origin',
  'nutrition',
  'storage',
  'symbol',
  'traces',
]);

/** What a side is set from, whatever the size. */
interface Copy {
  content: LabelContent;
  design: LabelDesign;
  type: LabelType;
  /** The symbol, where the label has one. */
  grid: SymbolGrid | null;
}

function set(
  { content, design, type, grid }: Copy,
  side: readonly LabelPart[],
  { sizePt, netPt, asTable }: { sizePt: number; netPt: number; asTable: boolean },
): { setting: Setting; overMm: number } {
  const parts = side.flatMap((part) => content.parts.filter((p) => p.part === part));
  const setting = new Setting(design, type, sizePt);
  if (grid && parts.some((p) => p.part === 'symbol')) setting.symbol(grid);
  const footTop = setting.foot(
    parts.filter((p) => FOOT.includes(p.part)),
    netPt,
  );
  let first = true;
  for (const part of parts) {
    if (FOOT.includes(part.part) || part.part === 'symbol') continue;
    if (!first) setting.gap();
    first = false;
    part.paragraphs.forEach((runs, i) =>
      // A name said again in another language stands smaller.
      setting.paragraph(runs, part.part === 'name' && i > 0 ? NAME_AGAIN : (HEAD[part.part] ?? 1)),
    );
    part.forms.forEach((form) => (asTable ? setting.table(form) : setting.sentence(form)));
  }
  const end = Math.max(setting.yMm, setting.bottomOfSymbol);
  const footGap = footTop < design.heightMm - design.marginMm ? 0.6 : 0;
  return { setting, overMm: Math.max(0, end + footGap - footTop, setting.wideMm) };
}

/** Largest ordinary type of a side with running text, and of one with only a name and a mass, pt. */
const LARGEST_PT = { text: 9, bare: 13 } as const;
const STEP_PT = 0.25;

/**
 * Lays out one side of a label: the largest type that fits, never below what the rules ask. Where not even that fits everything is still
 * set, and said by how much it is too large.
 */
export function layOutSide(
  content: LabelContent,
  side: readonly LabelPart[],
  { design, type, rules }: { design: LabelDesign; type: LabelType; rules: TypeRules },
): LaidSide {
  const smallest = rules.xHeightMm / type.xHeight / MM_PER_PT;
  const netLeast = rules.netDigitsMm / type.capHeight / MM_PER_PT;
  const running = side.some((p) => p === 'ingredients' || p === 'nutrition' || p === 'storage');
  const largest = Math.max(smallest, running ? LARGEST_PT.text : LARGEST_PT.bare);
  const hasTable = content.parts.some((p) => side.includes(p.part) && p.forms.length > 0);
  const net = side.includes('netMass')
    ? (content.parts.find((p) => p.part === 'netMass')?.paragraphs[0] ?? [])
    : [];
  const netWidest =
    (design.widthMm - 2 * design.marginMm) /
    Math.max(
      1e-6,
      net.reduce((w, r) => w + type.width(r.text, r.bold, 1), 0),
    );
  const netFor = (sizePt: number) => Math.max(netLeast, Math.min(netWidest, sizePt * 1.7));
  const grid = side.includes('symbol') ? symbolOf(design.symbol, content.symbolText) : null;
  const copy: Copy = { content, design, type, grid };
  const attempt = (sizePt: number, asTable: boolean, of = side) =>
    set(copy, of, { sizePt, netPt: netFor(sizePt), asTable });
  const sizes: number[] = [];
  for (let s = largest; s > smallest; s -= STEP_PT) sizes.push(s);
  sizes.push(smallest);
  let found: { sizePt: number; asTable: boolean } | null = null;
  for (const asTable of hasTable ? [true, false] : [false])
    for (const sizePt of sizes)
      if (!found && attempt(sizePt, asTable).overMm <= 1e-6) found = { sizePt, asTable };
  const sizePt = found?.sizePt ?? smallest;
  const { setting: tried, overMm } = attempt(sizePt, found?.asTable ?? false);
  // What is too much is shown below the label's edge rather than over other words.
  const setting =
    overMm <= 0
      ? tried
      : set({ ...copy, design: { ...design, heightMm: design.heightMm + overMm } }, side, {
          sizePt,
          netPt: netFor(sizePt),
          asTable: false,
        }).setting;
  return {
    // Spaces that only hold a number to its unit are ordinary ones to whoever copies the text.
    texts: setting.texts.map((mark) => ({ ...mark, text: mark.text.replaceAll('\u00a0', ' ') })),
    symbols: setting.symbols,
    rules: setting.rules,
    sizePt,
    netPt: side.includes('netMass') ? netFor(sizePt) : null,
    overMm,
    couldGo:
      overMm <= 0
        ? []
        : side
            .filter((p) => OPTIONAL.has(p))
            .map((part) => ({
              part,
              mm:
                overMm -
                attempt(
                  smallest,
                  false,
                  side.filter((p) => p !== part),
                ).overMm,
            }))
            .filter(({ mm }) => mm > 0.05)
            .sort((a, b) => b.mm - a.mm),
  };
}
