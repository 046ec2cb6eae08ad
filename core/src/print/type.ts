import fontkit from '@pdf-lib/fontkit';

/** mm in a typographic point. */
export const MM_PER_PT = 25.4 / 72;

/** A face's file, covering part of the signs; the first that has a sign sets it. */
export interface FontFile {
  bold: boolean;
  bytes: Uint8Array;
}

/** What is used of a font as it is read. */
interface Font {
  unitsPerEm: number;
  capHeight: number;
  xHeight: number;
  hasGlyphForCodePoint(codePoint: number): boolean;
  glyphsForString(text: string): { advanceWidth: number }[];
}

/** A face as it is set: its file's place among the files, and how it measures. */
export interface Face {
  index: number;
  bold: boolean;
  bytes: Uint8Array;
  font: Font;
}

/** A stretch of text one face sets. */
export interface SetText {
  face: Face;
  text: string;
}

/** Type to set labels in: measures and splits text by what each file covers. Without kerning, so that every writer sets it alike. */
export class LabelType {
  readonly faces: readonly Face[];
  /** Heights of capitals and of an x, in parts of the size. */
  readonly capHeight: number;
  readonly xHeight: number;
  private readonly widths = new Map<string, number>();

  /**
   * @param files TrueType, OpenType or WOFF; at least one regular and one bold
   * @throws RangeError where one of the two is missing
   */
  constructor(files: readonly FontFile[]) {
    this.faces = files.map(({ bold, bytes }, index) => ({
      index,
      bold,
      bytes,
      font: fontkit.create(bytes) as unknown as Font,
    }));
    const regular = this.faces.find((f) => !f.bold);
    if (!regular || !this.faces.some((f) => f.bold))
      throw new RangeError('labels need a regular and a bold face');
    this.capHeight = regular.font.capHeight / regular.font.unitsPerEm;
    this.xHeight = regular.font.xHeight / regular.font.unitsPerEm;
  }

  private faceFor(codePoint: number, bold: boolean): Face | undefined {
    return this.faces.find((f) => f.bold === bold && f.font.hasGlyphForCodePoint(codePoint));
  }

  /** Splits text into stretches each of which one face can set; signs no face has become question marks. */
  split(text: string, bold: boolean): SetText[] {
    const parts: SetText[] = [];
    for (const sign of text) {
      const found = this.faceFor(sign.codePointAt(0)!, bold);
      const face = found ?? this.faces.find((f) => f.bold === bold)!;
      const set = found ? sign : '?';
      const last = parts.at(-1);
      if (last?.face === face) last.text += set;
      else parts.push({ face, text: set });
    }
    return parts;
  }

  /** Signs of a text that no face has, each once. */
  missing(text: string, bold: boolean): string[] {
    return [...new Set([...text].filter((sign) => !this.faceFor(sign.codePointAt(0)!, bold)))];
  }

  /** Width of a text, mm. */
  width(text: string, bold: boolean, sizePt: number): number {
    const key = `${bold ? 'b' : 'r'}${text}`;
    let ems = this.widths.get(key);
    if (ems === undefined) {
      ems = this.split(text, bold).reduce(
        (sum, { face, text: part }) =>
          sum +
          face.font.glyphsForString(part).reduce((w, g) => w + g.advanceWidth, 0) / face.font.unitsPerEm,
        0,
      );
      if (this.widths.size > 5000) this.widths.clear();
      this.widths.set(key, ems);
    }
    return ems * sizePt * MM_PER_PT;
  }
}
