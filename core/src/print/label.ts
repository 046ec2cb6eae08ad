import {
  labelContent,
  netMassText,
  designFaults,
  designFaultText,
  typeRules,
  type BarFacts,
  type MakerFacts,
  type LabelContent,
  type LabelDesign,
  type LabelPart,
  type TypeRules,
} from '../label/index.ts';
import { layOutSide, type LaidSide } from './layout.ts';
import { labelChecks, type LabelCheck } from './market.ts';
import type { LabelType } from './type.ts';

/** A label laid out: its sides, what it says, and what its market asks. */
export interface LaidLabel {
  design: LabelDesign;
  content: LabelContent;
  front: LaidSide;
  /** Null where nothing is printed on the back. */
  back: LaidSide | null;
  rules: TypeRules;
  checks: LabelCheck[];
  /** Whether everything fits at the least type allowed. */
  fits: boolean;
}

/**
 * Lays out the label of a bar as it was made.
 *
 * @throws RangeError for a design that cannot be printed or a bar without a mass, with what would be right
 */
export function layOutLabel(
  bar: BarFacts,
  maker: MakerFacts,
  design: LabelDesign,
  type: LabelType,
): LaidLabel {
  const faults = designFaults(design);
  if (faults.length > 0) throw new RangeError(faults.map(designFaultText).join('; '));
  const content = labelContent(bar, maker, design);
  const rules = typeRules(design.market, design.widthMm * design.heightMm, bar.netMg);
  const lay = (side: readonly LabelPart[]) => layOutSide(content, side, { design, type, rules });
  const front = lay(design.front);
  const back = design.back.length > 0 ? lay(design.back) : null;
  return {
    design,
    content,
    front,
    back,
    rules,
    checks: labelChecks({ bar, maker, design, content, front, back, rules, type }),
    fits: front.overMm <= 1e-6 && (back?.overMm ?? 0) <= 1e-6,
  };
}

/** Parts a box's label says. */
const BOX_PARTS: readonly LabelPart[] = [
  'maker',
  'name',
  'origin',
  'netMass',
  'bestBefore',
  'batch',
  'symbol',
];

/**
 * Lays out the label of a box of such bars: what they are, how many of which mass, until when, which lot.
 *
 * @throws RangeError as {@link layOutLabel}, and for a number of bars that is not whole and above 0
 */
export function layOutBox(
  bar: BarFacts,
  maker: MakerFacts,
  design: LabelDesign,
  { type, bars }: { type: LabelType; bars: number },
): LaidLabel {
  if (!Number.isInteger(bars) || bars < 1)
    throw new RangeError('a box holds a whole number of bars, at least 1');
  const language = design.languages[0] ?? 'en';
  const boxDesign: LabelDesign = { ...design, front: BOX_PARTS, back: [], nutrition: false };
  const laid = layOutLabel(bar, maker, boxDesign, type);
  const each = netMassText(bar.netMg, design.market, language);
  const content: LabelContent = {
    ...laid.content,
    parts: laid.content.parts.map((p) =>
      p.part === 'netMass' ? { ...p, paragraphs: [[{ text: `${bars} × ${each}`, bold: true }]] } : p,
    ),
  };
  const front = layOutSide(content, BOX_PARTS, { design: boxDesign, type, rules: laid.rules });
  return { ...laid, content, front, fits: front.overMm <= 1e-6 };
}
