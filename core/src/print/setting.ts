import type { LabelDesign, NutritionForm, PartContent, Run } from '../label/index.ts';
import { moduleFor, symbolModules, type SymbolGrid } from './symbol.ts';
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

const LINE = 1.2;
/** From a line's top to its baseline, in parts of the size. */
const BASELINE = 0.93;
/** Between parts, in parts of the size. */
const PART_GAP = 0.35;
const SYMBOL_GAP_MM = 1.5;
/** Room for a name in a table, mm. */
const NARROWEST_NAME_MM = 9;

interface Token {
  runs: Run[];
  widthMm: number;
  spaceBefore: boolean;
}

/** Sets one side of a label at one size. */
export class Setting {
  readonly texts: TextMark[] = [];
  readonly symbols: SymbolMark[] = [];
  readonly rules: RuleMark[] = [];
  /** Where the next line begins, from the top. */
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

  /** Places the symbol in the upper right corner; lines beside it are shorter. */
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

  /** Leaves room between two parts. */
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

  /** Lower end of the symbol, mm; 0 without one. */
  get bottomOfSymbol(): number {
    return this.symbolBottom;
  }
}
