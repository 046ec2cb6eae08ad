import type {
  LabelContent,
  PartContent,
  Run,
  LabelDesign,
  LabelPart,
  NutritionForm,
  TypeRules,
} from '../label/index.ts';
import { moduleFor, symbolModules, symbolOf, type SymbolGrid } from './symbol.ts';
import { MM_PER_PT, type LabelType } from './type.ts';

/** A stretch of text with its place: mm from the left and to its baseline from the top. */
export interface TextMark {
  xMm: number;
  yMm: number;
  widthMm: number;
  sizePt: number;
  bold: boolean;
  text: string;
}

/** A symbol with its place, quiet zone left out. */
export interface SymbolMark {
  xMm: number;
  yMm: number;
  moduleMm: number;
  grid: SymbolGrid;
}

/** A hairline. */
export interface RuleMark {
  xMm: number;
  yMm: number;
  widthMm: number;
}

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

const LINE = 1.2;
/** From a line's top to its baseline, in parts of the size. */
const BASELINE = 0.93;
/** Between parts, in parts of the size. */
const PART_GAP = 0.35;
const SYMBOL_GAP_MM = 1.5;
/** Room for a name in a table, mm. */
const NARROWEST_NAME_MM = 9;

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

interface Token {
  runs: Run[];
  widthMm: number;
  spaceBefore: boolean;
}

/** Sets one side of a label at one size. */
class Setting {
  readonly texts: TextMark[] = [];
  readonly symbols: SymbolMark[] = [];
  readonly rules: RuleMark[] = [];
  readonly heights = new Map<LabelPart, number>();
  yMm: number;
  /** By how much something that cannot be broken is wider than its label, mm. */
  wideMm = 0;
  private symbolBottom = 0;
  private symbolLeft: number;

  constructor(
    private readonly design: LabelDesign,
    private readonly type: LabelType,
    private readonly sizePt: number,
  ) {
    this.yMm = design.marginMm;
    this.symbolLeft = design.widthMm - design.marginMm;
  }

  private get right(): number {
    return this.design.widthMm - this.design.marginMm;
  }

  symbol(grid: SymbolGrid): void {
    const { marginMm, symbolMm, widthMm } = this.design;
    const moduleMm = moduleFor(grid, Math.min(symbolMm, widthMm - 2 * marginMm));
    const side = moduleMm * symbolModules(grid);
    this.symbolLeft = this.right - side;
    this.symbolBottom = marginMm + side;
    this.symbols.push({
      xMm: this.symbolLeft + grid.quiet * moduleMm,
      yMm: marginMm + grid.quiet * moduleMm,
      moduleMm,
      grid,
    });
  }

  /** The right edge for a line between two heights: beside the symbol, or the margin. */
  private edge(topMm: number): number {
    return topMm < this.symbolBottom ? this.symbolLeft - SYMBOL_GAP_MM : this.right;
  }

  private tokens(runs: readonly Run[], sizePt: number): Token[] {
    const tokens: Token[] = [];
    let fresh = true;
    let space = false;
    for (const { text, bold } of runs)
      for (const piece of text.split(/( +)/)) {
        if (piece === '') continue;
        if (piece.trim() === '') {
          fresh = true;
          space = true;
          continue;
        }
        if (fresh) tokens.push({ runs: [], widthMm: 0, spaceBefore: space && tokens.length > 0 });
        const token = tokens.at(-1)!;
        token.runs.push({ text: piece, bold });
        token.widthMm += this.type.width(piece, bold, sizePt);
        fresh = false;
        space = false;
      }
    return tokens;
  }

  /** A word wider than its line is broken between signs: nothing is ever cut off. */
  private broken(token: Token, roomMm: number, sizePt: number): Token[] {
    if (token.widthMm <= roomMm) return [token];
    const parts: Token[] = [{ runs: [], widthMm: 0, spaceBefore: token.spaceBefore }];
    for (const { text, bold } of token.runs)
      for (const sign of text) {
        const width = this.type.width(sign, bold, sizePt);
        if (parts.at(-1)!.widthMm + width > roomMm && parts.at(-1)!.runs.length > 0)
          parts.push({ runs: [], widthMm: 0, spaceBefore: false });
        const part = parts.at(-1)!;
        const last = part.runs.at(-1);
        if (last?.bold === bold) last.text += sign;
        else part.runs.push({ text: sign, bold });
        part.widthMm += width;
      }
    return parts;
  }

  /** Sets a paragraph from the left margin down, beside the symbol where it stands. */
  paragraph(runs: readonly Run[], scale: number, leftMm = this.design.marginMm, rightMm?: number): void {
    const sizePt = this.sizePt * scale;
    const lineMm = sizePt * MM_PER_PT * LINE;
    const spaceMm = this.type.width(' ', false, sizePt);
    const queue = this.tokens(runs, sizePt);
    let line: Token[] = [];
    let used = 0;
    const flush = () => {
      if (line.length === 0) return;
      this.line(line, leftMm, this.yMm + sizePt * MM_PER_PT * BASELINE, sizePt, spaceMm);
      this.yMm += lineMm;
      line = [];
      used = 0;
    };
    for (let i = 0; i < queue.length; i++) {
      const room = () => Math.max(4, (rightMm ?? this.edge(this.yMm)) - leftMm);
      const token = queue[i]!;
      const gap = line.length > 0 && token.spaceBefore ? spaceMm : 0;
      if (used + gap + token.widthMm > room() + 1e-6 && line.length > 0) {
        flush();
        i--;
        continue;
      }
      const parts = this.broken(token, room(), sizePt);
      if (parts.length > 1) {
        queue.splice(i, 1, ...parts);
        i--;
        continue;
      }
      line.push(token);
      used += gap + token.widthMm;
    }
    flush();
  }

  private line(tokens: readonly Token[], leftMm: number, yMm: number, sizePt: number, spaceMm: number): void {
    let x = leftMm;
    let mark: TextMark | null = null;
    tokens.forEach((token, i) => {
      const gap = i > 0 && token.spaceBefore;
      if (gap) x += spaceMm;
      token.runs.forEach(({ text, bold }, k) => {
        const width = this.type.width(text, bold, sizePt);
        if (mark && mark.bold === bold) {
          mark.text += `${gap && k === 0 ? ' ' : ''}${text}`;
          mark.widthMm = this.type.width(mark.text, bold, sizePt);
        } else {
          // A change of face keeps the space with the words before it, so that whoever copies the text has it.
          if (mark && gap && k === 0) {
            mark.text += ' ';
            mark.widthMm = this.type.width(mark.text, mark.bold, sizePt);
          }
          mark = { xMm: x, yMm, sizePt, bold, text, widthMm: width };
          this.texts.push(mark);
        }
        x += width;
      });
    });
  }

  gap(scale = PART_GAP): void {
    this.yMm += this.sizePt * MM_PER_PT * scale;
  }

  /** The nutrition statement as a table. */
  table(form: NutritionForm): void {
    const size = this.sizePt * MM_PER_PT;
    const left = this.design.marginMm;
    this.below();
    this.paragraph([{ text: form.title, bold: true }], 1, left, this.right);
    if (form.under) this.paragraph([{ text: form.under, bold: false }], 1, left, this.right);
    for (const row of form.rows) {
      this.yMm += 0.15 * size;
      const amount = [row.amount, row.daily].filter(Boolean).join('  ');
      const width = this.type.width(amount, false, this.sizePt);
      // A label too narrow for names beside amounts has its statement as a sentence.
      const roomMm = this.right - width - 1 - left - (row.inner ? size * 0.8 : 0);
      this.wideMm = Math.max(this.wideMm, NARROWEST_NAME_MM - roomMm);
      this.rules.push({ xMm: left, yMm: this.yMm, widthMm: this.right - left });
      const top = this.yMm;
      this.texts.push({
        xMm: this.right - width,
        yMm: top + size * BASELINE,
        widthMm: width,
        sizePt: this.sizePt,
        bold: false,
        text: amount,
      });
      this.paragraph(
        [{ text: row.name, bold: false }],
        1,
        left + (row.inner ? size * 0.8 : 0),
        this.right - width - 1,
      );
    }
  }

  /** A table does not stand beside a symbol. */
  private below(): void {
    this.yMm = Math.max(this.yMm, this.symbolBottom + (this.symbolBottom > 0 ? 0.5 : 0));
  }

  /** The same as one sentence, where there is no room for a table. */
  sentence(form: NutritionForm): void {
    const rows = form.rows.map((r) => `${r.name} ${r.amount}${r.daily ? ` (${r.daily})` : ''}`).join(', ');
    this.paragraph(
      [
        { text: `${form.title}${form.under ? ` (${form.under})` : ''}: `, bold: true },
        { text: `${rows}.`, bold: false },
      ],
      1,
    );
  }

  /** Net mass at the bottom left, dates and lot beside it. Answers the height where it begins. */
  foot(parts: readonly PartContent[], netPt: number): number {
    const { heightMm, marginMm } = this.design;
    const bottom = heightMm - marginMm;
    const net = parts.find((p) => p.part === 'netMass')?.paragraphs[0];
    const notes = parts.filter((p) => p.part !== 'netMass').flatMap((p) => p.paragraphs);
    // A net mass wider than its label is too large whatever its height.
    const netWidth = net ? net.reduce((w, r) => w + this.type.width(r.text, r.bold, netPt), 0) : 0;
    const notesLeft = marginMm + (net ? netWidth + 2.5 : 0);
    const widest = Math.max(
      0,
      ...notes.map((runs) => runs.reduce((w, r) => w + this.type.width(r.text, r.bold, this.sizePt), 0)),
    );
    // Notes that do not fit beside the net mass stand above it.
    const beside = widest <= this.right - notesLeft || !net;
    const netMm = net ? netPt * MM_PER_PT : 0;
    const y = this.yMm;
    const measure = new Setting(this.design, this.type, this.sizePt);
    measure.yMm = 0;
    notes.forEach((runs) => measure.paragraph(runs, 1, beside ? notesLeft : marginMm, this.right));
    const notesMm = measure.yMm;
    const heightNeeded = beside ? Math.max(netMm, notesMm) : netMm + notesMm;
    const top = bottom - heightNeeded;
    if (net) {
      const baseline = bottom - 0.22 * this.sizePt * MM_PER_PT;
      let x = marginMm;
      for (const { text, bold } of net) {
        const widthMm = this.type.width(text, bold, netPt);
        this.texts.push({ xMm: x, yMm: baseline, sizePt: netPt, bold, text, widthMm });
        x += widthMm;
      }
    }
    this.yMm = beside ? bottom - notesMm : top;
    notes.forEach((runs) => this.paragraph(runs, 1, beside ? notesLeft : marginMm, this.right));
    this.yMm = y;
    this.wideMm = Math.max(this.wideMm, netWidth - (this.right - marginMm));
    return top;
  }

  get bottomOfSymbol(): number {
    return this.symbolBottom;
  }
}

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
    const top = setting.yMm;
    if (!first) setting.gap();
    first = false;
    part.paragraphs.forEach((runs, i) =>
      // A name said again in another language stands smaller.
      setting.paragraph(runs, part.part === 'name' && i > 0 ? NAME_AGAIN : (HEAD[part.part] ?? 1)),
    );
    part.forms.forEach((form) => (asTable ? setting.table(form) : setting.sentence(form)));
    setting.heights.set(part.part, setting.yMm - top);
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
