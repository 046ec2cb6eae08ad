import type { Delivery } from '@wunsch/contract';
import { formatMass, formatMoney, MG_PER_POUND } from '@wunsch/core/quantity';
import { press } from '../stations/mould/index.ts';
import type { WorkshopSettings } from '../views/settings.ts';

/** Languages notes are written in. */
export const NOTE_LANGUAGES = ['en', 'de'] as const;

/** One of {@link NOTE_LANGUAGES}. */
export type NoteLanguage = (typeof NOTE_LANGUAGES)[number];

const WORDS = {
  en: {
    note: 'Delivery note',
    to: 'To',
    order: 'Order',
    what: 'What',
    batch: 'Batch',
    best: 'Best before',
    amount: 'Number',
    each: 'Each',
    sum: 'Sum',
    total: 'In all',
    keep: {
      '°C': 'Keep cool and dry, 16 to 18 °C, away from smells.',
      '°F': 'Keep cool and dry, 61 to 64 °F, away from smells.',
    },
    received: 'Received, day and signature',
    bars: 'bars',
  },
  de: {
    note: 'Lieferschein',
    to: 'An',
    order: 'Auftrag',
    what: 'Was',
    batch: 'Charge',
    best: 'Mindestens haltbar bis',
    amount: 'Anzahl',
    each: 'Stück',
    sum: 'Summe',
    total: 'Zusammen',
    keep: {
      '°C': 'Kühl und trocken lagern, 16 bis 18 °C, fern von Gerüchen.',
      '°F': 'Kühl und trocken lagern, 61 bis 64 °F, fern von Gerüchen.',
    },
    received: 'Erhalten, Tag und Unterschrift',
    bars: 'Tafeln',
  },
} as const;

/** What a line is called: the chocolate, a by-product what it is, something of a lot with its name. */
function calledOn(line: Delivery['lines'][number], material: string): string {
  if (line.recipeName !== null) return line.recipeName;
  const own = line.label === line.material ? '' : line.label;
  return (line.lotCode ? [material, own].filter(Boolean).join(', ') : own) || material;
}

/** A delivery on paper: who it is from and to, every line with its batch and best before, and room for a signature. */
export async function deliveryNote(
  delivery: Delivery,
  from: Pick<WorkshopSettings, 'name' | 'address' | 'currency' | 'massSystem' | 'temperatureUnit'>,
  language: NoteLanguage,
  timeZone: string,
): Promise<Uint8Array> {
  const w = WORDS[language];
  const {
    print: { materialOnPaper, paperDay, Sheet },
    type,
  } = await press();
  const day = (at: string) => paperDay(at, language, timeZone);
  const money = (minor: number) => formatMoney(minor, from.currency, language);
  const byMass = (perKg: number) =>
    from.massSystem === 'pounds' ? `${money((perKg * MG_PER_POUND) / 1e6)}/lb` : `${money(perKg)}/kg`;
  const priced = delivery.lines.some((l) => l.price !== null);
  const title = `${w.note} ${delivery.number}`;
  const sheet = await Sheet.begin(type, title);
  sheet.text(from.name, { sizePt: 12, bold: true });
  if (from.address) sheet.text(from.address, { sizePt: 9.5, ink: 'grey' });
  sheet.space(8);
  sheet.text(title, { sizePt: 20, bold: true });
  sheet.text(day(delivery.at), { sizePt: 10.5, ink: 'grey' });
  sheet.space(3);
  sheet.text(`${w.to}: ${delivery.customer}`, { sizePt: 12, bold: true });
  if (delivery.orderTitle) sheet.text(`${w.order}: ${delivery.orderTitle}`);
  if (delivery.note) sheet.text(delivery.note, { ink: 'grey' });
  sheet.space(6);
  const parts = priced ? [5, 4, 4, 3, 3, 3] : [5, 4, 4, 3];
  const row = (cells: readonly string[], bold = false) =>
    sheet.row(
      cells.slice(0, parts.length).map((text, i) => ({ text, part: parts[i]!, bold })),
      { sizePt: 9.5 },
    );
  row([w.what, w.batch, w.best, w.amount, w.each, w.sum], true);
  let total = 0;
  for (const l of delivery.lines) {
    if (l.massMg === 0) continue;
    const amount = l.count ?? l.massMg / 1e6;
    const sum = (l.price ?? 0) * amount;
    total += sum;
    row([
      calledOn(l, materialOnPaper(l.material, language)),
      l.barCode ?? l.batchCode ?? l.lotCode ?? '',
      l.bestBefore ? day(l.bestBefore) : '',
      l.count === null
        ? formatMass(l.massMg, from.massSystem, language)
        : `${l.count}${l.material === 'bars' ? ` ${w.bars}` : ''}`,
      l.price === null ? '' : l.count === null ? byMass(l.price) : money(l.price),
      l.price === null ? '' : money(sum),
    ]);
  }
  if (priced) {
    sheet.space(2);
    sheet.text(`${w.total}: ${money(total)}`, { sizePt: 11, bold: true });
  }
  sheet.space(10);
  sheet.text(w.keep[from.temperatureUnit], { sizePt: 9, ink: 'grey' });
  sheet.space(18);
  sheet.rule();
  sheet.text(w.received, { sizePt: 8.5, ink: 'grey' });
  return sheet.save();
}
