import Papa from 'papaparse';
import type { SessionResults } from '@wunsch/contract';
import { marksOf } from '@wunsch/core/taste';

/** Columns of the scores: one line a mark, so that any statistics program reads them as they are. */
const COLUMNS = [
  'session',
  'round',
  'place',
  'code',
  'sample',
  'batch',
  'assessor',
  'impression',
  'from_paper',
  'at',
  'attribute',
  'value',
] as const;

/** An opened session as CSV: a line a mark; notes of the strip as `note` lines with from–to seconds and strength in the value. */
export function scoresCsv({ session, cards }: SessionResults): string {
  const sample = new Map(session.samples.map((s) => [s.id, s]));
  const rows = cards.flatMap((c) => {
    const of = sample.get(c.sampleId);
    const line = (attribute: string, value: string | number) => [
      session.number,
      c.round,
      c.place,
      c.code,
      of?.label ?? '',
      of?.batchId ?? '',
      c.name,
      c.nth,
      c.fromPaper ? 'yes' : 'no',
      c.at,
      attribute,
      value,
    ];
    if (c.card.form === 'choice') return [line('right', c.right ? 1 : 0)];
    const marks = Object.entries(marksOf(c.card)).map(([name, mark]) => line(name, mark));
    const notes =
      c.card.form === 'full'
        ? c.card.strip.map((s) => line(`note ${s.note}`, `${s.from}-${s.to} ${s.strength}`))
        : [];
    const words = c.card.words ? [line('words', c.card.words)] : [];
    return [...marks, ...notes, ...words];
  });
  // A cell that a spreadsheet would take for a formula is marked as text.
  return Papa.unparse({ fields: [...COLUMNS], data: rows }, { escapeFormulae: true }) + '\r\n';
}
