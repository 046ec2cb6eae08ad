import {
  sweetenedFor,
  US_UNKNOWN,
  type BarFacts,
  type MakerFacts,
  type LabelContent,
  type LabelDesign,
  type LabelPart,
  type TypeRules,
} from '../label/index.ts';
import { soldName } from '../recipe/index.ts';
import type { LaidSide } from './layout.ts';
import { MM_PER_PT, type LabelType } from './type.ts';

/** What a check is about. */
export type CheckName =
  | 'name'
  | 'ownName'
  | 'carriedOver'
  | 'sweetener'
  | 'ingredients'
  | 'allergens'
  | 'traces'
  | 'netMass'
  | 'sameFace'
  | 'bestBefore'
  | 'batch'
  | 'address'
  | 'storage'
  | 'cacao'
  | 'nutrition'
  | 'nutritionUnknown'
  | 'typeSize'
  | 'fits'
  | 'symbol'
  | 'untranslated'
  | 'inOneLanguage'
  | 'unknownInside'
  | 'signs'
  | 'filled';

/** One thing a market asks of a label. Advisory: local food law decides. */
export interface LabelCheck {
  name: CheckName;
  /** `met`; `missing` where the market asks for it and it is not there; `look` where only the maker can tell. */
  state: 'met' | 'missing' | 'look';
  /** Numbers and names the words about it need. */
  params: Record<string, string | number>;
}

/** Finest module that ordinary printers and readers still manage, mm (three dots at 300 dpi). */
export const FINEST_MODULE_MM = 0.25;

/** Chocolate in a filled piece at least, % (Directive 2000/36/EC, Annex I, 7 and 10). */
const LEAST_SHELL = 25;

/** Above this a filling lives: only refrigerated and for days. */
const LIVELY_WATER = 0.85;

/** What is looked at. */
export interface CheckedLabel {
  bar: BarFacts;
  maker: MakerFacts;
  design: LabelDesign;
  content: LabelContent;
  front: LaidSide;
  back: LaidSide | null;
  rules: TypeRules;
  type: LabelType;
}

/** Holds a laid-out label against what its market asks, most needed first. */
export function labelChecks(label: CheckedLabel): LabelCheck[] {
  const { bar, maker, design, content, front, back, rules, type } = label;
  const says = (part: LabelPart) =>
    content.parts.some((p) => p.part === part && (p.paragraphs.length > 0 || p.forms.length > 0));
  const eu = design.market === 'EU';
  const checks: LabelCheck[] = [];
  const check = (
    name: CheckName,
    met: boolean,
    params: LabelCheck['params'] = {},
    otherwise: 'missing' | 'look' = 'missing',
  ) => checks.push({ name, state: met ? 'met' : otherwise, params });
  const overMm = front.overMm + (back?.overMm ?? 0);
  if (overMm > 1e-6) {
    const worse = front.overMm > 0 ? front : back!;
    check('fits', false, {
      mm: Math.round(overMm * 10) / 10,
      side: worse === front ? 'front' : 'back',
      parts: worse.couldGo.map((c) => c.part).join(','),
    });
  }
  check('name', says('name') && content.soldAs !== null);
  if (bar.ownName && bar.lines.length > 0) {
    const rule = soldName(bar.lines, design.market).name;
    check('ownName', false, { name: bar.ownName, rule: rule ?? '' }, 'look');
  }
  check('ingredients', says('ingredients'));
  const unknown = Object.keys(bar.bought).filter((name) => !bar.bought[name]);
  if (unknown.length > 0) check('unknownInside', false, { names: unknown.join(', ') });
  const allergens = content.parts.find((p) => p.part === 'ingredients') ? says('ingredients') : false;
  check('allergens', allergens);
  for (const { allergen, machine, batchCode } of bar.carriedOver ?? [])
    if (!maker.traces.includes(allergen) || !says('traces'))
      check('carriedOver', false, { allergen, machine, batch: batchCode }, 'look');
  const sweet = sweetenedFor(bar, design.market);
  if (sweet)
    check(
      'sweetener',
      says('name') && says('ingredients') && !sweet.sugars,
      {},
      says('name') && says('ingredients') ? 'look' : 'missing',
    );
  const netDigitsMm = Math.round((front.netPt ?? back?.netPt ?? 0) * MM_PER_PT * type.capHeight * 100) / 100;
  check('netMass', says('netMass') && netDigitsMm >= rules.netDigitsMm - 0.005, {
    mm: netDigitsMm,
    needs: Math.round(rules.netDigitsMm * 100) / 100,
  });
  const faceOf = (part: LabelPart) => (design.front.includes(part) ? 'front' : 'back');
  if (eu && says('name') && says('netMass')) check('sameFace', faceOf('name') === faceOf('netMass'));
  if (!eu && says('name') && says('netMass'))
    check('sameFace', design.front.includes('name') && design.front.includes('netMass'));
  check('bestBefore', says('bestBefore'), {}, eu ? 'missing' : 'look');
  check('batch', says('batch'), {}, eu ? 'missing' : 'look');
  check('address', says('address'));
  if (eu && bar.shellPercent === null)
    check(
      'cacao',
      says('cacao'),
      {},
      content.parts.some((p) => p.part === 'ingredients') ? 'missing' : 'look',
    );
  check('storage', says('storage'), {}, 'look');
  if (maker.traces.length > 0)
    check(
      'traces',
      says('traces') || maker.traces.every((a) => bar.lines.some((l) => l.ingredient.allergens.includes(a))),
      {},
      'look',
    );
  // Handcrafted food sold in small amounts is let off in many places; who is, the maker must know.
  check('nutrition', says('nutrition'), {}, 'look');
  if (!eu && says('nutrition')) check('nutritionUnknown', false, { names: US_UNKNOWN.join(', ') }, 'look');
  const smallest = Math.min(front.sizePt, back?.sizePt ?? Infinity) * MM_PER_PT * type.xHeight;
  check('typeSize', smallest >= rules.xHeightMm - 0.005, {
    mm: Math.round(smallest * 100) / 100,
    needs: Math.round(rules.xHeightMm * 100) / 100,
  });
  if (bar.shellPercent !== null)
    check('filled', bar.shellPercent >= LEAST_SHELL, {
      percent: Math.round(bar.shellPercent * 10) / 10,
      needs: LEAST_SHELL,
    });
  if (bar.waterActivity !== null && bar.waterActivity > LIVELY_WATER)
    check('filled', false, { water: bar.waterActivity }, 'look');
  for (const side of [front, back])
    for (const { moduleMm } of side?.symbols ?? [])
      check(
        'symbol',
        moduleMm >= FINEST_MODULE_MM - 1e-9,
        {
          mm: Math.round(moduleMm * 100) / 100,
          needs: FINEST_MODULE_MM,
          side: Math.ceil((FINEST_MODULE_MM / moduleMm) * design.symbolMm),
        },
        'look',
      );
  if (content.inOneLanguage.length > 0)
    check('inOneLanguage', false, { names: content.inOneLanguage.join(', ') }, 'look');
  if (content.untranslated.length > 0)
    check(
      'untranslated',
      false,
      { names: [...new Set(content.untranslated.map((u) => u.name))].join(', ') },
      'look',
    );
  const missing = [
    ...new Set(
      content.parts.flatMap((p) =>
        p.paragraphs.flatMap((runs) => runs.flatMap((r) => type.missing(r.text, r.bold))),
      ),
    ),
  ];
  if (missing.length > 0) check('signs', false, { signs: missing.join(' ') });
  return checks;
}
