import fontkit from '@pdf-lib/fontkit';
import { PDFDocument, rgb, type PDFFont, type PDFPage } from 'pdf-lib';
import { brokenLines } from './lines.ts';
import { darkRuns, moduleFor, symbolOf } from './symbol.ts';
import { MM_PER_PT, type LabelType } from './type.ts';

/** Width and height of A4, and the margin all round, mm. */
export const SHEET = { widthMm: 210, heightMm: 297, marginMm: 16 } as const;

const pt = (mm: number) => mm / MM_PER_PT;
const INK = rgb(0.118, 0.082, 0.071);
const GREY = rgb(0.4, 0.37, 0.36);
const VIOLET = rgb(0.294, 0.122, 0.271);
const TINT = rgb(0.9, 0.86, 0.9);

/** Inks a sheet is drawn in; legible in grey. */
export const INKS = { ink: INK, grey: GREY, violet: VIOLET, tint: TINT } as const;
/** See {@link INKS}. */
export type Ink = keyof typeof INKS;

/** How a text is set. */
export interface TextStyle {
  sizePt?: number;
  bold?: boolean;
  ink?: Ink;
}

/** A cell of a row: what it says, and its share of the width. */
export interface SheetCell {
  text: string;
  /** Parts of the row’s width. */
  part: number;
  right?: boolean;
  bold?: boolean;
}

/**
 * Writes plain sheets of A4 as PDF, from the top down, with a new page where one is full: text as text with its fonts inside, and simple
 * shapes. Places are mm from the left and the top.
 */
export class Sheet {
  /** Where the next thing begins, mm from the top. */
  yMm: number = SHEET.marginMm;
  private page: PDFPage;

  private constructor(
    private readonly pdf: PDFDocument,
    private readonly type: LabelType,
    private readonly fonts: ReadonlyMap<number, PDFFont>,
  ) {
    this.page = pdf.addPage([pt(SHEET.widthMm), pt(SHEET.heightMm)]);
  }

  /** A first empty page. */
  static async begin(type: LabelType, title: string): Promise<Sheet> {
    const pdf = await PDFDocument.create();
    pdf.registerFontkit(fontkit);
    pdf.setTitle(title);
    pdf.setCreator('Wunsch');
    pdf.setProducer('Wunsch');
    const fonts = new Map<number, PDFFont>();
    for (const face of type.faces)
      fonts.set(
        face.index,
        await pdf.embedFont(face.bytes, { subset: true, features: { liga: false, kern: false } }),
      );
    return new Sheet(pdf, type, fonts);
  }

  /** Width between the margins, mm. */
  get widthMm(): number {
    return SHEET.widthMm - 2 * SHEET.marginMm;
  }

  /** Begins a new page unless there is room for so much, mm. */
  room(heightMm: number): void {
    if (this.yMm + heightMm > SHEET.heightMm - SHEET.marginMm) this.nextPage();
  }

  nextPage(): void {
    this.page = this.pdf.addPage([pt(SHEET.widthMm), pt(SHEET.heightMm)]);
    this.yMm = SHEET.marginMm;
  }

  space(mm: number): void {
    this.yMm += mm;
  }

  /** Text broken into lines of the sheet’s width, or of `widthMm` from `xMm`. */
  text(
    text: string,
    { sizePt = 10, bold = false, ink = 'ink' }: TextStyle = {},
    xMm = 0,
    widthMm = this.widthMm,
  ): void {
    const lineMm = sizePt * MM_PER_PT * 1.32;
    for (const line of this.lines(text, bold, sizePt, widthMm)) {
      this.room(lineMm);
      this.at(line, xMm, this.yMm + lineMm * 0.76, { sizePt, bold, ink });
      this.yMm += lineMm;
    }
  }

  private lines(text: string, bold: boolean, sizePt: number, widthMm: number): string[] {
    return brokenLines(text, (line) => this.type.width(line, bold, sizePt) <= widthMm);
  }

  /** One line with its baseline at a place; `anchor` says which end of it stands there. */
  at(
    text: string,
    xMm: number,
    baselineMm: number,
    { sizePt = 10, bold = false, ink = 'ink' }: TextStyle = {},
    anchor: 'start' | 'middle' | 'end' = 'start',
  ): void {
    const width = this.type.width(text, bold, sizePt);
    let x = SHEET.marginMm + xMm - (anchor === 'end' ? width : anchor === 'middle' ? width / 2 : 0);
    for (const { face, text: part } of this.type.split(text, bold)) {
      this.page.drawText(part, {
        x: pt(x),
        y: pt(SHEET.heightMm - baselineMm),
        size: sizePt,
        font: this.fonts.get(face.index)!,
        color: INKS[ink],
      });
      x += this.type.width(part, bold, sizePt);
    }
  }

  /** A row of cells on one line; a text too long for its cell is broken, and the row as tall as its tallest cell. */
  row(cells: readonly SheetCell[], { sizePt = 9.5, ink = 'ink' }: TextStyle = {}): void {
    const parts = cells.reduce((sum, c) => sum + c.part, 0);
    const lineMm = sizePt * MM_PER_PT * 1.32;
    const set = cells.map((c) =>
      this.lines(c.text, c.bold ?? false, sizePt, (this.widthMm * c.part) / parts - 2),
    );
    const height = Math.max(1, ...set.map((l) => l.length)) * lineMm + 2;
    this.room(height);
    let x = 0;
    cells.forEach((c, i) => {
      const width = (this.widthMm * c.part) / parts;
      set[i]!.forEach((line, k) =>
        this.at(
          line,
          c.right ? x + width - 2 : x,
          this.yMm + 1 + lineMm * (k + 0.76),
          { sizePt, bold: c.bold ?? false, ink },
          c.right ? 'end' : 'start',
        ),
      );
      x += width;
    });
    this.yMm += height;
    this.rule();
  }

  /** A hairline across. */
  rule(): void {
    this.line(0, this.yMm, this.widthMm, this.yMm, 'grey', 0.15);
  }

  line(x1: number, y1: number, x2: number, y2: number, ink: Ink = 'ink', thicknessMm = 0.25): void {
    const y = (mm: number) => pt(SHEET.heightMm - mm);
    this.page.drawLine({
      start: { x: pt(SHEET.marginMm + x1), y: y(y1) },
      end: { x: pt(SHEET.marginMm + x2), y: y(y2) },
      thickness: pt(thicknessMm),
      color: INKS[ink],
    });
  }

  box(
    xMm: number,
    yMm: number,
    widthMm: number,
    heightMm: number,
    fill: Ink | null,
    edge: Ink | null = null,
  ): void {
    this.page.drawRectangle({
      x: pt(SHEET.marginMm + xMm),
      y: pt(SHEET.heightMm - yMm - heightMm),
      width: pt(widthMm),
      height: pt(heightMm),
      ...(fill && { color: INKS[fill] }),
      ...(edge && { borderColor: INKS[edge], borderWidth: pt(0.25) }),
    });
  }

  /** A QR code of such a side, its quiet zone included. */
  symbol(text: string, xMm: number, yMm: number, sideMm: number): void {
    const grid = symbolOf('qr', text);
    const moduleMm = moduleFor(grid, sideMm);
    for (const { row, column, length } of darkRuns(grid))
      this.page.drawRectangle({
        x: pt(SHEET.marginMm + xMm + (column + grid.quiet) * moduleMm),
        y: pt(SHEET.heightMm - yMm - (row + 1 + grid.quiet) * moduleMm),
        width: pt(length * moduleMm),
        height: pt(moduleMm),
        color: rgb(0, 0, 0),
      });
  }

  ring(xMm: number, yMm: number, radiusMm: number): void {
    this.page.drawCircle({
      x: pt(SHEET.marginMm + xMm),
      y: pt(SHEET.heightMm - yMm),
      size: pt(radiusMm),
      color: rgb(1, 1, 1),
      borderColor: GREY,
      borderWidth: pt(0.25),
    });
  }

  save(): Promise<Uint8Array> {
    return this.pdf.save();
  }
}
