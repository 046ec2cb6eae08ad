import { encodeToBase64 } from 'pdf-lib';
import type { LabelDesign } from '../label/index.ts';
import type { LaidSide } from './layout.ts';
import { darkRuns } from './symbol.ts';
import { MM_PER_PT, type LabelType } from './type.ts';

const INK = '#1E1512';

const ESCAPES: Readonly<Record<string, string>> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' };
/** Signs no XML may hold are left out; the others that mean something in it are written as what they are. */
const escape = (text: string) =>
  [...text]
    .filter((sign) => sign >= ' ' && sign !== '\uFFFE' && sign !== '\uFFFF')
    .map((sign) => ESCAPES[sign] ?? sign)
    .join('');
const mm = (value: number) => String(Math.round(value * 1000) / 1000);

/**
 * Writes one side of a label as SVG at its true size: text stays text, in its own type, which the file carries along. `name` is what a
 * screen reader says. What does not fit stands below a line at the label's edge, so that it is seen how much it is.
 */
export function labelSvg(side: LaidSide, design: LabelDesign, type: LabelType, name: string): string {
  const used = new Set<number>();
  const texts = side.texts.flatMap((mark) => {
    let x = mark.xMm;
    return type.split(mark.text, mark.bold).map(({ face, text }) => {
      used.add(face.index);
      const width = type.width(text, mark.bold, mark.sizePt);
      const at = `x="${mm(x)}" y="${mm(mark.yMm)}" font-size="${mm(mark.sizePt * MM_PER_PT)}"`;
      x += width;
      return `<text ${at} font-family="label${face.index}" textLength="${mm(width)}" xml:space="preserve">${escape(text)}</text>`;
    });
  });
  const faces = [...used].map(
    (index) =>
      `@font-face{font-family:label${index};src:url(data:font/woff;base64,${encodeToBase64(type.faces[index]!.bytes)}) format("woff")}`,
  );
  const symbols = side.symbols.map(({ xMm, yMm, moduleMm, grid }) => {
    const path = darkRuns(grid)
      .map(
        ({ row, column, length }) =>
          `M${mm(xMm + column * moduleMm)} ${mm(yMm + row * moduleMm)}h${mm(length * moduleMm)}v${mm(moduleMm)}h${mm(-length * moduleMm)}z`,
      )
      .join('');
    return `<path d="${path}" fill="#000" shape-rendering="crispEdges"/>`;
  });
  const rules = side.rules.map(
    (r) =>
      `<line x1="${mm(r.xMm)}" x2="${mm(r.xMm + r.widthMm)}" y1="${mm(r.yMm)}" y2="${mm(r.yMm)}" stroke="${INK}" stroke-width="0.1"/>`,
  );
  const { widthMm } = design;
  const heightMm = design.heightMm + side.overMm;
  // Where it does not fit, the label's edge is drawn across what is too much.
  const edge =
    side.overMm > 0
      ? `<line x1="0" x2="${mm(widthMm)}" y1="${mm(design.heightMm)}" y2="${mm(design.heightMm)}" stroke="#A5301C" stroke-width="0.4" stroke-dasharray="2 1"/>`
      : '';
  return [
    `<svg xmlns="http://www.w3.org/2000/svg" width="${mm(widthMm)}mm" height="${mm(heightMm)}mm" viewBox="0 0 ${mm(widthMm)} ${mm(heightMm)}" role="img">`,
    `<title>${escape(name)}</title>`,
    `<style>${faces.join('')}text{fill:${INK};font-kerning:none;font-variant-ligatures:none}</style>`,
    `<rect width="100%" height="100%" fill="#fff"/>`,
    ...rules,
    ...texts,
    ...symbols,
    edge,
    '</svg>',
  ].join('');
}
