import type { files as en } from '../en/files.ts';

/** Wörter von dem, was als Datei mitgenommen werden kann. */
export const files: Record<keyof typeof en, string> = {
  files: 'Dateien',
  'files.tables': 'Ganze Tabellen',
  'files.text':
    'Jede Tabelle als CSV, das jede Tabellenkalkulation und jedes Statistikprogramm liest: eine Zeile ein Ding, Einheiten im Kopf. Was noch verdeckt ist, ist nicht dabei.',
  'files.lots': 'Partien',
  'files.batches': 'Chargen',
  'files.steps': 'Schritte',
  'files.movements': 'Wägungen',
  'files.stock': 'Posten, vorhandene und verbrauchte',
  'files.deliveries': 'Lieferungen',
  'files.supplies': 'Zutaten und Verpackung, Wareneingang',
  'files.observations': 'Notizen, Prüfungen und Messungen von Hand',
  'files.tastings': 'Verkostungen',
  'files.cases': 'Fehler und Reklamationen',
  'files.plots': 'Anbauflächen aller Partien, GeoJSON',
  'files.trail': 'Verlauf',
  'files.makers': 'Ganze Tabellen nehmen Inhaber und Macher mit.',
};
