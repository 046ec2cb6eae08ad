import { IntlMessageFormat } from 'intl-messageformat';
import type { ClassView } from '@wunsch/contract';
import { classWordsDe, classWordsEn, type ClassWord } from '@wunsch/core/classes';
import { ingredientName, LABEL_WORDS } from '@wunsch/core/label';
import { formatMass, formatQuantity, writeNumber } from '@wunsch/core/quantity';
import { press } from '../stations/mould/index.ts';

const MINUTE = 60_000;

/** What papers of a class are written with. */
interface Hand {
  language: 'en' | 'de';
  massSystem: 'metric' | 'pounds';
  timeZone: string;
}

function penOf({ language, massSystem, timeZone }: Hand) {
  const words: Record<ClassWord, string> = language === 'de' ? classWordsDe : classWordsEn;
  const locale = language === 'de' ? 'de-DE' : 'en-GB';
  const clock = new Intl.DateTimeFormat(locale, { hour: '2-digit', minute: '2-digit', timeZone });
  const day = new Intl.DateTimeFormat(locale, {
    weekday: 'long',
    day: 'numeric',
    month: 'long',
    year: 'numeric',
    hour: '2-digit',
    minute: '2-digit',
    timeZone,
  });
  return {
    t: (key: ClassWord, params: Record<string, string> = {}) =>
      String(new IntlMessageFormat(words[key], language).format(params)),
    mass: (mg: number) => formatMass(mg, massSystem, language),
    /** As the scale shows it, to its division. */
    weighed: (mg: number) =>
      formatQuantity(mg, {
        dimension: 'mass',
        unit: massSystem === 'pounds' ? 'oz' : 'g',
        locale: language,
        decimals: massSystem === 'pounds' ? 2 : 1,
      }),
    percent: (value: number) => `${writeNumber(value, 0, language)}\u00a0%`,
    allergen: (name: string) => LABEL_WORDS[language].allergens[name] ?? name,
    clock: (ms: number) => clock.format(new Date(ms)),
    day: (ms: number) => day.format(new Date(ms)),
  };
}

const coming = (view: ClassView) => view.guests.filter((g) => g.state === 'coming');

/** The host’s sheet: what is ready beforehand, how it runs, what everyone weighs out, and who must not touch what. */
export async function hostSheet(view: ClassView, hand: Hand): Promise<Uint8Array> {
  const pen = penOf(hand);
  const { t } = pen;
  const start = Date.parse(view.startsAt);
  const { print, type } = await press();
  const sheet = await print.Sheet.begin(type, view.title);
  sheet.text(view.title, { sizePt: 20, bold: true });
  sheet.text(pen.day(start), { ink: 'grey' });
  sheet.space(4);
  sheet.text(t('class.paper.before'), { sizePt: 13, bold: true });
  for (const { what, hoursBefore, massMg } of view.sheet.before) {
    const at = start - hoursBefore * 60 * MINUTE;
    sheet.room(7);
    sheet.box(0, sheet.yMm + 0.8, 3.5, 3.5, null, 'ink');
    sheet.text(
      `${hoursBefore >= 12 ? pen.day(at) : pen.clock(at)}: ${t(`class.before.${what}`, { mass: massMg ? pen.mass(massMg) : '' })}`,
      {},
      6,
      sheet.widthMm - 6,
    );
    sheet.space(0.8);
  }
  sheet.space(4);
  sheet.text(t('class.paper.run'), { sizePt: 13, bold: true });
  for (const { step, from, to } of view.sheet.rows)
    sheet.row([
      { text: `${pen.clock(start + from * MINUTE)}–${pen.clock(start + to * MINUTE)}`, part: 3 },
      { text: t(`class.step.${step}`), part: 12, bold: true },
    ]);
  const careful = coming(view).filter((g) => g.allergies.length > 0 || g.avoid);
  if (careful.length > 0) {
    sheet.space(4);
    sheet.text(t('class.paper.careful'), { sizePt: 13, bold: true });
    for (const g of careful) {
      const others = new Map(view.guests.map((o) => [o.id, o.name]));
      sheet.row([
        { text: g.name, part: 4, bold: true },
        { text: [...g.allergies.map(pen.allergen), g.avoid].filter(Boolean).join(', '), part: 5 },
        {
          text: g.findings
            .map((f) =>
              t(`class.finding.${f.where}`, {
                allergen: pen.allergen(f.allergen),
                others: f.others.map((id) => others.get(id) ?? '').join(', '),
              }),
            )
            .join('; '),
          part: 9,
        },
      ]);
    }
    sheet.text(t('class.allergy.caution'), { sizePt: 8.5, ink: 'grey' });
  }
  sheet.space(4);
  sheet.text(t('class.paper.weigh'), { sizePt: 13, bold: true });
  const flavoursOf = (g: ClassView['guests'][number]) =>
    (g.bar?.flavours ?? [])
      .map((f) => `${ingredientName(f.name, hand.language).text} ${pen.weighed(f.massMg)}`)
      .join(', ');
  const parts = [5, 3, 3, 3, 7];
  const rowOf = (cells: string[], bold = false) =>
    sheet.row(
      cells.map((text, k) => ({
        text,
        part: parts[k]!,
        bold: bold || k === 0,
        right: k > 0 && k < 4,
      })),
    );
  rowOf(
    (['guest', 'base', 'sugar', 'cacao', 'flavours'] as const).map((w) => t(`class.paper.${w}`)),
    true,
  );
  for (const g of coming(view))
    rowOf(
      g.bar
        ? [
            g.name,
            pen.weighed(g.bar.baseMg),
            pen.weighed(g.bar.sugarMg),
            pen.percent(g.bar.cacaoPercent),
            flavoursOf(g),
          ]
        : [g.name, '', '', '', t('class.paper.open')],
    );
  return sheet.save();
}

/** A card a guest, with their own address as a code: there they choose, and say afterwards how they like what they made. */
export async function guestCards(view: ClassView, hand: Hand): Promise<Uint8Array> {
  const pen = penOf(hand);
  const { t } = pen;
  const { print, type } = await press();
  const sheet = await print.Sheet.begin(type, view.title);
  for (const g of coming(view)) {
    sheet.room(44);
    const top = sheet.yMm;
    sheet.symbol(`${view.address}${g.code}`, sheet.widthMm - 38, top, 38);
    const width = sheet.widthMm - 44;
    sheet.text(g.name, { sizePt: 18, bold: true }, 0, width);
    sheet.text(`${view.title}, ${pen.day(Date.parse(view.startsAt))}`, { ink: 'grey' }, 0, width);
    sheet.space(2);
    sheet.text(t('class.paper.choose'), {}, 0, width);
    sheet.text(`${view.address}${g.code}`, { sizePt: 9 }, 0, width);
    sheet.yMm = Math.max(sheet.yMm, top + 39);
    sheet.rule();
    sheet.space(3);
  }
  return sheet.save();
}
