import type { sort as en } from '../en/sort.ts';

/** Words of sorting, in German. */
export const sort: Record<keyof typeof en, string> = {
  'sort.begin': 'Auslesen beginnen',
  'sort.begin.text':
    'Wiege Bohnen ein. Die Uhr läuft ab dem ersten Gewicht; Ausschuss wird nach Grund notiert, die ausgelesenen Bohnen werden ausgewogen.',
  'sort.in': 'Bohnen einwiegen',
  'sort.in.mass': 'Bohnen hinein',
  'sort.out': 'Ausgelesene wiegen',
  'sort.rejects': 'Ausschuss',
  'sort.rejects.hint': 'Grund antippen, Gewicht eingeben',
  'sort.rejected': 'Aussortiert',
  'sort.clock': 'Dieser Durchgang',
  'sort.pace': 'Tempo',
  'sort.cost': 'Ausschuss kostet',
  'sort.close': 'Auslesen beenden',
};
