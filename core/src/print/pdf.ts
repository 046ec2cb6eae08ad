import { MOST_COPIES, PAPERS } from '../label/index.ts';
import fontkit from '@pdf-lib/fontkit';
import { PDFDocument, rgb, type PDFFont, type PDFPage } from 'pdf-lib';
import type { LaidLabel } from './label.ts';
import type { LaidSide } from './layout.ts';
import { darkRuns } from './symbol.ts';
import { MM_PER_PT, type LabelType } from './type.ts';

/** What is printed. */
export interface PrintOrder {
  /** Labels of single bars. */
  copies: number;
  /** The place on the first sheet to begin at, from 0, where some labels of it are used already. */
  firstPlace?: number;
  /** After each so many bars, the label of their box is printed; `layout` answers it for so many bars. */
  boxes?: { bars: number; layOut: (bars: number) => LaidLabel } | null;
  title: string;
}

const pt = (mm: number) => mm / MM_PER_PT;

/** Draws sides on pages of their own size. */
class Painter {
  private readonly fonts = new Map<number, PDFFont>();

  constructor(
    private readonly pdf: PDFDocument,
    private readonly type: LabelType,
  ) {}

  /** Takes in the faces some sides need. */
  async faces(sides: readonly LaidSide[]): Promise<void> {
    for (const side of sides)
      for (const mark of side.texts)
        for (const { face } of this.type.split(mark.text, mark.bold))
          if (!this.fonts.has(face.index))
            this.fonts.set(
              face.index,
              await this.pdf.embedFont(face.bytes, { subset: true, features: { liga: false, kern: false } }),
            );
  }

  paint(side: LaidSide, page: PDFPage): void {
    const height = page.getHeight();
    const at = (xMm: number, yMm: number) => ({ x: pt(xMm), y: height - pt(yMm) });
    for (const { xMm, yMm, widthMm } of side.rules)
      page.drawLine({ start: at(xMm, yMm), end: at(xMm + widthMm, yMm), thickness: 0.25 });
    for (const mark of side.texts) {
      let xMm = mark.xMm;
      for (const { face, text } of this.type.split(mark.text, mark.bold)) {
        page.drawText(text, {
          ...at(xMm, mark.yMm),
          size: mark.sizePt,
          font: this.fonts.get(face.index)!,
          color: rgb(0.118, 0.082, 0.071),
        });
        xMm += this.type.width(text, mark.bold, mark.sizePt);
      }
    }
    for (const { xMm, yMm, moduleMm, grid } of side.symbols)
      for (const { row, column, length } of darkRuns(grid))
        page.drawRectangle({
          ...at(xMm + column * moduleMm, yMm + (row + 1) * moduleMm),
          width: pt(length * moduleMm),
          height: pt(moduleMm),
          color: rgb(0, 0, 0),
        });
  }
}

/** The labels of an order, one after another: bars, and after each full box its own. */
function labelsOf(label: LaidLabel, { copies, boxes }: PrintOrder): LaidLabel[] {
  if (!boxes) return Array.from({ length: copies }, () => label);
  const boxLabels = new Map<number, LaidLabel>();
  const boxOf = (bars: number) => {
    const there = boxLabels.get(bars) ?? boxes.layOut(bars);
    boxLabels.set(bars, there);
    return there;
  };
  const labels: LaidLabel[] = [];
  for (let done = 0; done < copies; done += boxes.bars) {
    const bars = Math.min(boxes.bars, copies - done);
    for (let i = 0; i < bars; i++) labels.push(label);
    labels.push(boxOf(bars));
  }
  return labels;
}

/**
 * Writes labels as a PDF at true size, text as text with its fonts inside: on pages of the label's own size, or on sheets by rows and
 * columns, backs mirrored so that they meet their fronts when the sheet is turned over its long edge.
 *
 * @throws RangeError where something does not fit the label (nothing is ever cut), or the number of labels is not whole and 1 to 5,000
 */
export async function labelPdf(label: LaidLabel, type: LabelType, order: PrintOrder): Promise<Uint8Array> {
  const { copies } = order;
  if (!Number.isInteger(copies) || copies < 1 || copies > MOST_COPIES)
    throw new RangeError(`between 1 and ${MOST_COPIES} labels are printed at a time, not ${copies}`);
  if (order.boxes && (!Number.isInteger(order.boxes.bars) || order.boxes.bars < 1))
    throw new RangeError('a box holds a whole number of bars, at least 1');
  return labelsPdf(labelsOf(label, order), type, order);
}

/**
 * Writes labels one after another, each its own; all of one design.
 *
 * @throws RangeError as {@link labelPdf}, and for none or for designs that differ
 */
export async function labelsPdf(
  labels: readonly LaidLabel[],
  type: LabelType,
  { firstPlace = 0, title }: Pick<PrintOrder, 'firstPlace' | 'title'>,
): Promise<Uint8Array> {
  if (labels.length < 1 || labels.length > 2 * MOST_COPIES)
    throw new RangeError(`between 1 and ${MOST_COPIES} labels are printed at a time, not ${labels.length}`);
  const { sheet, widthMm, heightMm } = labels[0]!.design;
  if (labels.some((l) => l.design.widthMm !== widthMm || l.design.heightMm !== heightMm))
    throw new RangeError('labels on one sheet are all of one size');
  const places = sheet ? sheet.rows * sheet.columns : 1;
  if (!Number.isInteger(firstPlace) || firstPlace < 0 || firstPlace >= places)
    throw new RangeError(`a sheet has places 1 to ${places}`);
  const narrow = labels.find((l) => !l.fits);
  if (narrow)
    throw new RangeError(
      `the text is ${(narrow.front.overMm + (narrow.back?.overMm ?? 0)).toFixed(1)} mm too large for the label; take something off it, or use a larger one`,
    );
  const kinds = [...new Set(labels)];
  const sides = kinds.flatMap((l) => (l.back ? [l.front, l.back] : [l.front]));
  const drawn = await drawOnce(sides, type, { widthMm, heightMm });
  const pdf = await PDFDocument.create();
  pdf.setTitle(title);
  pdf.setCreator('Wunsch');
  pdf.setProducer('Wunsch');
  const pages = await pdf.embedPdf(
    drawn,
    sides.map((_, k) => k),
  );
  const pageOf = new Map(sides.map((side, k) => [side, pages[k]!]));
  const paint = (side: LaidSide, page: PDFPage, leftMm: number, topMm: number) =>
    page.drawPage(pageOf.get(side)!, {
      x: pt(leftMm),
      y: page.getHeight() - pt(topMm + heightMm),
      width: pt(widthMm),
      height: pt(heightMm),
    });
  if (!sheet) {
    for (const l of labels)
      for (const side of l.back ? [l.front, l.back] : [l.front])
        paint(side, pdf.addPage([pt(widthMm), pt(heightMm)]), 0, 0);
    return pdf.save();
  }
  const [paperWidth, paperHeight] = PAPERS[sheet.paper];
  const anyBack = labels.some((l) => l.back);
  for (let done = 0, skip = firstPlace; done < labels.length; skip = 0) {
    const here = labels.slice(done, done + places - skip);
    done += here.length;
    const front = pdf.addPage([pt(paperWidth), pt(paperHeight)]);
    const back = anyBack ? pdf.addPage([pt(paperWidth), pt(paperHeight)]) : null;
    here.forEach((l, i) => {
      const place = skip + i;
      const leftMm = sheet.leftMm + (place % sheet.columns) * (widthMm + sheet.gapXMm);
      const topMm = sheet.topMm + Math.floor(place / sheet.columns) * (heightMm + sheet.gapYMm);
      paint(l.front, front, leftMm, topMm);
      if (l.back && back) paint(l.back, back, paperWidth - leftMm - widthMm, topMm);
    });
  }
  return pdf.save();
}

/** Each side once, a page of its own: however many are printed, it is drawn and its fonts are embedded a single time. */
async function drawOnce(
  sides: readonly LaidSide[],
  type: LabelType,
  { widthMm, heightMm }: { widthMm: number; heightMm: number },
): Promise<Uint8Array> {
  const pdf = await PDFDocument.create();
  pdf.registerFontkit(fontkit);
  const painter = new Painter(pdf, type);
  await painter.faces(sides);
  for (const side of sides) painter.paint(side, pdf.addPage([pt(widthMm), pt(heightMm)]));
  return pdf.save();
}
