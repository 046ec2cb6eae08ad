import type { RecallRecord } from '@wunsch/contract';
import { formatMass, writeNumber } from '@wunsch/core/quantity';
import { press } from '../stations/mould/index.ts';
import type { NoteLanguage } from '../stock/deliveryNote.ts';
import type { WorkshopSettings } from '../views/settings.ts';

const WORDS = {
  en: {
    practice: 'Recall, for practice',
    earnest: 'Recall',
    of: 'Everything with any of',
    why: 'Why',
    took: 'found in {s} s',
    accounted: '{n} of {of} bars accounted for ({share})',
    mass: '{share} of the mass accounted for',
    batches: 'Batches',
    here: 'Here',
    aside: 'set aside with this recall',
    place: 'Place',
    what: 'What',
    amount: 'Number',
    weight: 'Weight',
    tell: 'To be told',
    days: 'Delivered on',
    nameless: 'Gone without a name',
    missing: 'Not accounted for',
    none: 'none',
    given: 'Samples, gifts, broken, melted again: {n} bars',
    noPlace: 'no place named',
  },
  de: {
    practice: 'Rückruf, Übung',
    earnest: 'Rückruf',
    of: 'Alles mit etwas von',
    why: 'Warum',
    took: 'gefunden in {s} s',
    accounted: '{n} von {of} Tafeln nachgewiesen ({share})',
    mass: '{share} der Masse nachgewiesen',
    batches: 'Chargen',
    here: 'Hier',
    aside: 'mit diesem Rückruf gesperrt',
    place: 'Ort',
    what: 'Was',
    amount: 'Anzahl',
    weight: 'Masse',
    tell: 'Bescheid geben',
    days: 'Geliefert am',
    nameless: 'Ohne Namen hinausgegangen',
    missing: 'Nicht nachgewiesen',
    none: 'nichts',
    given: 'Proben, Geschenke, Bruch, wieder geschmolzen: {n} Tafeln',
    noPlace: 'ohne Ort',
  },
} as const;

const fill = (text: string, values: Record<string, string | number>) =>
  text.replace(/\{(\w+)\}/g, (_, key: string) => String(values[key] ?? ''));

/** A recall on paper: scope, figures, what is here, whom to tell, and what is missing. */
export async function recallReport(
  recall: RecallRecord,
  { name: workshop, massSystem }: Pick<WorkshopSettings, 'name' | 'massSystem'>,
  language: NoteLanguage,
  timeZone: string,
): Promise<Uint8Array> {
  const w = WORDS[language];
  const { figures: f } = recall;
  const {
    print: { endOnPaper, materialOnPaper, paperDay, Sheet },
    type,
  } = await press();
  const day = (at: string) => paperDay(at, language, timeZone);
  const percent = (share: number) => `${writeNumber(share * 100, 1, language)} %`;
  const mass = (mg: number) => formatMass(Math.round(mg), massSystem, language);
  const title = `${recall.isPractice ? w.practice : w.earnest} ${recall.number}`;
  const sheet = await Sheet.begin(type, title);
  const head = (text: string) => {
    sheet.room(24);
    sheet.space(5);
    sheet.text(text, { sizePt: 12, bold: true });
  };
  const table = (parts: readonly number[], rows: readonly (readonly string[])[]) =>
    rows.forEach((cells, k) =>
      sheet.row(
        cells.map((text, i) => ({ text, part: parts[i]!, bold: k === 0 })),
        { sizePt: 9 },
      ),
    );
  sheet.text(workshop, { sizePt: 10.5, ink: 'grey' });
  sheet.text(title, { sizePt: 20, bold: true });
  sheet.text(`${w.of} ${recall.name}`, { sizePt: 13, bold: true });
  sheet.text(
    `${day(recall.at)}, ${recall.by}, ${fill(w.took, { s: writeNumber(recall.tookMs / 1000, 2, language) })}`,
    { sizePt: 9.5, ink: 'grey' },
  );
  sheet.text(`${w.why}: ${recall.reason}`);
  sheet.space(3);
  if (f.barsKnown !== null)
    sheet.text(
      fill(w.accounted, {
        n: f.bars.made - Math.max(0, f.bars.missing),
        of: f.bars.made,
        share: percent(f.barsKnown),
      }),
      { sizePt: 12, bold: true },
    );
  sheet.text(fill(w.mass, { share: percent(f.massKnown) }));
  sheet.text(fill(w.given, { n: f.bars.given + f.bars.broken }));
  sheet.text(`${w.batches}: ${f.batches.map((b) => b.code).join(', ') || w.none}`);
  head(`${w.here}${recall.setAside ? ` (${w.aside})` : ''}`);
  if (f.here.length === 0) sheet.text(w.none);
  else
    table(
      [4, 6, 2, 3],
      [
        [w.place, w.what, w.amount, w.weight],
        ...f.here.map((h) => [
          h.place || w.noPlace,
          [
            h.batchCode ?? h.lotCode ?? '',
            materialOnPaper(h.material, language),
            h.label === h.material ? '' : h.label,
          ]
            .filter(Boolean)
            .join(' · '),
          h.count === null ? '' : String(h.count),
          mass(h.massMg),
        ]),
      ],
    );
  head(w.tell);
  if (f.customers.length === 0) sheet.text(w.none);
  else
    table(
      [5, 6, 2, 3],
      [
        ['', w.days, w.amount, w.weight],
        ...f.customers.map((c) => [
          c.name,
          [...new Set(c.lines.map((l) => `${day(l.at)} (${l.batchCode ?? ''})`))].join(', '),
          String(c.count || ''),
          mass(c.massMg),
        ]),
      ],
    );
  if (f.nameless.length > 0) {
    head(w.nameless);
    table(
      [8, 3, 3],
      [
        ['', w.amount, w.weight],
        ...f.nameless.map((n) => [
          endOnPaper(n.destination, language),
          String(n.count || ''),
          mass(n.massMg),
        ]),
      ],
    );
  }
  head(w.missing);
  if (f.missing.length === 0) sheet.text(w.none);
  else
    table(
      [4, 5, 2, 3],
      [
        [w.batches, w.why, w.amount, w.weight],
        ...f.missing.map((m) => [
          m.batchCode ?? '',
          endOnPaper(m.reason, language),
          m.count === null ? '' : String(m.count),
          mass(m.contentMg),
        ]),
      ],
    );
  return sheet.save();
}
